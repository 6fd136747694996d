import type { Element } from '../circuit/index.ts';

/**
 * One part of a discharge tool between two of its nodes: what its card is drawn from and its lamp is calculated from. The tool hangs between
 * `tip` and `0`, the lead to the earthed side. A clamp is two zener diodes nose to nose; a lamp conducts from its first node to its second.
 */
export type ToolPart =
  | {
      readonly kind: 'resistor';
      readonly name: string;
      readonly nodes: readonly [string, string];
      readonly R: number;
      readonly label: string;
    }
  | {
      readonly kind: 'clamp';
      readonly name: string;
      readonly nodes: readonly [string, string];
      readonly V: number;
      readonly label: string;
    }
  | {
      readonly kind: 'lamp';
      readonly name: string;
      readonly nodes: readonly [string, string];
      readonly V: number;
      readonly label: string;
    };

/** Slope of a diode that conducts, Ω: next to none beside any resistor of a tool. */
const slope = 1e-3;

/** The tool as elements of a circuit: a clamp conducts either way beyond its voltage, a lamp one way beyond its drop. */
export const toolElements = (parts: readonly ToolPart[]): Element[] =>
  parts.flatMap((part): Element[] => {
    const [a, b] = part.nodes;
    if (part.kind === 'resistor') return [{ kind: 'resistor', name: part.name, nodes: [a, b], R: part.R }];
    const forward: Element = { kind: 'diode', name: part.name, nodes: [a, b], Vf: part.V, Ron: slope };
    return part.kind === 'lamp' ? [forward] : [forward, { ...forward, name: `${part.name}n`, nodes: [b, a] }];
  });
