import type { PlacedPart } from '../block/index.ts';
import type { Control, Element } from '../circuit/index.ts';

/**
 * Channels that one discharge takes in series stand in the circuit one beside the other, each with elements and nodes of its own, every
 * other one with its polarity turned round, so that their tops are the two ends. Channels count from 0.
 */

const isTurned = (channel: number): boolean => channel % 2 === 1;
const mark = (channel: number): string => (channel > 1 ? `n${channel}` : 'n');

/** The node of a channel that answers to one of the first. Earth is earth of all. */
export const nodeIn = (node: string, channel: number): string =>
  node === '0' || channel === 0 ? node : `${node}_${mark(channel)}`;

/** An element of the first channel by its name, as another has it. The first letter says what it is and stays. */
export const nameIn = (name: string, channel: number): string =>
  channel === 0 ? name : `${name.slice(0, 1)}${mark(channel)}_${name.slice(1)}`;

/** Two ends as they stand in a channel: changed over where it is turned, so that an element sees the voltage that the first one does. */
const endsIn = ([plus, minus]: readonly [string, string], channel: number): [string, string] => {
  const [a, b] = [nodeIn(plus, channel), nodeIn(minus, channel)];
  return isTurned(channel) ? [b, a] : [a, b];
};

const controlIn = (control: Control, channel: number): Control => {
  switch (control.by) {
    case 'time':
      return control;
    case 'voltage':
      return { ...control, nodes: endsIn(control.nodes, channel) };
    case 'current':
      return { ...control, of: nameIn(control.of, channel) };
    default:
      return control satisfies never;
  }
};

function elementIn(element: Element, channel: number): Element {
  const name = nameIn(element.name, channel);
  if (element.kind === 'coupling')
    return { ...element, name, inductors: [nameIn(element.inductors[0], channel), nameIn(element.inductors[1], channel)] };
  const nodes = endsIn(element.nodes, channel);
  return element.kind === 'switch'
    ? { ...element, name, nodes, control: controlIn(element.control, channel) }
    : { ...element, name, nodes };
}

const ordinals = ['first', 'second', 'third', 'fourth'];

/** The parts of the first channel as another one has them. */
export const partsIn = (parts: readonly PlacedPart[], channel: number): readonly PlacedPart[] =>
  channel === 0
    ? parts
    : parts.map((part) => ({
        ...part,
        element: elementIn(part.element, channel),
        says: `${part.says}, ${ordinals[channel] ?? `${channel + 1}th`} tower`,
      }));
