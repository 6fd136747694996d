import { slots, type PlacedPart, type Scene, type Slot, type Terminals } from '../block/index.ts';
import { CircuitError, netlistText, type CircuitIssue, type Element, type Netlist } from '../circuit/index.ts';
import { definitionIn, RigReading } from '../figure/index.ts';
import type { Rig } from '../rig/index.ts';
import { nodeIn, partsIn } from './channel-parts.ts';

/** Node names of a rig: output of the supply, terminal of the store, behind the switch, behind leads of their own. */
const nodes = { supply: 'sup', store: 'bank', load: 'out', behindLeads: 'far', return: 'ret' } as const;

/** Where each block is connected, and what the names of its elements end with. */
const terminals: { readonly [K in Slot]: Omit<Terminals, 'store'> } = {
  supply: { plus: nodes.supply, minus: '0', tag: 'sup' },
  charging: { plus: nodes.supply, minus: nodes.store, tag: 'ch' },
  store: { plus: nodes.store, minus: '0', tag: 'st' },
  switch: { plus: nodes.store, minus: nodes.load, tag: 'sw' },
  trigger: { plus: nodes.store, minus: '0', tag: 'tr' },
  crowbar: { plus: nodes.load, minus: '0', tag: 'cb' },
  leads: { plus: nodes.load, minus: nodes.behindLeads, tag: 'le' },
  load: { plus: nodes.load, minus: nodes.return, tag: 'ld' },
  monitor: { plus: nodes.return, minus: '0', tag: 'mon' },
  bleeder: { plus: nodes.store, minus: '0', tag: 'bl' },
  dump: { plus: nodes.store, minus: '0', tag: 'dump' },
  tool: { plus: nodes.store, minus: '0', tag: 'tool' },
  meter: { plus: nodes.store, minus: '0', tag: 'met' },
  guard: { plus: nodes.store, minus: '0', tag: 'gd' },
  air: { plus: nodes.store, minus: '0', tag: 'air' },
};

/** What stands in the circuit in each scene; the tool is in a person's hand, and of a trigger only the moment counts. */
export const inScene = (scene: Scene, slot: Slot): boolean => {
  switch (slot) {
    case 'supply':
    case 'charging':
      return scene.of === 'charge' || (scene.of === 'discharge' && scene.charger);
    case 'switch':
    case 'crowbar':
    case 'leads':
    case 'load':
    case 'monitor':
      return scene.of === 'discharge';
    case 'dump':
      return scene.of === 'dump';
    case 'tool':
    case 'trigger':
    case 'guard':
    case 'air':
      return false;
    // The bleeder is taken for open while the dump does its work.
    case 'bleeder':
      return scene.of !== 'dump';
    case 'store':
    case 'meter':
      return true;
    default:
      return slot satisfies never;
  }
};

/** Where a block is connected, for whoever takes it apart. */
export const terminalsOf = (slot: Slot): Terminals => ({ ...terminals[slot], store: nodes.store });

/** What each channel of a discharge in series has of its own. */
const inEachChannel: ReadonlySet<Slot> = new Set(['supply', 'charging', 'store', 'switch', 'bleeder', 'meter']);

/** The node to which the current comes back: earth, or the top of the last channel where several stand in series. */
export const returnNode = (reading: RigReading): string => {
  const last = reading.inSeries().length - 1;
  return last === 0 ? '0' : nodeIn(nodes.load, last);
};

export interface RigCircuit {
  readonly netlist: Netlist;
  readonly parts: readonly PlacedPart[];
  readonly scene: Scene;
}

/**
 * The circuit that a rig is in a scene. The blocks say what they become; here they are connected.
 *
 * @throws Unavailable, FormulaError where a value that the circuit needs is missing
 */
export function rigCircuit(rig: Rig, name: string, scene: Scene): RigCircuit {
  const reading = new RigReading(rig);
  const monitored = definitionIn(rig, 'monitor').circuit !== undefined;
  const back = returnNode(reading);
  const parts = slots
    .filter((slot) => inScene(scene, slot))
    .flatMap((slot) => {
      const elsewhere = slot === 'switch' ? definitionIn(rig, 'store').switchBetween?.(reading.ownOf('store')) : undefined;
      const led = slot === 'load' && definitionIn(rig, 'leads').circuit ? { plus: nodes.behindLeads } : {};
      const at = { ...terminals[slot], store: nodes.store, ...elsewhere, ...led };
      const last = monitored ? 'monitor' : 'load';
      const made = definitionIn(rig, slot).circuit?.(
        reading.ownOf(slot),
        reading,
        slot === last || slot === 'crowbar' ? { ...at, minus: back } : at,
        scene,
      );
      const parts = (made ?? []).map((part): PlacedPart => ({ ...part, slot }));
      return inEachChannel.has(slot) ? reading.inSeries().flatMap((_, channel) => partsIn(parts, channel)) : parts;
    });
  return { netlist: { title: `${name}: ${scene.of}`, elements: parts.map((part) => part.element) }, parts, scene };
}

const firedAtOnce = (gap: Extract<Element, { kind: 'gap' }>): Element => ({
  ...gap,
  fireAt: 0,
  arc: gap.arc.law === 'fixed' ? gap.arc : { law: 'fixed', R: gap.arc.Rmin + (gap.arc.series ?? 0) },
});

/** The same without what the closed forms leave out; `only` leaves out that one alone. */
export function idealised({ netlist, parts, scene }: RigCircuit, only?: string): RigCircuit {
  const kept = parts.flatMap((part): PlacedPart[] => {
    const { leftOut, element } = part;
    if (!leftOut || (only !== undefined && leftOut.what !== only)) return [part];
    if (leftOut.instead === 'at once' && element.kind === 'gap')
      return [{ element: firedAtOnce(element), says: part.says, slot: part.slot }];
    // Without any capacitance the voltage between two gaps would not be defined.
    if (leftOut.instead === 'next to none' && element.kind === 'capacitor')
      return [{ element: { ...element, C: element.C * 1e-2 }, says: part.says, slot: part.slot }];
    if (leftOut.instead === 'open' || element.kind === 'coupling') return [];
    return [
      { element: { kind: 'resistor', name: element.name, nodes: element.nodes, R: 1e-6 }, says: part.says, slot: part.slot },
    ];
  });
  return { netlist: { title: netlist.title, elements: kept.map((part) => part.element) }, parts: kept, scene };
}

/** What a circuit of a rig cannot be solved for, without the names and nodes that only a netlist has. */
const unsolved: Partial<Record<CircuitIssue['code'], string>> = {
  floating: 'nothing ties these to earth: their leakage or stray capacitance is missing',
  singular: 'the voltage between these is not determined',
  source_loop: 'these hold their voltages against each other without any resistance between them',
};

/** Runs something of a circuit of a rig; what cannot be solved is said in the words of its parts. @throws CircuitError */
export function inWordsOf<T>(parts: readonly Pick<PlacedPart, 'element' | 'says'>[], run: () => T): T {
  try {
    return run();
  } catch (error) {
    if (!(error instanceof CircuitError)) throw error;
    const says = new Map(parts.map(({ element, says: words }) => [element.name, words.replace(/,.*$/, '')]));
    const named = [...new Set(error.issue.parts.map((name) => says.get(name) ?? 'another part'))];
    throw new CircuitError({ ...error.issue, parts: named, reason: unsolved[error.issue.code] ?? error.issue.reason });
  }
}

/** The circuit as text with a comment above each element that says what it is. */
export const rigNetlistText = ({ netlist, parts }: RigCircuit, until: number): string => {
  const says = new Map(parts.map((part) => [part.element.name, part.says]));
  return netlistText(netlist, { until, comment: (element) => says.get(element.name) ?? null });
};
