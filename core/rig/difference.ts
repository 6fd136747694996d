import { blockDefinition, type Block } from '../kind/index.ts';
import { textOf, type FieldValue } from '../field/index.ts';
import type { RigDocument } from './document.ts';
import { midSentence } from './field-path.ts';
import { blockIn, channelNoun, channelsTitle, numberedSpot, spotAt, spotsOf, spotTitle, wholeRig, type Spot } from './channel.ts';
import type { Rig } from './schema.ts';
import { sameSheetEdits, sheetWords } from './sheet-edits.ts';

/** A part of a document that is edited, merged and argued about by itself: its name, its note, its run sheet, or one block. */ export type Place =
  'name' | 'note' | 'built' | 'sheet' | 'channels' | Spot;

/** One point in which two documents differ. `from` and `to` are as a person reads them; null where a side has no such field. */
export interface Difference {
  /** `name`, `note`, `store.kind` or a field's path such as `store.C`. */
  readonly path: string;
  readonly place: Place;
  readonly title: string;
  readonly from: string | null;
  readonly to: string | null;
}

const originWords = { default: 'default', measured: 'measured', label: 'from the label' } as const;

const printed = (rig: Rig, spot: Spot, id: string): string | null => {
  const block = blockIn(rig, spot);
  const field = blockDefinition(spotAt(spot).slot, block.kind).fields[id];
  if (!field) return null;
  const value = block.fields[id] ?? null;
  if (value === null) return 'not known';
  if (field.type === 'choice') return field.options.find((o) => o.value === value)?.title ?? String(value);
  if (typeof value === 'string' || field.type === 'lines') return value === '' ? 'empty' : String(value);
  const text = value.text || textOf(value, field.unit);
  return value.from === undefined ? text : `${text} (${originWords[value.from]})`;
};

/** Whether two values of a field are the same: value, tolerance, text, and whether anybody has typed it. */
function sameValue(a: FieldValue, b: FieldValue): boolean {
  if (a === null || b === null || typeof a === 'string' || typeof b === 'string') return a === b;
  return (
    a.value === b.value &&
    a.text === b.text &&
    a.from === b.from &&
    a.tolerance?.minus === b.tolerance?.minus &&
    a.tolerance?.plus === b.tolerance?.plus
  );
}

/** "C-01, C-02 ×2 in group 1; C-03 in group 2": the parts of a block as a person reads them. */
function partsText({ parts = [] }: Block): string {
  const groups = [...new Set(parts.map((p) => p.group ?? 0))];
  const inGroup = (g: number) =>
    parts
      .filter((p) => (p.group ?? 0) === g)
      .map(({ tag, count = 1 }) => (count === 1 ? tag : `${tag} ×${count}`))
      .join(', ');
  return groups.map((g) => (g === 0 ? inGroup(g) : `${inGroup(g)} in group ${g}`)).join('; ') || 'none';
}

const partsKey = ({ parts = [] }: Block): string => JSON.stringify(parts.map((p) => [p.id, p.tag, p.group ?? 0, p.count ?? 1]));

const partsDifference = (before: Block, after: Block, place: Spot, title: string): Difference[] =>
  partsKey(before) === partsKey(after)
    ? []
    : [
        {
          path: `${place}.parts`,
          place,
          title: `${title}, parts used`,
          from: partsText(before),
          to: partsText(after),
        },
      ];

function blockDifferences(a: Rig, b: Rig, place: Spot): Difference[] {
  const [before, after] = [blockIn(a, place), blockIn(b, place)];
  if (before === after) return [];
  const { slot, channel } = spotAt(place);
  const title = spotTitle(a, a.channels.length > 1 && channel === null ? numberedSpot(slot, 0) : place);
  const [from, to] = [blockDefinition(slot, before.kind), blockDefinition(slot, after.kind)];
  const kind: Difference[] =
    from === to ? [] : [{ path: `${place}.kind`, place, title: `${title}, kind`, from: from.title, to: to.title }];
  // What stands once is the first channel's.
  const isOwn = (id: string) => channel === null || !(to.fields[id] ?? from.fields[id])?.once;
  const ids = [...new Set([...Object.keys(from.fields), ...Object.keys(to.fields)])].filter(isOwn);
  const fields = ids
    .filter((id) => !sameValue(before.fields[id] ?? null, after.fields[id] ?? null) || !(id in from.fields) || !(id in to.fields))
    .map((id) => ({
      path: `${place}.${id}`,
      place,
      title: `${title}, ${midSentence((to.fields[id] ?? from.fields[id])?.title ?? id)}`,
      from: printed(a, place, id),
      to: printed(b, place, id),
    }));
  return [...kind, ...fields, ...partsDifference(before, after, place, title)];
}

/** A rig of other channels: which they are is one point. */
function channelDifferences(a: Rig, b: Rig): Difference[] {
  if (a.channels.length === b.channels.length) return [];
  const noun = channelNoun(a) ?? channelNoun(b) ?? 'channel';
  const many = ({ channels: { length } }: Rig) => `${length} ${noun}${length === 1 ? '' : 's'}`;
  return [
    {
      path: 'channels',
      place: 'channels',
      title: channelsTitle(a),
      from: many(a),
      to: many(b),
    },
  ];
}

/** Places in which two rigs can be compared block by block. */
const commonSpots = (a: Rig, b: Rig): Spot[] => spotsOf(a.channels.length <= b.channels.length ? a : b);

/** Everything in which `b` differs from `a`, in the order of the line. */
export function differences(a: RigDocument, b: RigDocument): Difference[] {
  const [before, after] = [wholeRig(a.rig), wholeRig(b.rig)];
  const text = (place: 'name' | 'note', title: string): Difference[] =>
    a[place] === b[place] ? [] : [{ path: place, place, title, from: a[place], to: b[place] }];
  const yes = (built: boolean) => (built ? 'yes' : 'no');
  const built: Difference[] =
    a.built === b.built ? [] : [{ path: 'built', place: 'built', title: 'Built', from: yes(a.built), to: yes(b.built) }];
  const sheet: Difference[] = sameSheetEdits(a.sheet, b.sheet)
    ? []
    : [{ path: 'sheet', place: 'sheet', title: 'Run sheet', from: sheetWords(a.sheet), to: sheetWords(b.sheet) }];
  return [
    ...text('name', 'Name'),
    ...text('note', 'Note'),
    ...built,
    ...sheet,
    ...channelDifferences(before, after),
    ...commonSpots(before, after).flatMap((spot) => blockDifferences(before, after, spot)),
  ];
}

export const sameDocument = (a: RigDocument, b: RigDocument): boolean => a === b || differences(a, b).length === 0;

const short = (text: string | null): string =>
  text === null ? 'nothing' : text === '' ? 'empty' : text.length > 32 ? `${text.slice(0, 31)}…` : text;

/** Those that are worth saying: another kind of block has other fields, and they go without. */
export function saidDifferences(list: readonly Difference[]): Difference[] {
  const changedKind = (d: Difference) => list.some((other) => other.path === `${d.place}.kind`);
  return list.filter((d) => d.path.endsWith('.kind') || !changedKind(d));
}

/** A change in words, for what an undo would take back: "Store, charged to: 48 V → 60 V". */
export function differenceWords(list: readonly Difference[]): string {
  const [first, ...rest] = saidDifferences(list);
  if (!first) return 'no visible change';
  const more = rest.length === 0 ? '' : rest.length === 1 ? ' and one more change' : ` and ${rest.length} more changes`;
  return `${first.title}: ${short(first.from)} → ${short(first.to)}${more}`;
}
