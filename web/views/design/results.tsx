import { useRef, useState, type Ref } from 'react';
import { useNavigate } from 'react-router';
import { newDocument } from '@vast-surge/core/rig';
import { printPercent, printQuantity } from '@vast-surge/core/quantity';
import {
  chargedTo,
  designGoal,
  fallenBy,
  printReached,
  ranked,
  type Designed,
  type Merit,
  type Ranked,
} from '@vast-surge/core/study';
import { printPrice } from '../../app/currency.ts';
import { useAddRig } from '../../app/commands.ts';
import { useMayNot } from '../../app/may.ts';
import { Button } from '../../ui/button.tsx';
import type { DesignSoFar } from '../../workers/rig-study.ts';
import { Bill } from './bill.tsx';
import { Front } from './front.tsx';

const inWords: Readonly<Record<Merit, string>> = {
  cost: 'costs less',
  energy: 'is better in energy',
  margin: 'has more margin',
  mass: 'weighs less',
};

/** Beside those that nothing beats, so many are listed with what beats them. */
const listed = 24;

function One({ one, place, heading }: { one: Designed; place: number; heading: Ref<HTMLHeadingElement> }) {
  const add = useAddRig();
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const mayNot = useMayNot('designs');
  const make = async () => {
    setMaking(true);
    const id = await add({ ...newDocument(one.title.slice(0, 80)), rig: one.rig });
    setMaking(false);
    if (id) void navigate(`/rigs/${id}`);
  };
  return (
    <section aria-label="The chosen design" className="mt-4 border border-ink bg-plate p-4">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h2 ref={heading} tabIndex={-1} className="min-w-0 flex-1 basis-64 scroll-mt-16 text-17 font-bold outline-none">
          {place}. {one.title}
        </h2>
        <Button look="primary" disabled={making || mayNot !== null} onClick={() => void make()}>
          Make this rig
        </Button>
      </div>
      {mayNot !== null && <p className="text-14">{mayNot}</p>}
      {one.reached.map((reached) => (
        <p key={reached.title} className="mt-1">
          {reached.title}: <b className="figure">{printQuantity(reached.value, reached.unit)}</b>
          {printReached(reached) !== null && (
            <span className="text-dim">
              , <span className="figure">{printReached(reached)}</span> over all tolerances
            </span>
          )}
        </p>
      ))}
      <p className="mt-1">
        {chargedTo(one)} <b className="figure">{printQuantity(one.voltage, 'V')}</b>, it stores up to{' '}
        <b className="figure">{printQuantity(one.mostEnergy, 'J')}</b> and drives up to{' '}
        <b className="figure">{printQuantity(one.peakCurrent, 'A')}</b>, worst case. Tightest limit, worst case:{' '}
        {one.tightest.title} at <b className="figure">{printPercent(one.tightest.use, 3)}</b> of its rating.
      </p>
      <div className="mt-3 overflow-x-auto">
        <Bill lines={one.bill} />
      </div>
      <p className="mt-2 text-14 text-dim">
        Not in the bill: guard, leads, earth, insulation, cases. Prices of what is not on the shelf are common practice, no
        source, good to a factor of two. Everything that is not from your shelf is marked as assumed in the rig: replace it by
        what you really get, and read its limits again.
      </p>
    </section>
  );
}

function Row({
  ranked: { one, beaten },
  place,
  isChosen,
  onChoose,
}: {
  ranked: Ranked<Designed>;
  place: number;
  isChosen: boolean;
  onChoose: () => void;
}) {
  const { cost, energy, margin, mass } = one.merits;
  return (
    <tr className={`border-b border-rule ${isChosen ? 'bg-plate' : ''} ${beaten ? 'text-dim' : ''}`}>
      <td className="figure text-right whitespace-nowrap">{place}</td>
      <td>
        <button
          type="button"
          className={`text-left underline ${isChosen ? 'font-bold' : ''} ${beaten ? '' : 'text-select'}`}
          aria-pressed={isChosen}
          onClick={onChoose}
        >
          {one.title}
        </button>
        {beaten && (
          <span className="block text-14">
            No. {beaten.by + 1} {beaten.in.map((merit) => inWords[merit]).join(', ')}, and is worse in nothing.
          </span>
        )}
      </td>
      {one.reached.map((reached) => (
        <td key={reached.title} className="figure whitespace-nowrap">
          {printQuantity(reached.value, reached.unit)}
          {printReached(reached) !== null && <span className="block text-13 text-dim">{printReached(reached)}</span>}
        </td>
      ))}
      <td className="figure whitespace-nowrap">{printQuantity(one.voltage, 'V')}</td>
      <td className="figure text-right whitespace-nowrap">{printPrice(cost)}</td>
      <td className="figure text-right whitespace-nowrap">{printQuantity(energy, 'J')}</td>
      <td className="figure text-right whitespace-nowrap">{printPercent(margin, 2)}</td>
      <td className="figure text-right whitespace-nowrap">{printQuantity(mass, 'kg', { digits: 2 })}</td>
    </tr>
  );
}

/** What the others fell by: the commonest first, one of each. */
function Fallen({ soFar }: { soFar: DesignSoFar }) {
  const all = fallenBy(soFar.outcomes);
  if (all.length === 0) return null;
  return (
    <details className="mt-4" open={soFar.outcomes.every(({ ok }) => !ok)}>
      <summary className="cursor-pointer font-bold">Why the others were ruled out</summary>
      <ul className="mt-1 list-disc pl-6">
        {all.map(({ by, count, such }) => (
          <li key={by} className="mt-1">
            <b>{by}</b> ({count}), such as {such.title}: {such.reason}.
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The designs of a question, as they come. */
export function Results({ soFar }: { soFar: DesignSoFar }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  // What was chosen stands above the list: it comes into sight, and the keyboard goes there.
  const choose = ({ title }: Designed) => {
    setChosen(title);
    heading.current?.scrollIntoView({ block: 'start' });
    heading.current?.focus({ preventScroll: true });
  };
  const { question, outcomes, done, total } = soFar;
  const isMore = designGoal(question.goal)?.wantsEnergy?.({ E: question.typed['E']?.trim() || NaN }) ?? false;
  const all = ranked(
    outcomes.filter((one): one is Designed => one.ok),
    isMore,
  );
  const front = all.filter(({ beaten }) => beaten === null).length;
  const at = Math.max(
    0,
    all.findIndex(({ one }) => one.title === chosen),
  );
  const shown = all[at];
  const isDone = done >= total;
  return (
    <>
      <p role="status" className="mt-2">
        <b className="figure text-24">{all.length}</b> of {total} designs meet the goal with every limit judged and the margin
        kept
        {isDone ? '' : ', so far'}
        {front > 0 &&
          `; nothing beats ${front === 1 ? 'the first' : `the first ${front}`} in cost, energy, margin and mass at once`}
        .
        {shown?.one.reached.some((one) => printReached(one) !== null) &&
          (question.atWorst
            ? ' It is met at the worst corner; below each nominal value stands what it comes to over all tolerances.'
            : ' It is met at nominal values; below each stands what it comes to over all tolerances.')}
      </p>
      {isDone && all.length === 0 && (
        <p className="mt-2 border-l-4 border-warning pl-2">
          {total === 0
            ? 'Nothing on the shelf or in the list of what can be bought comes near it. Lower the goal, or lift a bound.'
            : 'Nothing that was tried does it. Below is what each fell by: change that wish or that bound.'}
        </p>
      )}
      {shown && (
        <>
          <One one={shown.one} place={at + 1} heading={heading} />
          <div className="mt-4">
            <Front ranked={all} chosen={shown.one} onChoose={choose} />
          </div>
          <div className="mt-2 overflow-x-auto">
            <table className="w-full border-collapse text-15 [&_td]:py-1 [&_td]:pr-3 [&_td]:align-top">
              <caption className="sr-only">Designs, those that nothing beats first</caption>
              <thead className="text-left text-14 text-dim">
                <tr className="border-b border-ink [&_th]:pr-3 [&_th]:font-normal">
                  <th scope="col">No.</th>
                  <th scope="col">Design</th>
                  {shown.one.reached.map(({ title }) => (
                    <th key={title} scope="col">
                      {title}
                    </th>
                  ))}
                  <th scope="col">{chargedTo(shown.one)}</th>
                  <th scope="col">To buy</th>
                  <th scope="col">Stored</th>
                  <th scope="col">Margin</th>
                  <th scope="col">Mass</th>
                </tr>
              </thead>
              <tbody>
                {all.slice(0, front + listed).map((one, k) => (
                  <Row key={one.one.title} ranked={one} place={k + 1} isChosen={k === at} onChoose={() => choose(one.one)} />
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      <Fallen soFar={soFar} />
    </>
  );
}
