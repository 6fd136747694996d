import { readQuantityData } from '../field/index.ts';
import { blockDefinition, type FiredBy } from '../kind/index.ts';
import { parseQuantity, printExact, printQuantity, type UnitId } from '../quantity/index.ts';

/** A coil of a launcher with what differs from the first, as a line of a rig file up to version 7 says it. */
interface CoilLine {
  /** Line it stands on, from 1. */
  readonly line: number;
  /** m: its middle behind that of the first coil; 0 for the first itself. */
  readonly at: number;
  /** null for the first, which is fired by hand. */
  readonly fired: Exclude<FiredBy, { by: 'hand' }> | null;
  readonly turns: number | null;
  readonly V: number | null;
  readonly C: number | null;
}

type ReadCoils = { readonly ok: true; readonly coils: readonly CoilLine[] } | { readonly ok: false; readonly reason: string };

/** Coils that such a launcher had at most. */
const mostCoils = 12;

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
  const found: { at?: number; fired?: Exclude<FiredBy, { by: 'hand' }>; turns?: number; V?: number; C?: number } = {};
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
  if (at === 0 && fired) throw new Refused(`line ${line}: the first coil is fired by hand, at zero`);
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
function readCoils(text: string): ReadCoils {
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

type Data = Readonly<Record<string, unknown>>;
const isData = (data: unknown): data is Data => typeof data === 'object' && data !== null && !Array.isArray(data);
const dataIn = (data: unknown, key: string): Data => {
  const found = isData(data) ? data[key] : null;
  return isData(found) ? found : {};
};

/** A number of a kept field, its initial value where it is left out; 1 where there is no such field. */
function numberIn(kind: unknown, fields: Data, id: string): number {
  const field = kind === 'capacitor-bank' ? blockDefinition('store', kind).fields[id] : undefined;
  if (field?.type !== 'quantity') return 1;
  const read = readQuantityData(field, fields[id] ?? field.initial);
  return read.ok && read.value ? read.value.value : 1;
}

/** A channel with what a line says of it. */
function asLine(channel: Data, { turns, V, C }: CoilLine): Data {
  const store = dataIn(channel, 'store');
  const load = dataIn(channel, 'load');
  const held = dataIn(store, 'fields');
  const share = numberIn(store['kind'], held, 'ns') / numberIn(store['kind'], held, 'np');
  const stored = {
    ...held,
    ...(V === null ? {} : { V0: printExact(V, 'V') }),
    ...(C === null ? {} : { C: printExact(C * share, 'F') }),
  };
  return {
    ...channel,
    store: { ...store, fields: stored },
    load: { ...load, fields: { ...dataIn(load, 'fields'), ...(turns === null ? {} : { by: 'turns', N: String(turns) }) } },
  };
}

const firedFields = (fired: CoilLine['fired']): Data => {
  if (!fired) return {};
  if (fired.by === 'sensor') return { fired: fired.by, xf: printExact(fired.x, 'm') };
  return fired.by === 'best' ? { fired: fired.by } : { fired: fired.by, tf: printExact(fired.t, 's') };
};

/** A channel behind the first: like it, on no parts that the first stands on. */
function furtherChannel(first: Data, line: CoilLine): Data {
  const like = Object.fromEntries(
    Object.entries(first).map(([slot, block]) => {
      const { parts: _parts, ...rest } = isData(block) ? block : {};
      return [slot, rest];
    }),
  );
  const made = asLine(like, line);
  const load = dataIn(made, 'load');
  const { fields: specs } = blockDefinition('load', 'coilgun-stage');
  const own = Object.entries(dataIn(load, 'fields')).filter(([id]) => !specs[id]?.once);
  return {
    ...made,
    load: { ...load, fields: { ...Object.fromEntries(own), at: printExact(line.at, 'm'), ...firedFields(line.fired) } },
  };
}

/** The rig of a file up to version 7 with a channel for each line of its further coils. What cannot be read is left as it is. */
export function channelsFromLines(data: Data): Data {
  const rig = dataIn(data, 'rig');
  const channels: unknown = rig['channels'];
  const first: unknown = Array.isArray(channels) ? channels[0] : null;
  const load = dataIn(first, 'load');
  if (!isData(first) || load['kind'] !== 'coilgun-stage' || (channels as unknown[]).length !== 1) return {};
  const { coils = '', ...fields } = dataIn(load, 'fields');
  const read = typeof coils === 'string' ? readCoils(coils) : null;
  if (!read?.ok) return {};
  const plain = { ...first, load: { ...load, fields } };
  const itself = read.coils.find(({ at }) => at === 0);
  const further = read.coils.filter(({ at }) => at > 0).map((line) => furtherChannel(plain, line));
  return { rig: { ...rig, channels: [itself ? asLine(plain, itself) : plain, ...further] } };
}
