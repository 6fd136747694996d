import {
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
import { blockDefinition, blockDefinitions, kindsOf } from '../kind/index.ts';
import { gapFormulas, work, type Given, type Worked } from '../formula/index.ts';
import { blockIn, channelNoun, channelOf, inChannel, numberedSpot, type Rig } from '../rig/index.ts';
import { chargeLaw } from './charge-law.ts';
import { wholeFigures } from './whole.ts';

/** Values that stand in for those of the rig, by path (`store.C`): a corner of the tolerances, or a value tried. */
export type Overrides = ReadonlyMap<string, number>;

const none: Overrides = new Map();

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

/**
 * One reading of a rig: every number asked of it is worked out once and kept. With overrides it is the same rig at a
 * corner of its tolerances.
 */
export class RigReading implements RigContext {
  private readonly made = new Map<string, Worked | Error>();
  private readonly given = new Map<string, Given | null>();
  private readonly offered = new Map<Slot, Offers>();

  readonly rig: Rig;
  readonly overrides: Overrides;
  private all: readonly RigReading[] | null = null;
  /** Set where it is read beside another that the rig is seen from: paths then name the channel. */
  private isBeside = false;

  constructor(rig: Rig, overrides: Overrides = none) {
    this.rig = rig;
    this.overrides = overrides;
  }

  private field(slot: Slot, id: string): Given | null {
    const path = `${this.isBeside ? numberedSpot(slot, channelOf(this.rig)) : slot}.${id}`;
    const known = this.given.get(path);
    if (known !== undefined) return known;
    const made = this.readField(slot, id, path);
    this.given.set(path, made);
    return made;
  }

  private readField(slot: Slot, id: string, path: string): Given | null {
    const spec = definitionIn(this.rig, slot).fields[id];
    if (spec?.type !== 'quantity') throw new ProgramError(`${path} is no quantity of a ${definitionIn(this.rig, slot).kind}`);
    const { fields } = blockIn(this.rig, slot);
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
    if (definitionIn(this.rig, slot).fields[id]?.type === type) return id;
    throw new ProgramError(`${slot}.${id} is no ${type} of a ${definitionIn(this.rig, slot).kind}`);
  }

  private chosen(slot: Slot, id: string): string {
    return String(blockIn(this.rig, slot).fields[this.declared(slot, id, 'choice')]);
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

  own<S extends Slot>(slot: S): Own<FieldsIn<S>> {
    return this.ownOf(slot);
  }

  /** Fields of whatever kind stands in a slot, for the functions of that kind itself. */
  ownOf(slot: Slot): Own {
    return {
      optional: (id) => this.field(slot, id),
      quantity: (id) => {
        const value = this.field(slot, id);
        if (value) return value;
        const beside = this.isBeside ? `${channelNoun(this.rig) ?? 'channel'} ${channelOf(this.rig) + 1}: ` : '';
        const title = definitionIn(this.rig, slot).fields[id]?.title ?? id;
        throw new Unavailable(slot, `${beside}${title} is not given`, id as FieldId);
      },
      choice: (id) => this.chosen(slot, id),
      is: (id, value) => {
        const spec = definitionIn(this.rig, slot).fields[id];
        if (spec?.type === 'choice' && spec.options.some((option) => option.value === value))
          return this.chosen(slot, id) === value;
        return this.isOfAnother(slot, id, value);
      },
      lines: (id) => String(blockIn(this.rig, slot).fields[this.declared(slot, id, 'lines')] ?? ''),
      typed: (id) => {
        const raw = this.field(slot, id) && blockIn(this.rig, slot).fields[id];
        return typeof raw === 'object' && raw !== null ? raw.text : '';
      },
    };
  }

  offers(slot: Slot): Offers {
    const known = this.offered.get(slot);
    if (known) return known;
    const own = definitionIn(this.rig, slot).offers(this.ownOf(slot));
    const made = slot === 'store' ? this.asFired(own) : own;
    this.offered.set(slot, made);
    return made;
  }

  /** A gap that fires by itself below the set voltage: there is the voltage of the rig, whatever was set. */
  private asFired(store: Offers): Offers {
    const set = store.chargedTo;
    if (!set) return store;
    const breaks = [store.firesAt, this.offers('switch').firesAt].flatMap((fires) => (fires ? (ifKnown(fires) ?? []) : []));
    const lowest = breaks.reduce<Worked | null>((low, Vb) => (low && low.value <= Vb.value ? low : Vb), null);
    if (!lowest || lowest.value >= set.value) return store;
    return { ...store, setTo: set, chargedTo: work(gapFormulas.firesAtLower, { Vs: set, Vb: lowest }) };
  }

  channels(): readonly RigReading[] {
    if (this.all) return this.all;
    const front = channelOf(this.rig);
    const all = this.rig.channels.map((_, k) => (k === front ? this : new RigReading(inChannel(this.rig, k), this.overrides)));
    for (const reading of all) {
      reading.all = all;
      reading.isBeside = reading !== this;
    }
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
    const known = this.made.get(id);
    if (known instanceof Error) throw known;
    if (known) return known;
    const spec = figureSpecs(this.rig).get(id);
    if (!spec) return this.absent(id);
    try {
      const made = spec.compute(this);
      this.made.set(id, made);
      return made;
    } catch (error) {
      this.made.set(id, error instanceof Error ? error : new Error(String(error)));
      throw error;
    }
  }
}
