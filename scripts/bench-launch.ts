// Launches: the integrator against a general-purpose ODE package, the field model against a given curve, the search: part of npm run bench.
import { layersInductance, type Layer } from '../core/model/index.ts';
import { ferromagnetic, launch, type LaunchSpec } from '../core/model/launch/index.ts';
import { uniforms } from '../core/numeric/index.ts';
import { findLaunch, asTheRig, launchFinder, type LaunchFinder } from '../core/study/index.ts';
import { given } from '../core/test/launch.ts';
import { demoRig } from '../core/test/rigs.ts';
import { inTurns, oneAndTwo, Solver } from './bench-tools.ts';

/** Speed at the exit of one stage with a given curve of inductance, m/s, by an independent integration. */
const answer = 26.7714;
const until = 20e-3;

const circuit = { C: 2.2e-3, V0: 400, R: 0.12, Vt: 0, freewheel: { Vf: 0, R: 0.01 }, fire: { by: 'time', t: 0 } } as const;
const problem: LaunchSpec = { stages: [circuit], armature: given, mass: 0.02, x0: -22e-3, v0: 0, friction: 0 };

/** As tight as a speed within 1e-5 takes. */
const own = () => launch(problem, { until, tolerance: 3e-5 }).v.at(-1) ?? NaN;

/** What changes in a second; `wheels` says whether the freewheel has taken over. */
const slope =
  (wheels: (V: number) => boolean) =>
  (_t: number, [x = 0, v = 0, i = 0, V = 0]: number[]): number[] => {
    const bump = 60e-6 * Math.exp(-((x / 0.02) ** 2));
    const dL = (-2 * x * bump) / 0.02 ** 2;
    const wheel = wheels(V);
    const R = wheel ? 0.13 : 0.12;
    const F = 900 * Math.tanh((i * i * dL) / 1800);
    return [v, F / 0.02, ((wheel ? 0 : V) - R * i - i * v * dL) / (80e-6 + bump), wheel ? 0 : -i / 2.2e-3];
  };

function solve(f: (t: number, y: number[]) => number[], y: number[], from: number, to: number, tolerance: number): number[] {
  const solver = new Solver(4);
  solver.relativeTolerance = tolerance;
  solver.absoluteTolerance = tolerance;
  solver.maxSteps = 1e6;
  return [...solver.solve((s, z) => f(s, z).map((d) => d * (to - from)), 0, y, 1).y];
}
const start = [-22e-3, 0, 0, 400];

/** The same by the ODE package, the freewheel taking over where the store is empty. */
const byPackage = (tolerance: number): number =>
  solve(
    slope((V) => V <= 0),
    start,
    0,
    until,
    tolerance,
  )[1] ?? NaN;

/** The same once more, where the package is told beforehand when that is: it has no search for it to pay for. */
function byPackageTold(tolerance: number, turns: number): number {
  const empty = solve(
    slope(() => false),
    start,
    0,
    turns,
    tolerance,
  );
  return (
    solve(
      slope(() => true),
      empty,
      turns,
      until,
      tolerance,
    )[1] ?? NaN
  );
}

/** The loosest tolerance, by halves of a decade, with which a speed is within 1e-5. */
function loosest(speed: (tolerance: number) => number): number {
  for (let k = 4; k <= 22; k++) if (Math.abs(speed(10 ** (-k / 2)) / answer - 1) < 1e-5) return 10 ** (-k / 2);
  return 1e-11;
}

/** One coil and slug whose force is found from their fields. */
function fieldShot(): LaunchSpec {
  const layers = Array.from({ length: 3 }, (_, i): Layer => ({
    radius: 9e-3 + i * 1.5e-3,
    turns: 18,
    first: -12.75e-3,
    pitch: 1.5e-3,
  }));
  const coil = { layers, at: 0, L: layersInductance(layers, 0.7e-3) };
  const armature = ferromagnetic({ diameter: 15e-3, length: 28e-3, saturation: 1.6e6, susceptibility: 400 }, [coil]);
  return { ...problem, armature, mass: 0.038 };
}

export function finderOfShuttle(): LaunchFinder {
  const finder = launchFinder({
    rig: demoRig('shuttle'),
    goal: { of: 'speed' },
    limits: { peakCurrent: 3600, warmer: 60, layerVoltage: null, wire: null, outer: null, gap: 5e-3, energy: null },
    freedom: asTheRig,
  });
  if (!finder) throw new Error('Shuttle has no coilgun stage');
  return finder;
}

/** Points anywhere within the bounds of a finder. */
export function somePoints({ variables }: LaunchFinder, count: number): number[][] {
  const next = uniforms(5);
  return Array.from({ length: count }, () =>
    variables.map(({ low, high, whole }) => {
      const x = low + (high - low) * next();
      return whole ? Math.round(x) : x;
    }),
  );
}

/** The best of a grid of three steps in each variable, in the middle of thirds: as many launches as the search may have. */
function bestOfGrid(finder: LaunchFinder): { score: number; launches: number } {
  const { variables } = finder;
  const launches = 3 ** variables.length;
  let score = -Infinity;
  for (let k = 0; k < launches; k++) {
    const point = variables.map(({ low, high, whole }, i) => {
      const x = low + ((high - low) * ((Math.floor(k / 3 ** i) % 3) + 0.5)) / 3;
      return whole ? Math.round(x) : x;
    });
    score = Math.max(score, finder.evaluate(point).score);
  }
  return { score, launches };
}

export async function benchLaunch(): Promise<string[]> {
  // When the store is empty, to the last digits: what the package is told.
  const exact = launch(problem, { until, tolerance: 1e-11 });
  const turns = exact.events.find((e) => e.what === 'freewheels')?.t ?? NaN;
  const tolerance = loosest(byPackage);
  const toldTolerance = loosest((wanted) => byPackageTold(wanted, turns));
  const field = fieldShot();
  const many = 40;
  const times = (run: () => unknown) => () => {
    for (let i = 0; i < many; i++) run();
  };
  const [mine = NaN, peer = NaN, told = NaN, model = NaN] = inTurns(
    9,
    times(own),
    times(() => byPackage(tolerance)),
    times(() => byPackageTold(toldTolerance, turns)),
    times(() => launch(field, { until, tolerance: 3e-5 })),
  );
  const off = (v: number) => Math.abs(v / answer - 1).toExponential(1);
  // Each worker has its points in the same order: over whole rounds of them both have the same to do.
  const shots = 768;
  const { one, gain } = await oneAndTwo('./bench-launch-worker.ts', shots);
  const finder = finderOfShuttle();
  const grid = bestOfGrid(finder);
  const found = await Promise.all(
    [1, 2, 3].map((seed) =>
      findLaunch(finder, { seed, evaluations: grid.launches }, (points) => Promise.resolve(points.map(finder.evaluate))),
    ),
  );
  const scores = found.map(({ score }) => score);
  const now = finder.evaluate(finder.from).score;
  return [
    'Launches (medians of runs in turns)',
    `  one stage with a given curve: ${(peer / mine).toFixed(1)} times as fast as odex (wanted 4), ${(told / mine).toFixed(1)} times where odex is told when the freewheel takes over; speed off by ${off(own())} (odex ${off(byPackage(tolerance))} at ${tolerance.toExponential(0)}, told ${off(byPackageTold(toldTolerance, turns))} at ${toldTolerance.toExponential(0)})`,
    `  with the field of coil and slug, its tables made: ${(model / mine).toFixed(2)} times as long (at most 2); ${((many / model) * 1000).toFixed(0)} shots a second`,
    `  a search of Shuttle, its tables made anew for each design: ${((shots / one) * 1000).toFixed(0)} launches a second on one worker, ${gain.toFixed(2)} times as many on two (at least 1.8)`,
    `  its best of ${grid.launches} launches by three seeds: ${scores.map((v) => v.toFixed(2)).join(', ')} m/s; a coarse grid of as many ${grid.score.toFixed(2)} m/s: the least is ${(Math.min(...scores) / grid.score).toFixed(3)} times that; the rig itself ${now.toFixed(2)} m/s`,
  ];
}
