import type { CircuitPart } from '../block/index.ts';
import type { Control, Element } from '../circuit/index.ts';

/** The node of the second tower that answers to one of the first. Earth is earth of both. */
export const mirroredNode = (node: string): string => (node === '0' ? node : `${node}_n`);

/** Whether an element belongs to the second tower, by its name. */
export const isMirrored = (name: string): boolean => name.startsWith('n_', 1);

/** An element of the first tower by its name, as the second has it. The first letter says what it is and stays. */
export const mirroredName = (name: string): string => `${name.slice(0, 1)}n_${name.slice(1)}`;

const mirroredControl = (control: Control): Control => {
  switch (control.by) {
    case 'time':
      return control;
    case 'voltage':
      return { ...control, nodes: [mirroredNode(control.nodes[1]), mirroredNode(control.nodes[0])] };
    case 'current':
      return { ...control, of: mirroredName(control.of) };
    default:
      return control satisfies never;
  }
};

/**
 * An element in a circuit whose every voltage to earth is turned round. With its two ends changed over it sees the voltage and
 * carries the current that the first one does, whatever it is.
 */
function mirroredElement(element: Element): Element {
  const name = mirroredName(element.name);
  if (element.kind === 'coupling')
    return { ...element, name, inductors: [mirroredName(element.inductors[0]), mirroredName(element.inductors[1])] };
  const nodes = [mirroredNode(element.nodes[1]), mirroredNode(element.nodes[0])] as const;
  return element.kind === 'switch'
    ? { ...element, name, nodes, control: mirroredControl(element.control) }
    : { ...element, name, nodes };
}

/** The second tower of a store that stands there twice: the first with every polarity turned round. */
export const mirrored = (parts: readonly CircuitPart[]): CircuitPart[] =>
  parts.map((part) => ({ ...part, element: mirroredElement(part.element), says: `${part.says}, second tower` }));
