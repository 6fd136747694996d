// npm run bench [-- composer circuit launch shelf requests watch study queue spice page]: ratios within one run, not times to be compared between machines.
import { compose, type Piece } from '../core/part/index.ts';
import { benchPage } from './bench-page.ts';
import { benchCircuit } from './bench-circuit.ts';
import { benchLaunch } from './bench-launch.ts';
import { benchQueue } from './bench-queue.ts';
import { benchRequests } from './bench-requests.ts';
import { benchShelf } from './bench-shelf.ts';
import { benchSpice } from './bench-spice.ts';
import { benchStudy } from './bench-study.ts';
import { benchWatch } from './bench-watch.ts';
import { median } from './bench-tools.ts';

const random = (seed: number) => () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};

/** Sixty capacitors, measured up to a third off their label, every fifth of a lower rating. */
function box(seed: number): Piece[] {
  const next = random(seed);
  return Array.from({ length: 60 }, (_, i) => ({
    id: `c${i + 1}`,
    capacitance: 1e-3 * (0.67 + 0.7 * next()),
    uncertainty: 0.01,
    rating: i % 5 === 4 ? 400 : 450,
  }));
}

const percent = (ratio: number): string => `${((ratio - 1) * 100).toFixed(2)} %`;

/** The composer against simpler ways to deal capacitors into groups. */
function benchComposer(): Promise<string[]> {
  const boxes = Array.from({ length: 15 }, (_, i) => box(i + 1));
  const runs = boxes.map((pieces) => {
    const started = performance.now();
    const { bank, baselines } = compose(pieces, 6, 10);
    return {
      seconds: (performance.now() - started) / 1000,
      overSnake: bank.usableVoltage / baselines.snake,
      overRandom: bank.usableVoltage / baselines.random,
    };
  });
  const worst = (key: 'overSnake' | 'overRandom') => Math.min(...runs.map((r) => r[key]));
  return Promise.resolve([
    'Composer, 60 capacitors in 6 groups, 15 boxes: usable voltage gained',
    `  over the sorted deal: median ${percent(median(runs.map((r) => r.overSnake)))}, least ${percent(worst('overSnake'))}`,
    `  over the best of 1000 at random: median ${percent(median(runs.map((r) => r.overRandom)))}, least ${percent(worst('overRandom'))}`,
    `  one composition, as a share of the second it may take: median ${median(runs.map((r) => r.seconds)).toFixed(2)}, most ${Math.max(...runs.map((r) => r.seconds)).toFixed(2)}`,
    '',
  ]);
}

const benches: Readonly<Record<string, () => Promise<string[]>>> = {
  composer: benchComposer,
  circuit: benchCircuit,
  launch: benchLaunch,
  shelf: benchShelf,
  requests: benchRequests,
  watch: benchWatch,
  study: benchStudy,
  queue: benchQueue,
  spice: benchSpice,
  page: benchPage,
};
const chosen = process.argv.slice(2);
const unknown = chosen.find((name) => !(name in benches));
if (unknown !== undefined) {
  process.stderr.write(`bench: there is no ${unknown}; there are ${Object.keys(benches).join(', ')}\n`);
  process.exit(2);
}
for (const [name, bench] of Object.entries(benches))
  if (chosen.length === 0 || chosen.includes(name)) process.stdout.write(`${(await bench()).join('\n')}\n`);
