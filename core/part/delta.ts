/** A can with three capacitors in delta between its terminals. Capacitances in F, the rating in V between any two terminals. */
export interface DeltaCan {
  readonly c12: number;
  readonly c23: number;
  readonly c31: number;
  /** Direct voltage that each element bears. */
  readonly rating: number;
}

/** A way to use a can between two ends. */
export interface DeltaUse {
  readonly id: string;
  readonly title: string;
  /** Terminals joined to each end. */
  readonly ends: readonly [readonly number[], readonly number[]];
  /** Terminals left alone. They float at a voltage of their own and must be insulated. */
  readonly open: readonly number[];
  readonly capacitance: number;
  readonly rating: number;
  /** Direct voltage on a terminal that is left open, as a fraction of the whole; null where none is. */
  readonly floatsAt: number | null;
}

const others = { 1: [2, 3], 2: [3, 1], 3: [1, 2] } as const;
type Terminal = keyof typeof others;
const terminals: readonly Terminal[] = [1, 2, 3];

const between = (can: DeltaCan, a: number, b: number): number => {
  const key = [a, b].sort().join('');
  return key === '12' ? can.c12 : key === '23' ? can.c23 : can.c31;
};

/** One element shorted: two terminals joined make one end, the third the other; two elements lie in parallel. */
function shorted(can: DeltaCan, alone: Terminal): DeltaUse {
  const [a, b] = others[alone];
  return {
    id: `short-${[a, b].sort().join('')}`,
    title: `${[a, b].sort().join(' and ')} joined, against ${alone}: two elements in parallel`,
    ends: [[a, b].sort(), [alone]],
    open: [],
    capacitance: between(can, alone, a) + between(can, alone, b),
    rating: can.rating,
    floatsAt: null,
  };
}

/** One terminal left open: one element straight across, the other two in series beside it. */
function opened(can: DeltaCan, open: Terminal): DeltaUse {
  const [a, b] = [...others[open]].sort() as [number, number];
  const [left, right] = [between(can, a, open), between(can, open, b)];
  return {
    id: `open-${open}`,
    title: `${a} against ${b}, ${open} left open: one element, and two in series beside it`,
    ends: [[a], [b]],
    open: [open],
    capacitance: between(can, a, b) + (left * right) / (left + right),
    // The element straight across sees all of the voltage; those in series see less each.
    rating: can.rating,
    floatsAt: left / (left + right),
  };
}

/**
 * Every useful connection of a delta can: one element shorted and the other two in parallel, or one terminal left open.
 * Source: Kirchhoff's laws; the shorted connection is common practice, no source.
 *
 * @throws RangeError where a capacitance or the rating is not above nought
 */
export function deltaUses(can: DeltaCan): DeltaUse[] {
  for (const [name, value] of Object.entries(can) as [string, number][])
    if (!(value > 0) || !Number.isFinite(value)) throw new RangeError(`${name} must be above 0`);
  return [...terminals.map((t) => shorted(can, t)), ...terminals.map((t) => opened(can, t))];
}
