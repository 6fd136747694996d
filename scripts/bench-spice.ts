// The solver against ngspice, a general-purpose circuit simulator, on the decks that the program exports: part of npm run bench.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  netlistText,
  prepareCircuit,
  readNetlist,
  simulateCircuit,
  traceAt,
  type Netlist,
  type RunOptions,
  type Trace,
} from '../core/circuit/index.ts';
import { rigDeck } from '../core/study/index.ts';
import { marx } from '../core/test/circuits.ts';
import { hasNgspice } from '../core/test/ngspice.ts';
import { demoRig } from '../core/test/rigs.ts';
import { median } from './bench-tools.ts';

/** Largest distance to a tight run of the same program that either may have, as a share of the peak. */
const gate = 1e-3;

/** How a program runs a deck: its tolerance, and its longest step as a share of the run. */
interface Own {
  readonly tolerance: number;
  readonly step: number;
}
interface Theirs extends Own {
  readonly method: 'trap' | 'gear';
}
interface Chosen {
  readonly own: Own;
  readonly theirs: Theirs;
}

/** The fastest settings of each that keep to the gate, by deck, found beforehand by a search (SEARCH=1). */
const settings = new URL('./bench-spice.json', import.meta.url);
const known = (existsSync(settings) ? JSON.parse(readFileSync(settings, 'utf8')) : {}) as Record<string, Chosen>;

interface Deck {
  readonly name: string;
  readonly text: string;
  readonly netlist: Netlist;
  readonly until: number;
  /** Whose voltage is looked at: that of the load where it has a capacitor, else that of the store. */
  readonly node: string;
}

function deckOf(name: string, text: string): Deck {
  const read = readNetlist(text);
  if (!read.ok) throw new Error(`${name}: ${JSON.stringify(read.issues)}`);
  // Of a capacitor to earth: its voltage does not jump, so that an instant's doubt about a switch is no error of its own.
  const held = read.netlist.elements.flatMap((e) => (e.kind === 'capacitor' && e.nodes[1] === '0' ? [e.nodes[0]] : []));
  const node = ['out', 'bank', 'bankc'].find((one) => held.includes(one)) ?? held[0] ?? '0';
  return { name, text, netlist: read.netlist, until: read.until ?? NaN, node };
}

/** With names that say by their first letter what they are, as a deck has it. */
const lettered = (netlist: Netlist): Netlist => ({
  ...netlist,
  elements: netlist.elements.map((e) => (e.kind === 'capacitor' && !e.name.startsWith('C') ? { ...e, name: `C${e.name}` } : e)),
});

const decks = (): Deck[] => [
  ...(['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'] as const).flatMap((name) =>
    (['charge', 'discharge', 'bleed'] as const).map((of) => deckOf(`${name} ${of}`, rigDeck(demoRig(name), name, of) ?? '')),
  ),
  ...[10, 20, 50, 100].map((N) => deckOf(`marx of ${N}`, netlistText(lettered(marx(N)), { until: 5e-6 }))),
];

const peakOf = ({ y }: Trace): number => y.reduce((most, v) => Math.max(most, Math.abs(v)), 0);

/** Largest distance of a trace to another at its own points, as a share of the peak. */
const apart = (a: Trace, tight: Trace): number =>
  a.t.reduce((worst, t, i) => Math.max(worst, Math.abs((a.y[i] ?? NaN) - traceAt(tight, t))), 0) / peakOf(tight);

interface Ran {
  /** s of processor time of the analysis alone. */
  readonly seconds: number;
  readonly trace: Trace;
}

/** s for which a deck is run again and again, so that what is timed is no tick of a clock. */
const least = 0.3;

function runOwn({ netlist, until, node }: Deck, { tolerance, step }: Own, timed: boolean): Ran {
  const options: RunOptions = { until, tolerance, maxStep: until * step, probes: [{ of: 'nodes', nodes: [node, '0'] }] };
  const trace = simulateCircuit(netlist, options).traces[0] ?? { t: new Float64Array(), y: new Float64Array() };
  if (!timed) return { seconds: 0, trace };
  let [runs, spent] = [0, 0];
  while (spent < least) {
    // Put together beforehand, as ngspice's time is that of the analysis alone.
    const ready = Array.from({ length: 20 }, () => prepareCircuit(netlist, options));
    const before = process.cpuUsage();
    for (const one of ready) one.run();
    const { user, system } = process.cpuUsage(before);
    spent += (user + system) / 1e6;
    runs += ready.length;
  }
  return { seconds: spent / runs, trace };
}

function runTheirs({ text, until, node }: Deck, { method, tolerance, step }: Theirs, timed: boolean): Ran | null {
  const folder = mkdtempSync(join(tmpdir(), 'deck-'));
  try {
    const asked = text
      .replace(/^\.tran .*$/m, `.tran ${until / 1000} ${until} 0 ${until * step} uic`)
      .replace(/^\.options .*$/m, `.options method=${method} reltol=${tolerance} itl4=200`);
    const once = (runs: number): string => {
      const control = [
        '.control',
        `save v(${node})`,
        'let n=0',
        `repeat ${runs}`,
        'run',
        'end',
        'rusage totiter',
        'rusage trantime',
      ];
      const written = [...control, 'set wr_singlescale', `wrdata ${join(folder, 'out')} v(${node})`, 'quit', '.endc', '.end', ''];
      writeFileSync(join(folder, 'deck.cir'), asked.replace(/\.end\s*$/, written.join('\n')));
      return spawnSync('ngspice', ['-b', join(folder, 'deck.cir')], { encoding: 'utf8', timeout: 300_000, maxBuffer: 1e9 })
        .stdout;
    };
    const secondsIn = (stdout: string): number => Number(/^Transient analysis time = (\S+)/m.exec(stdout)?.[1] ?? NaN);
    const first = once(1);
    if (!existsSync(join(folder, 'out'))) return null;
    const rows = readFileSync(join(folder, 'out'), 'utf8').trim().split('\n');
    const pairs = rows.map((row) => row.trim().split(/\s+/).map(Number));
    const trace = { t: Float64Array.from(pairs, ([t = NaN]) => t), y: Float64Array.from(pairs, ([, v = NaN]) => v) };
    if (!((trace.t.at(-1) ?? 0) > 0.999 * until)) return null;
    if (!timed) return { seconds: secondsIn(first), trace };
    const runs = Math.max(1, Math.min(200, Math.ceil(least / Math.max(secondsIn(first), 1e-3))));
    return { seconds: secondsIn(once(runs)) / runs, trace };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const tightOwn: Own = { tolerance: 1e-7, step: 1 / 2000 };
/** Settings of a tight run, the first that runs to its end: at many it finds a step too small at some switch. */
const tightTheirs: readonly Theirs[] = [1 / 100_000, 1 / 70_000, 1 / 50_000, 1 / 30_000].flatMap((step) =>
  [1e-6, 1e-5].flatMap((tolerance) => (['gear', 'trap'] as const).map((method) => ({ method, tolerance, step }))),
);
const shares = [1 / 20, 1 / 50, 1 / 100, 1 / 200, 1 / 500, 1 / 1000, 1 / 2000, 1 / 5000, 1 / 10_000, 1 / 20_000, 1 / 50_000];

/** The fastest of some settings whose trace keeps to the gate. */
function fastest<S extends Own>(
  candidates: readonly (readonly S[])[],
  run: (s: S, timed: boolean) => Ran | null,
  tight: Trace,
): S | null {
  let best: { readonly setting: S; readonly seconds: number } | null = null;
  // In each row the later are slower: the first that keeps to the gate is its fastest.
  for (const row of candidates)
    for (const setting of row) {
      const ran = run(setting, false);
      if (best && ran && ran.seconds > best.seconds) break;
      if (!ran || !(apart(ran.trace, tight) <= gate)) continue;
      const seconds = run(setting, true)?.seconds ?? Infinity;
      if (!best || seconds < best.seconds) best = { setting, seconds };
      break;
    }
  return best?.setting ?? null;
}

function search(deck: Deck): Chosen | null {
  const own = fastest(
    [0.3, 0.1, 0.03, 0.01, 3e-3, 1e-3, 3e-4, 1e-4].map((tolerance) =>
      [1 / 2, 1 / 4, 1 / 8, ...shares.slice(0, 6)].map((step) => ({ tolerance, step })),
    ),
    (s, timed) => runOwn(deck, s, timed),
    runOwn(deck, tightOwn, false).trace,
  );
  let tight: Ran | null = null;
  for (const s of tightTheirs) tight ??= runTheirs(deck, s, false);
  if (!own || !tight) return null;
  const theirs = fastest(
    (['trap', 'gear'] as const).flatMap((method) =>
      [1e-1, 1e-2, 1e-3, 1e-4].map((tolerance) => shares.map((step) => ({ method, tolerance, step }))),
    ),
    (s, timed) => runTheirs(deck, s, timed),
    tight.trace,
  );
  return theirs && { own, theirs };
}

/** The solver against ngspice: processor time of the analysis, each as its fastest that keeps within 0.1 % of the peak. */
export function benchSpice(): Promise<string[]> {
  if (!hasNgspice()) return Promise.resolve(['The solver against ngspice: left out, ngspice is not installed', '']);
  const all = decks();
  if (process.env['SEARCH']) {
    for (const deck of all) {
      const chosen = search(deck);
      if (chosen) known[deck.name] = chosen;
      else console.error(`${deck.name}: no settings keep to the gate`);
      console.error(deck.name, JSON.stringify(chosen));
    }
    writeFileSync(settings, `${JSON.stringify(known, null, 2)}\n`);
  }
  const rows = all.flatMap((deck) => {
    const chosen = known[deck.name];
    if (!chosen) return [];
    const [ours, theirs] = [runOwn(deck, chosen.own, true), runTheirs(deck, chosen.theirs, true)];
    if (!theirs) return [];
    return [{ deck, chosen, ours, theirs, ratio: theirs.seconds / ours.seconds }];
  });
  const ratios = rows.map(({ ratio }) => ratio);
  return Promise.resolve([
    `The solver against ngspice, analysis time at 0.1 % of the peak (wanted 20 times): median ${median([...ratios]).toFixed(0)}, least ${Math.min(...ratios).toFixed(1)} times as fast`,
    ...rows.map(
      ({ deck, ours, theirs, ratio, chosen }) =>
        `  ${deck.name.padEnd(20)} ${ratio.toFixed(1).padStart(7)} times; ${(ours.seconds * 1e3).toFixed(2)} ms against ${(theirs.seconds * 1e3).toFixed(1)} ms (${chosen.theirs.method}, reltol ${chosen.theirs.tolerance}, longest step 1/${Math.round(1 / chosen.theirs.step)})`,
    ),
    '',
  ]);
}
