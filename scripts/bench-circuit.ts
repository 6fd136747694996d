// The solver against a general-purpose ODE package given the same Marx shot with its derivative by hand: part of npm run bench.
import { simulateCircuit, traceAt, type CircuitRun, type Element, type Netlist } from '../core/circuit/index.ts';
import { evaluateRig } from '../core/evaluation/index.ts';
import { rlcSeries } from '../core/simulate/index.ts';
import { marx } from '../core/test/circuits.ts';
import { erectionShot, erectionStudy } from '../core/study/index.ts';
import { marxRig } from '../core/test/marx.ts';
import { demoRig } from '../core/test/rigs.ts';
import { inTurns, oneAndTwo, Solver } from './bench-tools.ts';

/** Peak load voltage of the shot, kV, by an independent integration. */
const answers: Readonly<Record<number, number>> = { 10: 90.706, 100: 163.916 };

/** The Marx of N stages as an ordinary differential equation: node voltages of tops and bases, gap currents, the output. */
function byHand(N: number, until: number): number {
  // Bases B2..BN have no capacitance to earth of their own: base k is top k less its capacitor's voltage.
  // States: Vc_k (N), Vs_k = top voltage (N), gap current i_k (N), VO, iO, VL. Gap k carries top k to base k+1.
  const at = { c: 0, s: N, i: 2 * N, o: 3 * N, l: 3 * N + 1, v: 3 * N + 2 };
  const closed = new Array<boolean>(N).fill(false);
  const slope = (_t: number, y: number[]): number[] => {
    const d = new Array<number>(3 * N + 3).fill(0);
    const top = (k: number) => y[at.s + k] ?? 0;
    const base = (k: number) => (k === 0 ? 0 : top(k) - (y[at.c + k] ?? 0));
    // Current into each top from resistors and out through its gap; what is left is shared by its two capacitors.
    for (let k = 0; k < N; k++) {
      let into = 0;
      if (k > 0) into += (top(k - 1) - top(k)) / 1e6;
      if (k < N - 1) into += (top(k + 1) - top(k)) / 1e6;
      into -= y[at.i + k] ?? 0;
      // Through the stage capacitor to its base: what leaves the base by resistors and comes in by the gap below.
      let leaves = 0;
      if (k > 0) {
        leaves += (base(k) - base(k - 1)) / 1e6 - (y[at.i + k - 1] ?? 0);
        if (k < N - 1) leaves += (base(k) - base(k + 1)) / 1e6;
      }
      if (k === 0) {
        // The base is earth: both capacitors lie from top to earth.
        const rate = into / (2e-9 + 8e-12);
        d[at.s] = rate;
        d[at.c] = rate;
      } else {
        d[at.c + k] = leaves / 2e-9;
        d[at.s + k] = (into - leaves) / 8e-12;
      }
    }
    const out = y[at.o] ?? 0;
    for (let k = 0; k < N; k++) {
      const across = top(k) - (k === N - 1 ? out : base(k + 1));
      if (closed[k]) d[at.i + k] = (across - (y[at.i + k] ?? 0)) / 80e-9;
    }
    d[at.o] = ((y[at.i + N - 1] ?? 0) - (y[at.l] ?? 0)) / 8e-12;
    d[at.l] = (out - 100 * (y[at.l] ?? 0) - (y[at.v] ?? 0)) / 1e-6;
    d[at.v] = ((y[at.l] ?? 0) - (y[at.v] ?? 0) / 5e3) / 300e-12;
    return d;
  };
  let y = [...new Array<number>(2 * N).fill(20e3), ...new Array<number>(N + 3).fill(0)];
  closed[0] = true;
  let [t, peak] = [0, 0];
  const across = (k: number) =>
    (y[at.s + k] ?? 0) - (k === N - 1 ? (y[at.o] ?? 0) : (y[at.s + k + 1] ?? 0) - (y[at.c + k + 1] ?? 0));
  // Short pieces until all gaps are closed, each closing at the end of its piece; longer ones behind.
  while (t < until) {
    const piece = closed.every(Boolean) ? 5e-9 : 0.02e-9;
    const next = Math.min(until, t + piece);
    const solver = new Solver(y.length);
    solver.absoluteTolerance = 1;
    solver.relativeTolerance = 1e-5;
    solver.maxSteps = 1e6;
    const scaled = (s: number, z: number[]) => slope(s, z).map((v) => v * (next - t));
    y = [...solver.solve(scaled, 0, y, 1).y];
    t = next;
    peak = Math.max(peak, y[at.v] ?? 0);
    for (let k = 0; k < N; k++) if (!closed[k] && Math.abs(across(k)) >= 22e3) closed[k] = true;
  }
  return peak;
}

const until = 5e-6;

/** The shot as the bench runs it: inside the gate of 0.5 % of the peak and the waveform, and 0.1 % of the energy. */
const shot = (N: number, tolerance = N > 50 ? 0.2 : 0.3, netlist: Netlist = marx(N), maxStep = until / 20) =>
  simulateCircuit(netlist, {
    until,
    tolerance,
    maxStep,
    probes: [{ of: 'voltage', element: 'CL' }],
  });
const peakOf = ({ traces }: CircuitRun): number => (traces[0]?.y ?? new Float64Array()).reduce((a, b) => Math.max(a, b), 0);

/** Largest difference of a trace of the load voltage from a much finer one, at its own points, as a fraction of the peak. */
function apart(a: CircuitRun, fine: CircuitRun): number {
  const [x, y] = [a.traces[0], fine.traces[0]];
  if (!x || !y) return NaN;
  return x.t.reduce((worst, t, i) => Math.max(worst, Math.abs((x.y[i] ?? NaN) - traceAt(y, t))), 0) / peakOf(fine);
}

/** A shot with values of its own, as a tolerance study has them. */
const varied = (N: number, k: number): Netlist => {
  const netlist = marx(N);
  return {
    ...netlist,
    elements: netlist.elements.map((e) =>
      e.kind === 'capacitor' ? { ...e, C: e.C * (1 + 0.01 * Math.sin(k + e.name.length)) } : e,
    ),
  };
};

/** Problem B, a bank into a resistor, 2,000 points of current: the closed form against the ODE package. */
function benchClosedForm(): string {
  const [R, L, C, V] = [0.05, 2e-6, 100e-6, 10e3];
  const end = 500e-6;
  const points = 2000;
  let [closed, peer] = [0, 0];
  const own = () => {
    for (let k = 0; k < 20; k++) closed = rlcSeries(R, L, C, V, end / points, points)[600] ?? 0;
  };
  const other = () => {
    const solver = new Solver(2);
    solver.absoluteTolerance = 1e-3;
    solver.relativeTolerance = 1e-8;
    let y = [V, 0];
    const slope = (_t: number, [v = 0, i = 0]: number[]) => [-i / C, (v - R * i) / L];
    for (let k = 1; k <= points; k++) {
      y = [...solver.solve(slope, ((k - 1) * end) / points, y, (k * end) / points).y];
      if (k === 600) peer = y[1] ?? 0;
    }
  };
  const [mine = NaN, theirs = NaN] = inTurns(7, own, other);
  return `  closed form of a bank into a resistor, 2,000 points: ${((theirs * 20) / mine).toFixed(0)} times as fast as odex (wanted 120); the two differ by ${Math.abs(closed / peer - 1).toExponential(1)}`;
}

/** A whole evaluation of each demo rig, and of one behind a doubler. */
function benchEvaluation(): string {
  const rigs = [demoRig('anvil'), demoRig('thimble')];
  const [once = NaN] = inTurns(15, () => {
    for (const rig of rigs) evaluateRig({ ...rig });
  });
  const heap = process.memoryUsage();
  return `  one full evaluation of a rig (figures, limits, problems): ${(once / rigs.length).toFixed(1)} ms; memory of this process ${(heap.rss / 1e6).toFixed(0)} MB, of it heap ${(heap.heapUsed / 1e6).toFixed(0)} MB`;
}

/** Erection of a Marx: how it grows with its stages, and what a study takes a shot. */
function benchErection(): string {
  const of = (n: number, more: Readonly<Record<string, string>> = {}) =>
    marxRig({ 'store.n': String(n), 'store.Vg': '15 kV', 'store.Cs': '8 pF', ...more });
  const [ten, twenty, both] = [of(10), of(20), of(10, { 'store.towers': 'two', 'store.CL': '10 pF' })];
  const [a = NaN, b = NaN, c = NaN, study = NaN] = inTurns(
    5,
    () => erectionShot(ten),
    () => erectionShot(twenty),
    () => erectionShot(both),
    () => erectionStudy(ten, { shots: 4 }),
  );
  // Charge voltages between which a generator of two towers erects: 200 shots, each gap drawn anew.
  const seven = of(7, { 'store.towers': 'two', 'store.CL': '10 pF' });
  const began = performance.now();
  erectionStudy(seven, { shots: 200 });
  const window = (performance.now() - began) / 1000;
  return `  erection of 20 stages takes ${(b / a).toFixed(1)} times as long as of 10, of two towers of 10 ${(c / a).toFixed(1)} times; in a study one shot, with all that is asked to find its threshold, ${(study / 4 / a).toFixed(1)} times as long as the one that is drawn
  the window of an erection, 200 shots of two towers of seven: ${window.toFixed(1)} s on one core (wanted at most 3 s on two)`;
}

/** A network of N sections for 5 µs at 50 Ω, two cables of 50 Ω one behind the other between it and its load. */
function network(N: number): Netlist {
  const [C, L] = [50e-9 / N, 125e-6 / N];
  const node = (k: number) => (k === 0 ? 'p' : `n${k}`);
  const cable = (name: string, from: string, to: string, delay: number): Element[] => [
    { kind: 'line-end', name, nodes: [from, '0'], far: `${name}_far`, Z0: 50, delay },
    { kind: 'line-end', name: `${name}_far`, nodes: [to, '0'], far: name, Z0: 50, delay },
  ];
  return {
    title: `network of ${N} sections`,
    elements: [
      ...Array.from({ length: N }, (_, i): Element[] => [
        { kind: 'inductor', name: `L${i + 1}`, nodes: [node(i), node(i + 1)], L },
        { kind: 'capacitor', name: `C${i + 1}`, nodes: [node(i + 1), '0'], C, V0: 20e3 },
      ]).flat(),
      { kind: 'switch', name: 'S1', nodes: ['p', 'a'], Ron: 1e-3, control: { by: 'time', closeAt: 0 } },
      ...cable('T1', 'a', 'b', 100e-9),
      ...cable('T2', 'b', 'CLn', 60e-9),
      { kind: 'capacitor', name: 'CL', nodes: ['CLn', '0'], C: 50e-12 },
      { kind: 'resistor', name: 'RL', nodes: ['CLn', '0'], R: 50 },
    ],
  };
}

/** A network with cables against a Marx of as many stages, at the same tolerance. */
function benchLines(): string {
  const [sections, stages] = [network(20), marx(20)];
  const run = (netlist: Netlist) => shot(20, 0.01, netlist);
  const [lines = NaN, gaps = NaN] = inTurns(
    9,
    () => run(sections),
    () => run(stages),
  );
  const made = run(sections);
  return `  a network of 20 sections with two cables takes ${(lines / gaps).toFixed(1)} times as long as a Marx of 20 stages (at most 3); its energy closes to ${made.closure.toExponential(1)}, waveform within ${(100 * apart(made, shot(20, 1e-5, sections))).toFixed(2)} %`;
}

export async function benchCircuit(): Promise<string[]> {
  let peerPeak = 0;
  const [ten = NaN, peer = NaN, hundred = NaN, twoHundred = NaN] = inTurns(
    7,
    () => shot(10),
    () => (peerPeak = byHand(10, until)),
    () => shot(100),
    () => shot(200),
  );
  // Between its points straight lines are drawn: it has many.
  const reference = shot(10, 1e-7, marx(10), until / 20_000);
  const [coarse, fine] = [apart(shot(10, 1e-2), reference), apart(shot(10, 1e-3), reference)];
  const [coarseTime = NaN, fineTime = NaN] = inTurns(
    9,
    () => shot(10, 1e-2),
    () => shot(10, 1e-3),
  );
  // What ten times less error costs, from what the two tolerances gave.
  const perDecade = (fineTime / coarseTime) ** (1 / Math.max(0.1, Math.log10(coarse / fine)));
  let k = 0;
  const [same = NaN, other = NaN] = inTurns(
    15,
    () => shot(10),
    () => shot(10, 0.3, varied(10, k++)),
  );
  const { gain } = await oneAndTwo('./bench-circuit-worker.ts', 600);
  const off = (value: number, N: number) => `${(100 * Math.abs(value / 1000 / (answers[N] ?? NaN) - 1)).toFixed(3)} %`;
  const run = shot(10);
  return [
    'The solver, a Marx shot of N stages over 5 µs, set-up included (medians of runs in turns)',
    `  N = 10: ${(peer / ten).toFixed(0)} times as fast as odex (wanted 150); peak off by ${off(peakOf(run), 10)} (odex ${off(peerPeak, 10)}), waveform within ${(100 * apart(run, reference)).toFixed(2)} %, energy closes to ${run.closure.toExponential(1)}`,
    `  N = 100 takes ${(hundred / ten).toFixed(1)} times as long as N = 10 (at most 13 wanted), peak off by ${off(peakOf(shot(100)), 100)}, waveform within ${(100 * apart(shot(100), shot(100, 1e-5))).toFixed(2)} %; N = 200 ${(twoHundred / hundred).toFixed(1)} times as long as N = 100 (at most 2.8)`,
    `  ten times less error takes ${perDecade.toFixed(1)} times as long (at most 2.5)`,
    `  values varied at every shot: ${(other / same).toFixed(2)} times as long as the same shot repeated (at most 1.05); two workers ${gain.toFixed(2)} times as fast as one (at least 1.8)`,
    benchLines(),
    benchClosedForm(),
    benchEvaluation(),
    benchErection(),
  ];
}
