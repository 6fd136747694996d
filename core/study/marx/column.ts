import type { CircuitRun, Element, Netlist } from '../../circuit/index.ts';
import { RigReading } from '../../figure/index.ts';
import type { Rig } from '../../rig/index.ts';
import { nameIn, nodeIn, rigCircuit, type RigCircuit } from '../../simulate/index.ts';

type SparkGap = Extract<Element, { kind: 'gap' }>;
type Capacitor = Extract<Element, { kind: 'capacitor' }>;

/** Time that a gap may take after the one before it, s. */
const forOneGap = 200e-9;

interface Stage {
  readonly tower: number;
  readonly stage: number;
  readonly gap: SparkGap;
  readonly capacitor: Capacitor;
  readonly top: string;
}

export interface Column {
  readonly netlist: Netlist;
  readonly parts: RigCircuit['parts'];
  readonly stages: readonly Stage[];
  readonly until: number;
  /** s after which the load has taken what it takes. */
  readonly over: number;
  readonly charged: number;
  readonly setting: number;
}

/** The stages of a tower by the names that a Marx gives its elements. */
function stagesOf({ elements }: Netlist, n: number, channel: number): Stage[] {
  const byName = new Map(elements.map((e) => [e.name, e]));
  const named = (name: string) => byName.get(nameIn(name, channel));
  return Array.from({ length: n }, (_, i): Stage => {
    const stage = i + 1;
    const gap = named(stage === 1 ? 'Ssw' : `Sst${stage}`);
    const capacitor = named(stage === n ? 'Cst' : `Cst${stage}`);
    if (gap?.kind !== 'gap' || capacitor?.kind !== 'capacitor')
      throw new Error(`stage ${stage} of the Marx generator has no gap or no capacitor`);
    return { tower: channel + 1, stage, gap, capacitor, top: nodeIn(`T${stage}`, channel) };
  });
}

/** The column of the rig, with what matters only long after it has erected left as it is. */
export function columnOf(rig: Rig): Column {
  const reading = new RigReading(rig);
  const { netlist, parts } = rigCircuit(rig, 'Marx', { of: 'discharge', charger: false, cycles: false });
  const made = { ...netlist, elements: netlist.elements.map((e) => asFired(e, reading.offer('chargedTo').value)) };
  const n = reading.own('store').quantity('n').value;
  // An arc takes some tens of nanoseconds to pull its stage up: what has not fired by then does not.
  const until = forOneGap * (2 + n);
  const [R, L, C] = (['loop-resistance', 'loop-inductance', 'loop-capacitance'] as const).map(
    (id) => reading.figure(id).value,
  ) as [number, number, number];
  return {
    netlist: made,
    parts,
    stages: reading.inSeries().flatMap((_, channel) => stagesOf(made, n, channel)),
    until,
    over: Math.min(until + 6 * R * C + (12 * L) / Math.max(R, 1e-3), 200 * until),
    charged: reading.offer('chargedTo').value,
    setting: reading.figure('stage-self-break').value,
  };
}

/** Inductance of a part a few centimetres long, H: common practice, no source. */
const ofPart = 2e-8;

/** A contact or a thyristor in the place of the first gap, as a gap that is fired at once. */
function asFired(element: Element, V: number): Element {
  if (element.kind !== 'switch' && element.kind !== 'thyristor') return element;
  const { nodes, Ron, name } = element;
  const arc = { law: 'fixed', R: Ron } as const;
  return { kind: 'gap', name: `S${name.slice(1)}`, nodes, breakdown: V, arc, L: ofPart, fireAt: 0 };
}

export const isFired = (gap: SparkGap): boolean => gap.fireAt !== undefined;

/**
 * The column with its gaps set. Their arcs are those of every other page; one that is set to another voltage is as much longer.
 *
 * @param breakdown V, by name, of the gaps behind the first
 */
export const withGaps = ({ netlist, stages }: Column, breakdown: (name: string, own: number) => number): Netlist => {
  const ours = new Set(stages.map(({ gap }) => gap.name));
  return {
    ...netlist,
    elements: netlist.elements.map((e) => {
      if (e.kind !== 'gap' || !ours.has(e.name) || isFired(e)) return e;
      const V = breakdown(e.name, e.breakdown);
      const arc = e.arc.law === 'fixed' ? e.arc : { ...e.arc, d: (e.arc.d * V) / e.breakdown };
      return { ...e, arc, breakdown: V };
    }),
  };
};

/** When each gap fired, s. */
export const firings = (run: CircuitRun): Map<string, number> =>
  new Map(run.events.filter((e) => e.what === 'on').map((e) => [e.element, e.t]));
