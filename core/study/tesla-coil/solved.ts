import { definitionIn, RigReading } from '../../figure/index.ts';
import { simulateCircuit, traceAt, type Element } from '../../circuit/index.ts';
import type { Rig } from '../../rig/index.ts';
import { slots, Unavailable, type Terminals } from '../../block/index.ts';
import { pathOf } from './row.ts';

/** Breaks as the solver has them, beside the closed form. */
export interface SolvedBreaks {
  /** Hz from break to break in the end, A at the last break, V: the greatest at the top. */
  readonly rate: number;
  readonly atBreak: number;
  readonly top: number;
  /** The worst of the energy audits of its runs. */
  readonly closure: number;
  readonly breaks: number;
}

const nodes = { bank: 'bank', out: 'out' } as const;

/** Where each block of the tank stands. */
const places: Readonly<Partial<Record<string, Pick<Terminals, 'plus' | 'minus' | 'tag'>>>> = {
  store: { plus: nodes.bank, minus: '0', tag: 'st' },
  switch: { plus: nodes.bank, minus: nodes.out, tag: 'sw' },
  load: { plus: nodes.out, minus: '0', tag: 'ld' },
};

/** The tank with supply and charging path as one, as its blocks become it; the store with a voltage, the path with a current. */
function elementsAt(reading: RigReading, V: number, i: number): Element[] {
  const path = pathOf(reading);
  if (path.f > 0) throw new Unavailable('supply', 'the solver only follows breaks of a DC supply');
  const parts = slots.flatMap((slot) => {
    const at = places[slot];
    if (!at) return [];
    const made = definitionIn(reading.rig, slot).circuit?.(
      reading.ownOf(slot),
      reading,
      { ...at, store: nodes.bank },
      { of: 'discharge', charger: true, cycles: false },
    );
    return made ?? [];
  });
  const source: Element[] =
    path.L > 0
      ? [
          { kind: 'voltage-source', name: 'Vs', nodes: ['sup', '0'], wave: { kind: 'dc', value: path.Vs } },
          { kind: 'inductor', name: 'Lch', nodes: ['sup', nodes.bank], L: path.L, R: path.R, I0: i },
        ]
      : [
          { kind: 'voltage-source', name: 'Vs', nodes: ['sup', '0'], wave: { kind: 'dc', value: path.Vs } },
          { kind: 'resistor', name: 'Lch', nodes: ['sup', nodes.bank], R: path.R },
        ];
  return [
    ...source,
    ...parts.map(({ element }): Element => {
      if (element.kind === 'capacitor' && element.name === 'Cst') return { ...element, V0: V };
      // What flows in the choke flows on into the store, through its own inductance.
      if (element.kind === 'inductor' && element.name === 'Lst')
        return { ...element, I0: path.L > 0 ? i : (path.Vs - V) / path.R };
      if (element.kind !== 'gap') return element;
      const { fireAt: _fired, ...gap } = element;
      return gap;
    }),
  ];
}

/**
 * Break after break by the solver: each charge and its ring is a run of the circuit as the blocks become it, and what is left in choke and
 * tank when the gap has conducted for its time begins the next. That the gap opens then is the rule of thumb, here as in the closed form.
 *
 * @throws Unavailable, FormulaError, CircuitError where the tank is no circuit, or its gap does not fire
 */
export function solvedBreaks(rig: Rig, count = 10): SolvedBreaks {
  const reading = new RigReading(rig);
  const { td } = pathOf(reading);
  const expected = 1 / reading.figure('break-rate').value;
  let [V, i] = [0, 0];
  let [T, atBreak, top, closure, n] = [0, 0, 0, 0, 0];
  for (; n < count; n++) {
    const elements = elementsAt(reading, V, i);
    const hasTop = elements.some(({ name }) => name === 'Cld2');
    const gap = elements.find(({ kind }) => kind === 'gap')?.name;
    const run = simulateCircuit(
      { title: 'a break', elements },
      {
        until: 4 * expected + td,
        tolerance: 1e-4,
        maxSteps: 60_000,
        probes: [
          { of: 'voltage', element: 'Cst' },
          { of: 'current', element: 'Lch' },
          ...(hasTop ? [{ of: 'voltage' as const, element: 'Cld2' }] : []),
        ],
      },
    );
    const fired = run.events.find(({ element, what }) => element === gap && what === 'on');
    if (!fired) throw new Unavailable('switch', 'the gap does not fire within four times the time it should take');
    const [bank, path, secondary] = run.traces;
    if (!bank || !path) throw new Unavailable('store', 'the solver traced nothing');
    const end = Math.min(fired.t + td, run.t);
    [V, i] = [traceAt(bank, end), traceAt(path, end)];
    T = end;
    atBreak = traceAt(path, fired.t);
    if (secondary) top = secondary.y.reduce((most, v) => Math.max(most, Math.abs(v)), top);
    closure = Math.max(closure, run.closure);
  }
  return { rate: 1 / T, atBreak, top, closure, breaks: n };
}
