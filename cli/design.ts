import { writeRigFile } from '@vast-surge/core/format';
import { midSentence, newDocument } from '@vast-surge/core/rig';
import { printPercent, printQuantity } from '@vast-surge/core/quantity';
import {
  chargedTo,
  designBounds,
  designGoal,
  designGoals,
  draftsOf,
  fallenBy,
  printReached,
  ranked,
  readDesign,
  tryDraft,
  type BillLine,
  type Designed,
  type DesignQuestion,
  type Ranked,
} from '@vast-surge/core/study';
import { whole } from './plan.ts';
import { writeText } from './simulate.ts';
import { UsageError } from './usage.ts';

export interface DesignOptions {
  readonly within: readonly string[];
  readonly most: string;
  readonly take?: string;
  readonly worst?: boolean;
  readonly out?: string;
}

/** `B=4 T` as an entry. @throws UsageError where it names nothing that is asked */
function entry(text: string, names: readonly string[], option: string): readonly [string, string] {
  const [name = '', value] = text.split(/=(.*)/s).map((part) => part.trim());
  if (!names.includes(name) || value === undefined)
    throw new UsageError(`${option} "${text.slice(0, 60)}" is not one of ${names.map((one) => `${one}=…`).join(', ')}`);
  return [name, value];
}

const line = ({ place, count, what, from, tags, confirm, price }: BillLine): string =>
  [
    `     ${place}: ${count} × ${what}`,
    from === 'buy'
      ? `to buy, about ${Number(price.toPrecision(2))}`
      : from === 'shelf'
        ? `on the shelf: ${tags.join(' ')}`
        : 'your own',
    ...(confirm === '' ? [] : [`confirm ${confirm}`]),
  ].join('; ');

function designText({ one, beaten }: Ranked<Designed>, place: number): string {
  const { cost, energy, margin, mass } = one.merits;
  const reached = one.reached.map((each) => {
    const range = printReached(each);
    return `${each.title} ${printQuantity(each.value, each.unit)}${range === null ? '' : ` (${range} over all tolerances)`}`;
  });
  return [
    `${String(place).padStart(3)}  ${one.title}`,
    `     ${[...reached, `${midSentence(chargedTo(one))} ${printQuantity(one.voltage, 'V')}`, `up to ${printQuantity(one.mostEnergy, 'J')} and ${printQuantity(one.peakCurrent, 'A')}, worst case`].join(', ')}`,
    `     to buy, about ${cost}; stores ${printQuantity(energy, 'J')}; margin ${printPercent(margin, 2)} (${one.tightest.title}); about ${printQuantity(mass, 'kg', { digits: 2 })}`,
    ...(beaten ? [`     beaten by ${beaten.by + 1} in ${beaten.in.join(', ')}`] : one.bill.map(line)),
  ].join('\n');
}

export interface DesignedText {
  readonly data: unknown;
  readonly text: string;
}

/**
 * Whole rigs from a goal.
 *
 * @param wishes such as `B=4 T`
 * @throws UsageError naming the wish or the bound that cannot be taken, or that there is no such design to write
 */
export function design(
  id: string,
  wishes: readonly string[],
  shelf: DesignQuestion['shelf'],
  options: DesignOptions,
): DesignedText {
  const goal = designGoal(id);
  if (!goal) throw new UsageError(`GOAL "${id.slice(0, 40)}" is not one of ${designGoals.map((one) => one.id).join(', ')}`);
  const typed = Object.fromEntries(wishes.map((text) => entry(text, Object.keys(goal.asks), 'WISH')));
  const bounds = Object.fromEntries(options.within.map((text) => entry(text, Object.keys(designBounds), '--within')));
  const most = whole('most', options.most, 1, 1000);
  const read = readDesign({ goal: id, typed, bounds, shelf, atWorst: options.worst === true });
  if (!read.ok) throw new UsageError(read.issues.map(({ asked, reason }) => `${asked}: ${reason}`).join('\n'));
  const outcomes = draftsOf(read.question).map((draft) => tryDraft(read.question, draft));
  const found = ranked(
    outcomes.filter((one): one is Designed => one.ok),
    goal.wantsEnergy?.(read.question.wishes) ?? false,
  );
  if (options.out !== undefined) {
    const taken = found[whole('take', options.take ?? '1', 1, Math.max(1, found.length)) - 1];
    if (!taken) throw new UsageError('--out: no design meets the goal, and there is no rig to write');
    writeText('--out', options.out, writeRigFile({ ...newDocument(taken.one.title.slice(0, 80)), rig: taken.one.rig }));
  }
  const fell = fallenBy(outcomes);
  const head = `${found.length} of ${outcomes.length} designs meet the goal${options.worst ? ' at the worst corner,' : ''} with every limit judged and the margin kept.`;
  const lost = fell.map(({ by, count, such }) => `  ${by} (${count}), such as ${such.title}: ${such.reason}`);
  return {
    data: {
      tried: outcomes.length,
      designs: found.map(({ one, beaten }) => ({
        title: one.title,
        beaten: beaten && { by: beaten.by + 1, in: beaten.in },
        reached: one.reached,
        voltage: one.voltage,
        mostEnergy: one.mostEnergy,
        peakCurrent: one.peakCurrent,
        ...one.merits,
        tightest: one.tightest,
        bill: one.bill,
      })),
      fallen: fell.map(({ by, count, such }) => ({ by, count, such: such.title, reason: such.reason })),
    },
    text: [
      head,
      '',
      ...found.slice(0, most).map((one, k) => designText(one, k + 1)),
      ...(lost.length > 0 ? ['', 'Ruled out by:', ...lost] : []),
      '',
      'Prices are common practice, no source, good to a factor of two. Guard, leads, earth and insulation are not in the bill.',
    ].join('\n'),
  };
}
