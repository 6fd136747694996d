import { writeFileSync } from 'node:fs';
import Papa from 'papaparse';
import {
  CircuitError,
  decimated,
  readNetlist,
  simulateCircuit,
  type CircuitRun,
  type Netlist,
  type Probe,
} from '@vast-surge/core/circuit';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { parseQuantity, printQuantity, wordQuantityIssue } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import { rigDeck } from '@vast-surge/core/study';
import { UsageError } from './usage.ts';

export interface SimulateOptions {
  /** Left out: the time that the deck itself says in `.tran`. */
  readonly until?: string;
  readonly tolerance?: string;
  readonly seed?: string;
  readonly out?: string;
}

/** Points of a trace that is written: more than any plot shows, and every extreme is kept. */
const mostPoints = 20_000;

interface Column {
  readonly head: string;
  readonly probe: Probe;
}

/** Every node against earth, and the current of everything that has one of its own. */
function columnsOf({ elements }: Netlist): Column[] {
  const poles = elements.filter((e) => e.kind !== 'coupling');
  const nodes = [...new Set(poles.flatMap((e) => e.nodes))].filter((node) => node !== '0');
  return [
    ...nodes.map((node) => ({ head: `V(${node})`, probe: { of: 'nodes' as const, nodes: [node, '0'] as const } })),
    ...poles
      .filter((e) => ['inductor', 'diode', 'gap', 'switch', 'coil', 'thyristor'].includes(e.kind))
      .map((e) => ({ head: `I(${e.name})`, probe: { of: 'current' as const, element: e.name } })),
  ];
}

export interface Simulated {
  readonly netlist: Netlist;
  readonly columns: readonly Column[];
  readonly run: CircuitRun;
}

/** Reads and runs a netlist. @throws UsageError naming the line, the option or the parts */
export function simulateText(text: string, options: SimulateOptions): Simulated {
  const read = readNetlist(text);
  if (!read.ok)
    throw new UsageError(
      read.issues
        .slice(0, 20)
        .map((i) => `FILE.cir, line ${i.line}: ${i.reason}`)
        .join('\n'),
    );
  const quantity = (name: string, written: string, unit: 's' | '1'): number => {
    const parsed = parseQuantity(written, unit);
    if (parsed.ok) return parsed.quantity.value;
    throw new UsageError(`--${name} ${wordQuantityIssue(parsed.issue)}`);
  };
  const asked = options.until;
  const until =
    asked === undefined
      ? read.until
      : quantity('until', /[\d.]$/.test(asked) ? `${asked} s` : asked.replace(/([\d.]\s*[munpk])$/, '$1s'), 's');
  if (until === undefined)
    throw new UsageError('--until is missing, and the deck has no .tran: give a time to run, such as --until 5m');
  const tolerance = options.tolerance === undefined ? 1e-5 : quantity('tolerance', options.tolerance, '1');
  if (!(tolerance >= 1e-12 && tolerance <= 0.1)) throw new UsageError('--tolerance must be from 1e-12 to 0.1');
  const columns = columnsOf(read.netlist);
  try {
    const run = simulateCircuit(read.netlist, {
      until,
      tolerance,
      seed: options.seed === undefined ? 1 : quantity('seed', options.seed, '1'),
      probes: columns.map((c) => c.probe),
    });
    return { netlist: read.netlist, columns, run };
  } catch (error) {
    if (error instanceof CircuitError) throw new UsageError(error.message);
    throw error;
  }
}

/** The traces as CSV, SI units: at every time at which any of them has a point that is kept. */
function simulatedCsv({ columns, run }: Simulated): string {
  const [first] = run.traces;
  const all = first?.t ?? new Float64Array();
  const kept = new Set(run.traces.flatMap((trace) => [...decimated(trace, mostPoints / Math.max(1, columns.length)).t]));
  const rows = [...all.keys()]
    .filter((i) => kept.has(all[i] ?? NaN))
    .map((i) => [all[i], ...run.traces.map((trace) => trace.y[i])]);
  return `${Papa.unparse({ fields: ['t', ...columns.map((c) => c.head)], data: rows }, { newline: '\n' })}\n`;
}

export const simulatedJson = ({ netlist, columns, run }: Simulated) => ({
  title: netlist.title,
  outcome: run.outcome,
  until: run.t,
  steps: run.steps,
  rejected: run.rejected,
  factorisations: run.factorisations,
  closure: run.closure,
  energy: { ...run.energy, byElement: Object.fromEntries(run.energy.byElement) },
  events: run.events.slice(0, 1000),
  extremes: Object.fromEntries(
    columns.map(({ head }, i) => {
      const y = run.traces[i]?.y ?? new Float64Array();
      let [low, high] = [Infinity, -Infinity];
      for (const value of y) [low, high] = [Math.min(low, value), Math.max(high, value)];
      return [head, { low, high, end: y.at(-1) ?? null }];
    }),
  ),
});

export function simulatedText(made: Simulated): string {
  const { title, outcome, steps, rejected, factorisations, closure, energy, extremes, events } = simulatedJson(made);
  const joule = (value: number) => printQuantity(value, 'J');
  const unit = (head: string) => (head.startsWith('V') ? ('V' as const) : ('A' as const));
  return [
    `${title}: ${outcome === 'done' ? 'done' : outcome.replaceAll('_', ' ')} at ${printQuantity(made.run.t, 's')}; ${steps} steps, ${rejected} rejected, ${factorisations} factorisations`,
    `  stored ${joule(energy.before)}, supplied ${joule(energy.supplied)}, dissipated ${joule(energy.dissipated)}, left ${joule(energy.left)}; closes to ${closure.toExponential(1)}`,
    ...(events.length > 0
      ? [
          `  ${events.length} events, the first: ${events
            .slice(0, 6)
            .map((e) => `${e.element} ${e.what} at ${printQuantity(e.t, 's')}`)
            .join(', ')}`,
        ]
      : []),
    ...Object.entries(extremes).map(
      ([head, { low, high, end }]) =>
        `  ${head}: ${printQuantity(low, unit(head))} to ${printQuantity(high, unit(head))}, at the end ${end === null ? '?' : printQuantity(end, unit(head))}`,
    ),
  ].join('\n');
}

const scenes = ['charge', 'discharge', 'bleed', 'dump'] as const;

/** A rig as a netlist in one of its scenes. @throws UsageError naming the option, or what the rig lacks */
export function rigNetlist({ name, rig }: RigDocument, scene: string): string {
  const of = scenes.find((known) => known === scene);
  if (!of) throw new UsageError(`--scene is "${scene.slice(0, 40)}"; it must be one of ${scenes.join(', ')}`);
  const text = rigDeck(rig, name, of);
  if (text !== null) return text;
  const problem = evaluateRig(rig).problems.find((p) => p.severity === 'error');
  throw new UsageError(
    `RIG.json has no ${of} to simulate${problem ? `: ${problem.text}` : ': a value that it needs is missing'}`,
  );
}

/** @throws UsageError under the option's name where the file cannot be written */
export function writeText(option: string, path: string, text: string): void {
  try {
    writeFileSync(path, text);
  } catch (error) {
    throw new UsageError(`${option} ${path} cannot be written: ${error instanceof Error ? error.message : 'no reason given'}`);
  }
}

/** Writes the traces beside what is said. @throws UsageError where the file cannot be written */
export const writeTraces = (path: string, made: Simulated): void => writeText('--out', path, simulatedCsv(made));
