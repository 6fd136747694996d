import {
  airOf,
  ifKnown,
  ProgramError,
  slots,
  Unavailable,
  type BlockDefinition,
  type FigureSpec,
  type FieldId,
  type FieldsIn,
  type FigureId,
  type Offers,
  type Own,
  type RigContext,
  type Slot,
} from '../block/index.ts';
import { blockDefinition, blockDefinitions, kindsOf, type Block } from '../kind/index.ts';
import { gapFormulas, ruled, work, type Given, type Worked } from '../formula/index.ts';
import { blockIn, channelNoun, channelOf, inChannel, numberedSpot, type Rig } from '../rig/index.ts';
import { chargeLaw } from './charge-law.ts';
import { wholeFigures } from './whole.ts';

/** Values that stand in for those of the rig, by path (`store.C`): a corner of the tolerances, or a value tried. */
export type Overrides = ReadonlyMap<string, number>;

const none: Overrides = new Map();

/** Something that lies elsewhere in every shot, about a mean. */
export interface Scattered {
  /** The place of its block, and what it is: the same in every reading. */
  readonly id: string;
  readonly title: string;
  /** Standard deviation over its mean. */
  readonly deviation: number;
  /** How many there are, of which the lowest counts. */
  readonly of: number;
}

/** One shot: how far off its mean each thing lies in it, in standard deviations. */
export type ShotDrawn = (scattered: Scattered) => number;

/** How the deviation of something that scatters is called in the tree of a number. */
export const shotLeaf = (title: string): string => `${title}, standard deviations`;

/** What all that a shot draws is noted as read by: two readings differ in all of it or in nothing. */
const ofShot = 'drawn';

const specsOfRig = new WeakMap<Rig, ReadonlyMap<FigureId, FigureSpec>>();

/** Figures of the whole and of every block kind the rig has, by id. A rig is never changed, so they are kept with it. */
export function figureSpecs(rig: Rig): ReadonlyMap<FigureId, FigureSpec> {
  const known = specsOfRig.get(rig);
  if (known) return known;
  const specs = [...wholeFigures, ...slots.flatMap((slot) => definitionIn(rig, slot).figures ?? [])];
  const made = new Map(specs.map((spec) => [spec.id, spec]));
  specsOfRig.set(rig, made);
  return made;
}

let declaredFigures: ReadonlySet<string> | null = null;
/** Ids of all figures that any kind of block, or the rig as a whole, can have. */
const knownFigures = (): ReadonlySet<string> =>
  (declaredFigures ??= new Set(
    [...wholeFigures, ...blockDefinitions.flatMap((definition) => definition.figures ?? [])].map((spec) => spec.id),
  ));

/** @throws ProgramError where no kind of block, and no rig, can have a figure of this id */
export function checkFigure(id: string): void {
  if (!knownFigures().has(id)) throw new ProgramError(`no kind of block declares a figure ${id}`);
}

export const definitionIn = (rig: Rig, slot: Slot): BlockDefinition => blockDefinition(slot, blockIn(rig, slot).kind);

/** What was read while something was worked out: paths of fields, each as the overrides name it, by itself or by what it is made of. */
class Reads {
  private readonly own = new Set<string>();
  private readonly of = new Set<Reads>();
  private flat: ReadonlySet<string> | 'all' | null = null;

  /** Of what was worked out elsewhere: it may have read anything. */
  static ofAll(): Reads {
    const reads = new Reads();
    reads.flat = 'all';
    return reads;
  }

  note(path: string): void {
    this.own.add(path);
  }

  noteAll(reads: Reads): void {
    this.of.add(reads);
  }

  /** All of it, once nothing is added any more. */
  private paths(): ReadonlySet<string> | 'all' {
    if (this.flat) return this.flat;
    const all = new Set(this.own);
    for (const reads of this.of) {
      const paths = reads.paths();
      if (paths === 'all') return (this.flat = 'all');
      for (const path of paths) all.add(path);
    }
    return (this.flat = all);
  }

  /** Whether any of these paths was read. */
  has(any: readonly string[]): boolean {
    const paths = this.paths();
    return paths === 'all' || any.some((path) => paths.has(path));
  }
}

/** Something worked out, or why it could not be, with what it read. */
interface Made<T> {
  readonly made: T | Error;
  readonly reads: Reads;
}

/** Notes what is read, for all that are being worked out just now, one within the other. */
class Reader {
  private readonly open: Reads[] = [];

  note(path: string): void {
    this.open.at(-1)?.note(path);
  }

  noteAll(reads: Reads): void {
    this.open.at(-1)?.noteAll(reads);
  }

  /** What `make` gives or throws, with everything that it read. */
  while<T>(make: () => T): Made<T> {
    const reads = new Reads();
    this.open.push(reads);
    let made: T | Error;
    try {
      made = make();
    } catch (error) {
      made = error instanceof Error ? error : new Error(String(error));
    }
    this.open.pop();
    this.noteAll(reads);
    return { made, reads };
  }
}

/** Paths at which two readings of a rig differ. */
const differing = (one: RigReading, other: RigReading): string[] => [
  ...[...new Set([...one.overrides.keys(), ...other.overrides.keys()])].filter(
    (path) => one.overrides.get(path) !== other.overrides.get(path),
  ),
  ...(one.shot === other.shot ? [] : [ofShot]),
];

/** A place of the rig as a reading needs it. */
interface Place {
  readonly definition: BlockDefinition;
  readonly block: Block;
  /** How the overrides name its fields, up to the point. */
  readonly spot: string;
  readonly given: Map<string, Given | null>;
}

/**
 * One reading of a rig: every number asked of it is worked out once and kept. With overrides it is the same rig at a
 * corner of its tolerances; what reads nothing that differs from a reading made before is taken from that.
 */
export class RigReading implements RigContext {
  private readonly made = new Map<string, Made<Worked>>();
  private readonly kept = new Map<Slot | 'rig', Map<object, Made<unknown>>>();
  private readonly offered = new Map<Slot, Made<Offers>>();
  private readonly places = new Map<Slot, Place>();
  private readonly owns = new Map<Slot, Own>();

  readonly rig: Rig;
  readonly overrides: Overrides;
  /** The one shot that is read; null: what scatters from shot to shot is at its mean. */
  readonly shot: ShotDrawn | null;
  /** Another reading of the same rig, whose numbers hold here where they read nothing that differs. */
  private readonly base: RigReading | null;
  private readonly changed: readonly string[];
  private all: readonly RigReading[] | null = null;
  /** Set where it is read beside another that the rig is seen from: paths then name the channel. */
  private readonly isBeside: boolean;
  private readonly reader: Reader;

  /** @param base another reading of the same rig, to take from it what does not differ */
  constructor(
    rig: Rig,
    overrides: Overrides = none,
    base: RigReading | null = null,
    shot: ShotDrawn | null = null,
    beside: Reader | null = null,
  ) {
    this.rig = rig;
    this.overrides = overrides;
    this.shot = shot;
    this.base = base;
    this.changed = base ? differing(this, base) : [];
    this.isBeside = beside !== null;
    this.reader = beside ?? new Reader();
  }

  private place(slot: Slot): Place {
    const known = this.places.get(slot);
    if (known) return known;
    const block = blockIn(this.rig, slot);
    const spot = this.isBeside ? numberedSpot(slot, channelOf(this.rig)) : slot;
    const made: Place = { definition: blockDefinition(slot, block.kind), block, spot, given: new Map() };
    this.places.set(slot, made);
    return made;
  }

  private field(slot: Slot, id: string): Given | null {
    const place = this.place(slot);
    const path = `${place.spot}.${id}`;
    this.reader.note(path);
    const known = place.given.get(id);
    if (known !== undefined) return known;
    const made = this.readField(place, id, path);
    place.given.set(id, made);
    return made;
  }

  private readField({ definition, block }: Place, id: string, path: string): Given | null {
    const spec = definition.fields[id];
    if (spec?.type !== 'quantity') throw new ProgramError(`${path} is no quantity of a ${definition.kind}`);
    const { fields } = block;
    const kept = fields[id];
    if (typeof kept === 'string') return null;
    const raw = kept ?? spec.emptyAs?.(fields) ?? null;
    if (raw === null) return null;
    return {
      kind: 'given',
      title: spec.title,
      value: this.overrides.get(path) ?? raw.value,
      unit: spec.unit,
      origin: { from: kept ? (kept.from ?? 'typed') : 'typical', path },
      ...(raw.tolerance ? { tolerance: raw.tolerance } : {}),
    };
  }

  private declared(slot: Slot, id: string, type: 'choice' | 'lines'): string {
    const { definition } = this.place(slot);
    if (definition.fields[id]?.type === type) return id;
    throw new ProgramError(`${slot}.${id} is no ${type} of a ${definition.kind}`);
  }

  private chosen(slot: Slot, id: string): string {
    return String(this.place(slot).block.fields[this.declared(slot, id, 'choice')]);
  }

  /** A value that another kind of the slot may have is known not to be chosen; what none declares is a mistake of the program. */
  private isOfAnother(slot: Slot, id: string, value: string): false {
    this.declared(slot, id, 'choice');
    const known = kindsOf(slot).some(({ fields }) => {
      const spec = fields[id];
      return spec?.type === 'choice' && spec.options.some((option) => option.value === value);
    });
    if (!known) throw new ProgramError(`${slot}.${id} has no choice ${value}`);
    return false;
  }

  /** Of which channel something is said, where it is another than the one the rig is seen from. */
  private beside(): string {
    return this.isBeside ? `${channelNoun(this.rig) ?? 'channel'} ${channelOf(this.rig) + 1}: ` : '';
  }

  own<S extends Slot>(slot: S): Own<FieldsIn<S>> {
    return this.ownOf(slot);
  }

  /** Fields of whatever kind stands in a slot, for the functions of that kind itself. */
  ownOf(slot: Slot): Own {
    const known = this.owns.get(slot);
    if (known) return known;
    const { definition, block } = this.place(slot);
    const made: Own = {
      optional: (id) => this.field(slot, id),
      quantity: (id) => {
        const value = this.field(slot, id);
        if (value) return value;
        const title = definition.fields[id]?.title ?? id;
        throw new Unavailable(slot, `${this.beside()}${title} is not given`, id as FieldId);
      },
      choice: (id) => this.chosen(slot, id),
      is: (id, value) => {
        const spec = definition.fields[id];
        if (spec?.type === 'choice' && spec.options.some((option) => option.value === value))
          return this.chosen(slot, id) === value;
        return this.isOfAnother(slot, id, value);
      },
      lines: (id) => String(block.fields[this.declared(slot, id, 'lines')] ?? ''),
      typed: (id) => {
        const raw = this.field(slot, id) && block.fields[id];
        return typeof raw === 'object' && raw !== null ? raw.text : '';
      },
      air: () => airOf(this),
      drawn: (what, s, of = 1) => {
        this.reader.note(ofShot);
        if (!this.shot || of < 1) return null;
        const title = `${this.beside()}${definition.title}: ${what}`;
        const z = this.shot({ id: `${this.place(slot).spot}: ${what}`, title, deviation: s.value, of });
        return ruled(shotLeaf(title), z, '1', 'drawn for this shot');
      },
      once: (key, make) => this.onceOf(slot, key, make),
    };
    this.owns.set(slot, made);
    return made;
  }

  offers(slot: Slot): Offers {
    const known = this.offered.get(slot);
    if (known) return this.taken(known);
    const offered = this.reader.while(() => {
      const own = this.place(slot).definition.offers(this.ownOf(slot));
      return slot === 'store' ? this.asFired(own) : own;
    });
    // What an offer lacks it says whenever it is asked: a throw is not kept.
    if (offered.made instanceof Error) throw offered.made;
    this.offered.set(slot, offered);
    return offered.made;
  }

  /** What was worked out before: whoever asks for it has read what it read. */
  private taken<T>({ made, reads }: Made<T>): T {
    this.reader.noteAll(reads);
    if (made instanceof Error) throw made;
    return made;
  }

  /** A gap that self-breaks below the set voltage: there is the voltage of the rig, whatever was set. */
  private asFired(store: Offers): Offers {
    const set = store.chargedTo;
    if (!set) return store;
    const breaks = [store.firesAt, this.offers('switch').firesAt].flatMap((fires) => (fires ? (ifKnown(fires) ?? []) : []));
    const lowest = breaks.reduce<Worked | null>((low, Vb) => (low && low.value <= Vb.value ? low : Vb), null);
    // A sample decides by the errors of its formulas as well, which come after.
    if (!lowest || (lowest.value >= set.value && !this.shot)) return store;
    return { ...store, setTo: set, chargedTo: work(gapFormulas.firesAtLower, { Vs: set, Vb: lowest }) };
  }

  channels(): readonly RigReading[] {
    if (this.all) return this.all;
    const front = channelOf(this.rig);
    const bases = this.base?.channels();
    const all = this.rig.channels.map((_, k) =>
      k === front ? this : new RigReading(inChannel(this.rig, k), this.overrides, bases?.[k] ?? null, this.shot, this.reader),
    );
    for (const reading of all) reading.all = all;
    return all;
  }

  /** Both are worked out once: whatever holds of one holds of the one that is made from it, but for its sign. */
  inSeries(): readonly RigReading[] {
    return this.offers('store').isTwin ? [this, this] : [this];
  }

  offer<K extends keyof Offers>(name: K): NonNullable<Offers[K]> {
    for (const slot of slots) {
      const value = this.offers(slot)[name];
      if (value !== undefined) return value as NonNullable<Offers[K]>;
    }
    throw new Unavailable('store', `no block of this rig gives ${name}`);
  }

  chargeTime(V: Worked, title: string): Worked {
    return chargeLaw(this).time(this, V, title);
  }

  /** A figure of a block that this rig has not: its absence is known. An id that no block declares is a mistake of the program. */
  private absent(id: string): never {
    checkFigure(id);
    throw new Unavailable('store', `this rig has no such figure: it has no block that gives ${id}`);
  }

  figure(id: FigureId): Worked {
    const known = this.made.get(id) ?? this.asInBase(id);
    if (known) return this.taken(known);
    const spec = figureSpecs(this.rig).get(id);
    if (!spec) return this.absent(id);
    const figure = this.reader.while(() => spec.compute(this));
    this.made.set(id, figure);
    if (figure.made instanceof Error) throw figure.made;
    return figure.made;
  }

  once<T>(key: object, make: () => T): T {
    return this.onceOf('rig', key, make);
  }

  /** Takes figures as they were worked out elsewhere, of the same rig at the same values: whoever asks has these very ones. */
  adopt(figures: readonly { readonly id: FigureId; readonly worked: Worked }[]): void {
    for (const { id, worked } of figures) this.made.set(id, { made: worked, reads: Reads.ofAll() });
  }

  private onceOf<T>(of: Slot | 'rig', key: object, make: () => T): T {
    const kept = this.kept.get(of) ?? new Map<object, Made<unknown>>();
    this.kept.set(of, kept);
    const known = (kept.get(key) ?? this.keptInBase(of, key)) as Made<T> | undefined;
    if (known) return this.taken(known);
    const made = this.reader.while(make);
    kept.set(key, made);
    if (made.made instanceof Error) throw made.made;
    return made.made;
  }

  private keptInBase(of: Slot | 'rig', key: object): Made<unknown> | undefined {
    const known = this.base?.kept.get(of)?.get(key) ?? this.base?.keptInBase(of, key);
    if (!known || this.reads(known)) return undefined;
    this.kept.get(of)?.set(key, known);
    return known;
  }

  /** The figure of the other reading, where it read nothing that differs here. */
  private asInBase(id: FigureId): Made<Worked> | undefined {
    const known = this.base?.made.get(id) ?? this.base?.asInBase(id);
    if (!known || this.reads(known)) return undefined;
    this.made.set(id, known);
    return known;
  }

  /** Whether something of the other reading read what differs here. */
  private reads(known: Made<unknown>): boolean {
    return known.reads.has(this.changed);
  }
}
