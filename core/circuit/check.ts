import type { Element, Netlist, TwoPole } from './element.ts';

/** Why a netlist cannot be solved, with the names of the parts. */
export interface CircuitIssue {
  readonly code:
    | 'bad_value'
    | 'twice'
    | 'unknown_element'
    | 'floating'
    | 'source_loop'
    | 'not_coupled'
    | 'too_large'
    | 'no_convergence'
    | 'singular';
  readonly parts: readonly string[];
  readonly reason: string;
}

export class CircuitError extends Error {
  readonly issue: CircuitIssue;
  constructor(issue: CircuitIssue) {
    super(`${issue.parts.length > 0 ? `${issue.parts.slice(0, 8).join(', ')}: ` : ''}${issue.reason}`);
    this.name = 'CircuitError';
    this.issue = issue;
  }
}

/** Elements of one circuit: ten thousand-stage multipliers. */
export const elementLimit = 50_000;

export const isTwoPole = (element: Element): element is TwoPole => element.kind !== 'coupling';

const bad = (name: string, reason: string) => new CircuitError({ code: 'bad_value', parts: [name], reason });

/** Values that must lie above nought, by kind. */
const positive: { readonly [K in Element['kind']]?: readonly string[] } = {
  resistor: ['R'],
  capacitor: ['C'],
  inductor: ['L'],
  'power-source': ['P', 'Imax'],
  switch: ['Ron'],
  diode: ['Ron'],
  thyristor: ['Ron'],
  gap: ['breakdown', 'L'],
  'line-end': ['Z0', 'delay'],
};
const fromZero: readonly string[] = ['R', 'Vf', 'latching', 'holding', 'turnOff', 'scatter', 'recovery'];

function checkValues(element: Element): void {
  const values = element as unknown as Readonly<Record<string, unknown>>;
  for (const key of positive[element.kind] ?? []) {
    const value = values[key];
    if (typeof value !== 'number' || !(value > 0) || !Number.isFinite(value))
      throw bad(element.name, `${key} is ${String(value)}; it must be above 0 and finite`);
  }
  for (const key of fromZero) {
    const value = values[key];
    if (value !== undefined && !(typeof value === 'number' && value >= 0 && Number.isFinite(value)))
      throw bad(element.name, `${key} is ${String(value)}; it must be 0 or above, and finite`);
  }
  if (element.kind === 'coupling' && !(Math.abs(element.k) < 1))
    throw bad(element.name, `k is ${element.k}; it must lie between -1 and 1`);
  if (element.kind === 'gap') {
    const { arc } = element;
    const least = arc.law === 'fixed' ? arc.R : arc.Rmin;
    if (!(least > 0)) throw bad(element.name, 'the resistance of its arc must be above 0');
    if (arc.law !== 'fixed' && !(arc.d > 0 && (arc.law === 'toepler' ? arc.k : arc.a) > 0))
      throw bad(element.name, 'length and constant of its arc must be above 0');
  }
}

/** Nodes that hang together, by union and find. */
class Groups {
  private readonly numbers = new Map<string, number>();
  private readonly parent: number[] = [];
  private number(node: string): number {
    let number = this.numbers.get(node);
    if (number === undefined) {
      number = this.parent.length;
      this.numbers.set(node, number);
      this.parent.push(number);
    }
    return number;
  }
  of(node: string): number {
    const { parent } = this;
    const number = this.number(node);
    let root = number;
    while (parent[root] !== root) root = parent[root] as number;
    parent[number] = root;
    return root;
  }
  /** @returns whether they were apart */
  join(a: string, b: string): boolean {
    const x = this.of(a);
    const y = this.of(b);
    this.parent[x] = y;
    return x !== y;
  }
}

/** Elements that tie the voltage of their nodes to each other at every instant: an open gap and a current source do not. */
const ties = (element: TwoPole): boolean =>
  element.kind !== 'gap' && element.kind !== 'current-source' && element.kind !== 'power-source';

export const isIdealSource = (element: Element): boolean => element.kind === 'voltage-source' && (element.R ?? 0) === 0;

/**
 * Checks that a netlist can be solved.
 *
 * @throws CircuitError naming the parts: values out of range, a name twice, nodes that nothing ties to earth, ideal sources in a loop
 */
export function checkNetlist({ elements }: Netlist): void {
  if (elements.length === 0) throw new CircuitError({ code: 'bad_value', parts: [], reason: 'the circuit is empty' });
  if (elements.length > elementLimit)
    throw new CircuitError({
      code: 'too_large',
      parts: [],
      reason: `the circuit has ${elements.length} elements; at most ${elementLimit} are solved`,
    });
  const names = new Set<string>();
  for (const element of elements) {
    if (names.has(element.name))
      throw new CircuitError({ code: 'twice', parts: [element.name], reason: 'this name is given twice' });
    names.add(element.name);
    checkValues(element);
  }
  for (const element of elements) {
    if (element.kind === 'coupling')
      for (const name of element.inductors)
        if (elements.find((e) => e.name === name)?.kind !== 'inductor')
          throw new CircuitError({
            code: 'not_coupled',
            parts: [element.name, name],
            reason: 'couples something that is no inductor',
          });
    if (element.kind === 'line-end') {
      const far = elements.find((e) => e.name === element.far);
      const fits =
        far?.kind === 'line-end' &&
        far.far === element.name &&
        far !== element &&
        far.Z0 === element.Z0 &&
        far.delay === element.delay &&
        (far.V0 ?? 0) === (element.V0 ?? 0);
      if (!fits)
        throw new CircuitError({
          code: 'unknown_element',
          parts: [element.name, element.far],
          reason: 'is the end of a line whose other end is not there, or is not like it',
        });
    }
    if (element.kind === 'switch' && element.control.by === 'current' && !names.has(element.control.of))
      throw new CircuitError({
        code: 'unknown_element',
        parts: [element.name, element.control.of],
        reason: 'is controlled by an element that is not there',
      });
  }
  const poles = elements.filter(isTwoPole);
  const sources = new Groups();
  for (const element of poles.filter(isIdealSource)) {
    if (element.nodes[0] === element.nodes[1] || !sources.join(...element.nodes)) {
      const loop = poles.filter((e) => isIdealSource(e) && sources.of(e.nodes[0]) === sources.of(element.nodes[0]));
      throw new CircuitError({
        code: 'source_loop',
        parts: loop.map((e) => e.name),
        reason: 'ideal voltage sources in a loop: give one of them a resistance',
      });
    }
  }
  const tied = new Groups();
  for (const element of poles) if (ties(element)) tied.join(...element.nodes);
  const earth = tied.of('0');
  const floats = (node: string) => tied.of(node) !== earth;
  const floating = poles.filter((e) => e.nodes.some(floats));
  if (floating.length > 0) {
    const nodes = [...new Set(floating.flatMap((e) => e.nodes.filter(floats)))];
    throw new CircuitError({
      code: 'floating',
      parts: floating.map((e) => e.name),
      reason: `nothing ties node ${nodes.slice(0, 6).join(', ')} to node 0: add the stray capacitance or the leakage that is there`,
    });
  }
}
