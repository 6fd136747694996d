import {
  setVoltage,
  slots,
  type Asked,
  type Setting,
  type Settings,
  type Slot,
  type Starter,
  type Tuned,
  type Wishes,
} from '../block/index.ts';
import { readQuantityText, textOf, type BlockField, type FieldValue, type QuantityField } from '../field/index.ts';
import { ifKnown, RigReading } from '../figure/index.ts';
import { root } from '../numeric/index.ts';
import { blockDefinition, newBlock } from '../kind/index.ts';
import { ProgramError } from '../formula/index.ts';
import { blockIn, newRig, withBlock, withChannelAdded, withLoadKind, type Rig } from '../rig/index.ts';
import { errorsOf } from './evaluate.ts';

/** What was typed, by the id of what was asked; what is left out is what is asked with. */
export type Typed = Readonly<Record<string, string>>;

/** Why a wish cannot be had. */
export interface OutOfReach {
  /** The id of what was asked. */
  readonly asked: string;
  /** A sentence. */
  readonly reason: string;
  /** The nearest that can be had with the other wishes as they are, as text; null where moving this one alone helps nothing. */
  readonly nearest: string | null;
}

export type Started = { readonly ok: true; readonly rig: Rig } | { readonly ok: false; readonly issues: readonly OutOfReach[] };

/** A value that nobody typed: it is shown as assumed. */
export function assumed(field: BlockField | undefined, id: string, value: number | string | null): FieldValue {
  if (field?.type === 'choice') return String(value);
  if (field?.type !== 'quantity') throw new ProgramError(`a starter sets ${id}, which is no field of its block`);
  if (value === null) return null;
  const within = Math.min(field.max, Math.max(field.min, Number(value)));
  const read = readQuantityText(field, textOf({ value: field.integer ? Math.round(within) : within }, field.unit));
  if (!read.ok || !read.value) throw new ProgramError(`a starter sets ${id} to ${value}, which it cannot be`);
  return { ...read.value, from: 'default' };
}

/** A block as a starter sets it, all of it assumed. */
export function blockOf(slot: Slot, { kind, fields = {} }: Setting) {
  const definition = blockDefinition(slot, kind);
  const made = newBlock(definition);
  const set = Object.entries(fields).map(([id, value]) => [id, assumed(definition.fields[id], `${slot}.${id}`, value)] as const);
  return { ...made, fields: { ...made.fields, ...Object.fromEntries(set) } };
}

export const withSlot = (rig: Rig, slot: Slot, block: ReturnType<typeof blockOf>): Rig =>
  slot === 'load' ? withLoadKind(rig, block) : withBlock(rig, slot, block);

/** The rig with a field set by what the rig then comes to; as it is where it has no such field, or no value of it does. */
export function withTuned(rig: Rig, { path, figure, is }: Tuned): Rig {
  const [slot, id = ''] = path.split('.') as [Slot, string?];
  const block = blockIn(rig, slot);
  const field = blockDefinition(slot, block.kind).fields[id];
  const now = block.fields[id];
  if (field?.type !== 'quantity' || typeof now !== 'object' || now === null) return rig;
  const set = (value: number): Rig =>
    withBlock(rig, slot, { ...block, fields: { ...block.fields, [id]: assumed(field, path, Number(value.toPrecision(3))) } });
  const figureOf = (of: Rig): number => ifKnown(() => new RigReading(of).figure(figure).value) ?? NaN;
  if (!is) {
    const value = figureOf(rig);
    return Number.isFinite(value) ? set(value) : rig;
  }
  const aim = is(setVoltage(new RigReading(rig)).value);
  const off = (value: number) => Math.log(figureOf(set(value)) / aim);
  const found = root(off, now.value / 4, now.value * 4, { within: 1e-3 });
  return Number.isFinite(found) ? set(found) : rig;
}

/** A new rig of these blocks, all of it assumed, with what is set by what it then comes to. */
export function rigOfSettings(settings: Settings, tuned: readonly Tuned[] = []): Rig {
  const rig = slots.reduce((made, slot) => {
    const setting = settings[slot];
    return setting ? withSlot(made, slot, blockOf(slot, setting)) : made;
  }, newRig());
  return tuned.reduce(withTuned, rig);
}

/** The rig that a starter makes of wishes, and the values that were typed as they were typed. */
function rigOf(starter: Starter, wishes: Wishes, typed: Readonly<Record<string, FieldValue>>): Rig {
  let rig = rigOfSettings(starter.settings(wishes));
  for (const [asked, path] of Object.entries(starter.typed)) {
    const [slot, field = ''] = path.split('.') as [Slot, string?];
    const block = blockIn(rig, slot);
    const value = typed[asked];
    if (value !== undefined) rig = withBlock(rig, slot, { ...block, fields: { ...block.fields, [field]: value } });
  }
  for (const one of starter.tuned ?? []) rig = withTuned(rig, one);
  for (let k = 1; k < (starter.channels?.(wishes) ?? 1); k++) rig = withChannelAdded(rig) ?? rig;
  return rig;
}

/** The rig of wishes, or why there is none. */
function attempt(
  starter: Starter,
  wishes: Wishes,
  typed: Readonly<Record<string, FieldValue>> = {},
): { rig: Rig } | { reason: string } {
  const lack = starter.lacks?.(wishes);
  if (lack) return { reason: lack };
  const rig = rigOf(starter, wishes, typed);
  const [error] = errorsOf(rig);
  return error ? { reason: error.text } : { rig };
}

const initialOf = (asked: Asked): string => asked.initial ?? '';

/** What was asked, as numbers and choices, as values of fields, and what cannot be read. */
interface ReadWishes {
  readonly wishes: Wishes;
  readonly typed: Readonly<Record<string, FieldValue>>;
  readonly issues: readonly OutOfReach[];
}

export function readWishes({ asks }: Pick<Starter, 'asks'>, typed: Typed): ReadWishes {
  const all = Object.entries(asks).map(([id, asked]) => {
    const text = typed[id]?.trim() || initialOf(asked);
    if (asked.type === 'choice') {
      const isOne = asked.options.some(({ value }) => value === text);
      return {
        id,
        wish: text,
        kept: undefined,
        reason: isOne ? null : `${asked.title} must be one of ${asked.options.map((o) => o.title).join(', ')}.`,
      };
    }
    const read = readQuantityText(asked, text);
    if (!read.ok) return { id, wish: NaN, kept: undefined, reason: `${asked.title} ${read.reason}.` };
    // What stands there unasked is as assumed as everything else.
    const isTyped = typed[id] !== undefined && typed[id].trim() !== '' && typed[id].trim() !== asked.initial;
    const kept: FieldValue | undefined = read.value ? (isTyped ? read.value : { ...read.value, from: 'default' }) : undefined;
    return {
      id,
      wish: read.value?.value ?? NaN,
      kept,
      reason: read.value || asked.optional ? null : `${asked.title} is asked for.`,
    };
  });
  return {
    wishes: Object.fromEntries(all.map(({ id, wish }) => [id, wish])),
    typed: Object.fromEntries(all.flatMap(({ id, kept }) => (kept === undefined ? [] : [[id, kept]]))),
    issues: all.flatMap(({ id, reason }) => (reason === null ? [] : [{ asked: id, reason, nearest: null }])),
  };
}

/** The blocks that a starter begins with where nothing is wished. */
export const firstSettings = (starter: Starter): Settings => starter.settings(readWishes(starter, {}).wishes);

/** Values of a field from one outwards, in steps of the same ratio, to an end of its range. */
const outwards = (from: number, end: number, steps = 8): number[] =>
  end > 0 ? Array.from({ length: steps }, (_, k) => from * (end / from) ** ((k + 1) / steps)) : [];

/** The value nearest to a wish for which there is a rig, with the other wishes as they are; null where moving this one alone helps nothing. */
function nearestOf(starter: Starter, wishes: Wishes, id: string, field: QuantityField): string | null {
  const start = readQuantityText(field, initialOf(field));
  const wished = Number(wishes[id]);
  if (!start.ok || !start.value || !(wished > 0)) return null;
  const isFine = (value: number) => 'rig' in attempt(starter, { ...wishes, [id]: field.integer ? Math.round(value) : value });
  const tried = [start.value.value, ...outwards(wished, field.max), ...outwards(wished, field.min)];
  const found = tried.find(isFine);
  if (found === undefined || found === wished) return null;
  let [good, bad] = [found, wished];
  for (let i = 0; i < 7; i++) {
    const middle = Math.sqrt(good * bad);
    if (isFine(middle)) good = middle;
    else bad = middle;
  }
  // Two digits, on the side that can be had; as they are where that side has a gap between.
  const inwards = wished > good ? Math.floor : Math.ceil;
  const step = 10 ** Math.floor(Math.log10(good) - 1);
  const two = field.integer
    ? inwards(good)
    : Number((inwards(good / step + (wished > good ? 1e-9 : -1e-9)) * step).toPrecision(2));
  const value = [two, Number(good.toPrecision(4))].find(isFine);
  return value === undefined ? null : textOf({ value }, field.unit);
}

/**
 * A rig to begin with. Everything in it that was not typed counts as assumed.
 *
 * @param typed what was typed for each of its wishes, in any unit
 * @returns the rig, which has no problem of severity error; or which wish is out of reach, why, and the nearest that is not
 */
export function startRig(starter: Starter, typed: Typed): Started {
  const read = readWishes(starter, typed);
  if (read.issues.length > 0) return { ok: false, issues: read.issues };
  const made = attempt(starter, read.wishes, read.typed);
  if ('rig' in made) return { ok: true, rig: made.rig };
  const { reason } = made;
  const issues = Object.entries(starter.asks).flatMap(([asked, field]): OutOfReach[] => {
    if (field.type !== 'quantity') return [];
    const nearest = nearestOf(starter, read.wishes, asked, field);
    return nearest === null ? [] : [{ asked, reason, nearest }];
  });
  return {
    ok: false,
    issues:
      issues.length > 0
        ? issues
        : [
            {
              asked: Object.keys(starter.asks)[0] ?? '',
              reason: `${reason} No other wish alone helps: change two.`,
              nearest: null,
            },
          ],
  };
}
