import { rigSlots, isChannelSlot, slots, type Slot } from '../../block/index.ts';
import { ifKnown, RigReading } from '../../figure/index.ts';
import { blockDefinition, type Block } from '../../kind/index.ts';
import type { Kept } from '../../part/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { blockIn, inChannel, midSentence, spotIn, spotTitle, type Rig } from '../../rig/index.ts';
import { capacitorClass, stockOf, woundMass, woundPrice } from './stock.ts';
import { valueIn, type Bought } from './fit.ts';
import type { DraftBank } from './goal.ts';

/** One line of a bill of materials. */
export interface BillLine {
  readonly place: string;
  readonly what: string;
  readonly count: number;
  /** `shelf`: it is there; `buy`: it has to be bought; `own`: whoever builds it has it or makes it. */
  readonly from: 'shelf' | 'buy' | 'own';
  /** What its label does not say and has to be confirmed; empty where nothing has. */
  readonly confirm: string;
  /** Labels on the shelf. */
  readonly tags: readonly string[];
  /** Of all of them: 0 of what is there. */
  readonly price: number;
  /** kg of all of them. */
  readonly mass: number;
}

/** Pieces that a block is: those in series times those side by side. */
function countIn(block: Block, slot: Slot): number {
  const { fields } = blockDefinition(slot, block.kind);
  const counted = ['n', 'm', 'nd', 'ns', 'np'].filter((id) => {
    const field = fields[id];
    return field?.type === 'quantity' && field.integer === true;
  });
  return counted.reduce((product, id) => product * (valueIn(block, id) || 1), 1);
}

const valuesOf = (block: Block): Record<string, number> =>
  Object.fromEntries(
    Object.entries(block.fields).flatMap(([id, value]) =>
      typeof value === 'object' && value !== null ? [[id, value.value] as const] : [],
    ),
  );

const isWound = (block: Block): boolean => 'Df' in block.fields;

/** Each rating and what it has to be at least. */
function ratingWords(block: Block, slot: Slot, ratings: ReadonlyMap<string, number> | undefined): string {
  const { fields } = blockDefinition(slot, block.kind);
  const words = [...(ratings ?? [])].flatMap(([id, value]) => {
    const field = fields[id];
    if (field?.type !== 'quantity') return [];
    const size = field.unit === '1' ? printPercent(value, 2) : printQuantity(value, field.unit, { trim: true });
    return [`${midSentence(field.title).replace(/, each$/, '')} at least ${size}`];
  });
  return words.join(', ');
}

/** Places whose main number is what one asks for in a shop: of a switch it is its resistance, of a diode its drop. */
const saysWhat: readonly Slot[] = ['supply', 'trigger', 'load', 'meter'];

/** What has to be asked for in a shop: the main number of a block, and each rating it is bought to. */
function wordsOf(rig: Rig, slot: Slot, block: Block, ratings: ReadonlyMap<string, number> | undefined): string {
  const definition = blockDefinition(slot, block.kind);
  const R = valueIn(block, 'R');
  const isString = slot !== 'supply' && 'n' in definition.fields && Number.isFinite(R);
  const key = definition.key;
  const reading = new RigReading(rig);
  const main = isString
    ? `${printQuantity(R, 'Ω', { trim: true })} each`
    : saysWhat.includes(slot)
      ? (ifKnown(() => key?.(reading.ownOf(slot), reading)?.text) ?? '')
      : '';
  return [definition.title, [main, ratingWords(block, slot, ratings)].filter((one) => one !== '').join(', ')]
    .filter((one) => one !== '')
    .join(': ');
}

function storeLine(rig: Rig, spot: ReturnType<typeof spotIn>, bank: DraftBank, ratings: ReadonlyMap<string, number> | undefined) {
  const block = blockIn(rig, spot);
  const count = countIn(block, 'store');
  const [C, V] = [valueIn(block, 'C'), valueIn(block, 'Vr')];
  const joules = 0.5 * C * V ** 2;
  const tags = (block.parts ?? []).map(({ tag, count: pieces = 1 }) => (pieces > 1 ? `${tag} (${pieces})` : tag));
  if (bank.from === 'shelf') {
    const pieces = (block.parts ?? []).reduce((sum, { count: one = 1 }) => sum + one, 0);
    return {
      what: bank.title,
      count: pieces,
      from: 'shelf' as const,
      tags,
      confirm: ratingWords(block, 'store', ratings),
      price: 0,
      mass: (joules * count) / 100,
    };
  }
  const of = capacitorClass(bank.class);
  const words = [printQuantity(C, 'F', { trim: true }), ratingWords(block, 'store', ratings)].filter((one) => one !== '');
  return {
    what: `${of.title}: ${words.join(', ')}`,
    count,
    from: 'buy' as const,
    tags: [],
    confirm: '',
    price: count * (of.each + of.perJoule * joules),
    mass: count * (joules / of.density + 0.01),
  };
}

/** Everything that a rig takes, place by place; guard, leads, earth strap and what carries it all are not in it. */
export function billOf(rig: Rig, bank: DraftBank, bought: Bought, shelf: readonly Kept[]): BillLine[] {
  const lines: BillLine[] = [];
  const add = (slot: Slot, channel: number) => {
    const spot = spotIn(slot, channel);
    const seen = isChannelSlot(slot) ? inChannel(rig, channel) : rig;
    const block = blockIn(rig, spot);
    const place =
      rig.channels.length > 1 && isChannelSlot(slot) ? spotTitle(rig, `${slot}@${channel + 1}`) : spotTitle(rig, slot);
    const ratings = bought.get(spot);
    if (slot === 'store') {
      lines.push({ place, ...storeLine(rig, spot, bank, ratings) });
      return;
    }
    const tags = (block.parts ?? []).map(({ tag }) => tag);
    const isThere = (block.parts ?? []).some(({ id }) => shelf.some((kept) => kept.id === id));
    if (slot === 'load' && isWound(block)) {
      const reading = new RigReading(seen);
      const kg = ifKnown(() => reading.figure('coil-mass').value) ?? 0;
      const wire = ifKnown(() => reading.figure('coil-wire').value) ?? NaN;
      const words = `Coil: ${printQuantity(wire, 'm')} of ${printQuantity(valueIn(block, 'd'), 'm')} wire, ${valueIn(block, 'N')} turns on a former of ${printQuantity(valueIn(block, 'Df'), 'm')}`;
      lines.push({
        place,
        what: words,
        count: 1,
        from: isThere ? 'shelf' : 'buy',
        tags,
        confirm: '',
        price: isThere ? 0 : woundPrice(kg),
        mass: woundMass(kg),
      });
      return;
    }
    const { price, mass } = stockOf(slot, block.kind);
    const values = valuesOf(block);
    const count = countIn(block, slot);
    const own = price(values) === 0 && mass(values) === 0;
    if (own && !ratings) return;
    lines.push({
      place,
      what: isThere ? blockDefinition(slot, block.kind).title : wordsOf(seen, slot, block, ratings),
      count,
      from: isThere ? 'shelf' : own ? 'own' : 'buy',
      tags,
      confirm: '',
      price: isThere ? 0 : count * price(values),
      mass: count * mass(values),
    });
  };
  for (const slot of slots) {
    if ((rigSlots as readonly Slot[]).includes(slot)) add(slot, 0);
    else rig.channels.forEach((_, channel) => add(slot, channel));
  }
  return lines;
}
