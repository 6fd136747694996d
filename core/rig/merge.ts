import { isChannelSlot } from '../block/index.ts';
import type { Block } from '../kind/index.ts';
import { blockIn, channelsTitle, spotAt, spotsOf, spotTitle, withBlock, withBlockOf } from './channel.ts';
import { differences, type Difference, type Place } from './difference.ts';
import type { RigDocument } from './document.ts';
import type { Rig } from './schema.ts';

export type Side = 'mine' | 'theirs';

/** A point on which two hands disagree, or that one of them changed in a block that both changed. */
export interface Choice {
  readonly path: string;
  readonly place: Place;
  readonly title: string;
  readonly base: string | null;
  readonly mine: string | null;
  readonly theirs: string | null;
  /** The side that alone changed it; null where both did, and a person has to say. */
  readonly suggested: Side | null;
}

/** Two documents that grew from one. */
export interface Merge {
  /** What both agree on or only one changed; in a place of `choices` it holds what the other hand has. */
  readonly merged: RigDocument;
  /** Places in which only the other hand changed something. */
  readonly taken: readonly Place[];
  /** Points of the places that both changed, to be decided; empty where everything merged by itself. */
  readonly choices: readonly Choice[];
}

/** Places of a document that are no blocks. */
const wholeTitles = { name: 'Name', note: 'Note', built: 'Built', sheet: 'Run sheet' } as const;
type Whole = keyof typeof wholeTitles;

const wholePlaces = Object.keys(wholeTitles) as Whole[];

const isWhole = (place: Place): place is Whole => place in wholeTitles;

export const placeTitle = (rig: Rig, place: Place): string => {
  if (place === 'channels') return channelsTitle(rig);
  return isWhole(place) ? wholeTitles[place] : spotTitle(rig, place);
};

/** `into` with one place as `from` has it. */
function withPlace(into: RigDocument, from: RigDocument, place: Place): RigDocument {
  if (isWhole(place)) return { ...into, [place]: from[place] };
  const rig = place === 'channels' ? { ...into.rig, channels: from.rig.channels } : withBlockOf(into.rig, from.rig, place);
  return { ...into, rig };
}

/** All blocks of channels are one place where one hand has more of them than the other: which is which, nobody can tell. */
const joinedPlace = (place: Place): Place =>
  isWhole(place) || place === 'channels' || !isChannelSlot(spotAt(place).slot) ? place : 'channels';

const byPlace = (list: readonly Difference[], placeOf: (place: Place) => Place): Map<Place, Difference[]> => {
  const map = new Map<Place, Difference[]>();
  for (const d of list) map.set(placeOf(d.place), [...(map.get(placeOf(d.place)) ?? []), d]);
  return map;
};

/** Channels that both changed, and one of them their number: one hand's stand as a whole. */
function choiceOfChannels(rig: Rig, mine: Difference[], theirs: Difference[]): Choice {
  const words = (list: Difference[]) => list.find((d) => d.path === 'channels')?.to ?? 'as many as before, with other values';
  const base = [...mine, ...theirs].find((d) => d.path === 'channels')?.from ?? null;
  return {
    path: 'channels',
    place: 'channels',
    title: placeTitle(rig, 'channels'),
    base,
    mine: words(mine),
    theirs: words(theirs),
    suggested: null,
  };
}

function choicesIn(rig: Rig, mine: Difference[], theirs: Difference[], place: Place): Choice[] {
  if (place === 'channels') return [choiceOfChannels(rig, mine, theirs)];
  const kindChanged = [...mine, ...theirs].some((d) => d.path === `${place}.kind`);
  // Of two kinds of block no mixture can be made: one stands as a whole.
  const paths = kindChanged ? [`${place}.kind`] : [...new Set([...mine, ...theirs].map((d) => d.path))];
  return paths.map((path) => {
    const [m, t] = [mine.find((d) => d.path === path), theirs.find((d) => d.path === path)];
    const any = m ?? t;
    const was = any?.from ?? null;
    const unmoved = kindChanged ? `${was ?? ''}, with other values` : was;
    return {
      path,
      place,
      title: any?.title ?? `${placeTitle(rig, place)}, kind`,
      base: was,
      mine: m ? m.to : unmoved,
      theirs: t ? t.to : unmoved,
      suggested: kindChanged ? null : !m ? 'theirs' : !t || m.to === t.to ? 'mine' : null,
    };
  });
}

/**
 * Merges what two hands made of one document. Places (name, note, run sheet, each block) that only one of them changed merge by
 * themselves; in a place that both changed to different things every changed point becomes a choice.
 */
export function mergeDocuments(base: RigDocument, mine: RigDocument, theirs: RigDocument): Merge {
  const counts = [base, mine, theirs].map(({ rig }) => rig.channels.length);
  const alike = counts.every((count) => count === counts[0]);
  const placeOf = alike ? (place: Place) => place : joinedPlace;
  const places = [...wholePlaces, ...new Set(spotsOf(base.rig).map(placeOf))];
  const [byMe, byThem, apart] = [
    byPlace(differences(base, mine), placeOf),
    byPlace(differences(base, theirs), placeOf),
    byPlace(differences(mine, theirs), placeOf),
  ];
  let merged = theirs;
  const taken: Place[] = [];
  const choices: Choice[] = [];
  for (const place of places) {
    const [m, t] = [byMe.get(place) ?? [], byThem.get(place) ?? []];
    if (t.length === 0) merged = withPlace(merged, mine, place);
    else if (m.length === 0) taken.push(place);
    else if (apart.has(place)) choices.push(...choicesIn(base.rig, m, t, place));
  }
  return { merged, taken, choices };
}

const fieldOf = (path: string): string => path.slice(path.indexOf('.') + 1);

/** A block on the parts of another. */
const withRefs = ({ kind, fields }: Block, { parts }: Block): Block => ({ kind, fields, ...(parts ? { parts } : {}) });

function withChoice(document: RigDocument, mine: RigDocument, { path, place }: Choice): RigDocument {
  if (isWhole(place) || place === 'channels' || path === `${place}.kind`) return withPlace(document, mine, place);
  const slot = place;
  const block: Block = blockIn(document.rig, slot);
  if (path === `${place}.parts`)
    return { ...document, rig: withBlock(document.rig, slot, withRefs(block, blockIn(mine.rig, slot))) };
  const value = blockIn(mine.rig, slot).fields[fieldOf(path)] ?? null;
  return { ...document, rig: withBlock(document.rig, slot, { ...block, fields: { ...block.fields, [fieldOf(path)]: value } }) };
}

/** The merged document with every choice decided; where none is named the suggested side stands. */
export function resolveMerge(merge: Merge, mine: RigDocument, picks: Readonly<Record<string, Side>>): RigDocument {
  return merge.choices
    .filter((choice) => (picks[choice.path] ?? choice.suggested) === 'mine')
    .reduce((document, choice) => withChoice(document, mine, choice), merge.merged);
}

/** Whether every choice has been made. */
export const openChoices = (merge: Merge, picks: Readonly<Record<string, Side>>): readonly Choice[] =>
  merge.choices.filter((choice) => (picks[choice.path] ?? choice.suggested) === null);
