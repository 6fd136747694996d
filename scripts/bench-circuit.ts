// The solver against a general-purpose ODE package given the same Marx shot with its derivative by hand: part of npm run bench.
import { simulateCircuit } from '../core/circuit/index.ts';
import { marx } from '../core/test/circuits.ts';

interface Integrator {
  absoluteTolerance: number;
  relativeTolerance: number;
  maxSteps: number;
  solve(f: (t: number, y: number[]) => number[], from: number, y0: number[], to: number): { y: number[] };
}
// By a name that the type checker does not follow: the package's own sources do not hold under this project's strictness.
const { Solver } = (await import(['odex'].join(''))) as { Solver: new (dimension: number) => Integrator };

const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

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

export function benchCircuit(): string[] {
  const until = 5e-6;
  const shot = (N: number) => {
    const { traces, steps, closure } = simulateCircuit(marx(N), {
      until,
      tolerance: 1e-3,
      maxStep: until / 50,
      probes: [{ of: 'voltage', element: 'CL' }],
    });
    let peak = 0;
    for (const value of traces[0]?.y ?? []) peak = Math.max(peak, value);
    return { peak, steps, closure };
  };
  const timed = (run: () => void): number => {
    const started = performance.now();
    run();
    return performance.now() - started;
  };
  shot(10);
  const own: number[] = [];
  const hundred: number[] = [];
  const peer: number[] = [];
  let peerPeak = 0;
  for (let i = 0; i < 7; i++) {
    own.push(timed(() => shot(10)));
    if (i < 3) peer.push(timed(() => (peerPeak = byHand(10, until))));
    hundred.push(timed(() => shot(100)));
  }
  const { peak, closure } = shot(10);
  const off = (value: number, N: number) => `${(100 * Math.abs(value / 1000 / (answers[N] ?? NaN) - 1)).toFixed(3)} %`;
  return [
    'The solver, a Marx shot of 10 stages over 5 µs, set-up included',
    `  ${(median(peer) / median(own)).toFixed(0)} times as fast as odex; peak off by ${off(peak, 10)} (odex ${off(peerPeak, 10)}), energy closes to ${closure.toExponential(1)}`,
    `  100 stages take ${(median(hundred) / median(own)).toFixed(1)} times as long as 10, peak off by ${off(shot(100).peak, 100)}`,
  ];
}
