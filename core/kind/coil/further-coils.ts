import { parseQuantity, printQuantity, type UnitId } from '../../quantity/index.ts';

/** How a coil behind the first is fired. */
export type FiredBy =
  /** As the middle of the slug passes a place, m behind the middle of the first coil. */
  | { readonly by: 'sensor'; readonly x: number }
  /** s after the coil before it. */
  | { readonly by: 'after'; readonly t: number }
  /** s after the first. */
  | { readonly by: 'time'; readonly t: number }
  /** When it gives the greatest speed: worked out. */
  | { readonly by: 'best' };

/** A coil of a launcher with what differs from the first: each has a store and a switch of its own, like those drawn. */
export interface CoilLine {
  /** Line it stands on, from 1. */
  readonly line: number;
  /** m: its middle behind that of the first coil; 0 for the first itself. */
  readonly at: number;
  /** null for the first, which is fired by hand. */
  readonly fired: FiredBy | null;
  readonly turns: number | null;
  readonly V: number | null;
  readonly C: number | null;
}

export type ReadCoils =
  { readonly ok: true; readonly coils: readonly CoilLine[] } | { readonly ok: false; readonly reason: string };

/** Coils that a launcher has at most. */
export const mostCoils = 12;

const ranges = {
  m: { min: -10, max: 100 },
  s: { min: 0, max: 10 },
  V: { min: 0, max: 1e6 },
  F: { min: 0, max: 1e3 },
} as const satisfies Partial<Record<UnitId, { min: number; max: number }>>;
type Unit = keyof typeof ranges;

class Refused extends Error {}

function read(text: string, unit: Unit, where: string): number {
  const parsed = parseQuantity(text, unit);
  if (!parsed.ok)
    throw new Refused(`${where} is no ${unit === 'm' ? 'length' : 'time'}, such as ${unit === 'm' ? '60 mm' : '1.2 ms'}`);
  if (parsed.quantity.tolerance) throw new Refused(`${where} takes no tolerance`);
  const { value } = parsed.quantity;
  const { min, max } = ranges[unit];
  if (value < min || value > max || ((unit === 'V' || unit === 'F') && value === 0))
    throw new Refused(
      `${where} is ${printQuantity(value, unit)}; it must be ${unit === 'V' || unit === 'F' ? 'above' : 'from'} ${printQuantity(min, unit)} ${unit === 'V' || unit === 'F' ? 'and at most' : 'to'} ${printQuantity(max, unit)}`,
    );
  return value;
}

const isOf = (text: string, unit: Unit): boolean => parseQuantity(text, unit).ok;

/** One line that is not empty. */
function readLine(text: string, line: number): CoilLine {
  const found: { at?: number; fired?: FiredBy; turns?: number; V?: number; C?: number } = {};
  const put = <K extends keyof typeof found>(key: K, value: NonNullable<(typeof found)[K]>, what: string) => {
    if (found[key] !== undefined) throw new Refused(`line ${line} says ${what} twice`);
    found[key] = value;
  };
  for (const item of text.split(/[,;]/).map((part) => part.trim())) {
    if (item === '') continue;
    const where = `line ${line}, "${item}"`;
    const word = /^(coil|sensor|after|time|best)\b\s*(.*)$/i.exec(item);
    const turns = /^(\d+)\s*turns?$/i.exec(item);
    const rest = word?.[2] ?? '';
    switch (word?.[1]?.toLowerCase()) {
      case 'coil':
        put('at', read(rest, 'm', where), 'where its coil is');
        continue;
      case 'sensor':
        put('fired', { by: 'sensor', x: read(rest, 'm', where) }, 'how it is fired');
        continue;
      case 'after':
        put('fired', { by: 'after', t: read(rest, 's', where) }, 'how it is fired');
        continue;
      case 'time':
        put('fired', { by: 'time', t: read(rest, 's', where) }, 'how it is fired');
        continue;
      case 'best':
        put('fired', { by: 'best' }, 'how it is fired');
        continue;
      default:
    }
    if (turns) {
      const n = Number(turns[1]);
      if (n < 1 || n > 20_000) throw new Refused(`${where}: a coil has from 1 to 20000 turns`);
      put('turns', n, 'its turns');
    } else if (!/[A-Za-zµ%]$/.test(item)) throw new Refused(`${where} has no unit`);
    else if (isOf(item, 'm')) put('at', read(item, 'm', where), 'where its coil is');
    else if (isOf(item, 'V')) put('V', read(item, 'V', where), 'its voltage');
    else if (isOf(item, 'F')) put('C', read(item, 'F', where), 'its capacitance');
    else
      throw new Refused(
        `${where} is not understood: a place such as 80 mm; sensor 60 mm, after 1.2 ms, time 4 ms or best; 36 turns; 300 V; 1.5 mF`,
      );
  }
  const { at, fired } = found;
  if (at === undefined) throw new Refused(`line ${line} does not say where its coil is, as 80 mm behind the first`);
  if (at === 0 && fired) throw new Refused(`line ${line}: the first coil is fired by hand, at nought`);
  if (at !== 0 && !fired)
    throw new Refused(`line ${line} does not say how its coil is fired: sensor 60 mm, after 1.2 ms, time 4 ms or best`);
  return { line, at, fired: fired ?? null, turns: found.turns ?? null, V: found.V ?? null, C: found.C ?? null };
}

/**
 * Reads the coils of a launcher behind the first, one to a line: "80 mm, sensor 62 mm", "160 mm, after 1.2 ms, 30 turns, 320 V".
 * A line at 0 mm says what differs in the first itself.
 *
 * @returns the coils in the order of their lines, or the first thing that is wrong, naming the line and what may stand there
 */
export function readCoils(text: string): ReadCoils {
  try {
    const coils: CoilLine[] = [];
    for (const [i, line] of text.split('\n').entries()) {
      if (line.trim() === '') continue;
      const coil = readLine(line, i + 1);
      const before = coils.at(-1);
      if (before && coil.at <= before.at)
        throw new Refused(
          `line ${i + 1}: its coil at ${printQuantity(coil.at, 'm')} must lie behind the one before it, at ${printQuantity(before.at, 'm')}`,
        );
      if (!before && coil.at < 0) throw new Refused(`line ${i + 1}: its coil must lie behind the first, so above 0 mm`);
      coils.push(coil);
    }
    const further = coils.filter(({ at }) => at > 0).length;
    if (further > mostCoils - 1) throw new Refused(`${further + 1} coils; at most ${mostCoils} are worked out`);
    return { ok: true, coils };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, reason: error.message };
    throw error;
  }
}
