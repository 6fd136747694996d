import { useState } from 'react';
import { midSentence } from '@vast-surge/core/rig';
import { slotTitles } from '@vast-surge/core/kind';
import type { Evaluation } from '@vast-surge/core/evaluation';
import { limitState, wordUse, type Limit, type Relief } from '@vast-surge/core/limit';
import { printPercent, printQuantity, type UnitId } from '@vast-surge/core/quantity';
import { valueSet } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Bar, limitWords } from '../../ui/gauge.tsx';
import { useHigh } from '../../ui/use-wide.ts';

/** Stresses without a unit are fractions: a reversal reads as per cent. */
const printStress = (value: number, unit: UnitId): string =>
  unit === '1' ? printPercent(value) : printQuantity(value, unit, { trim: true });

function ReliefLine({ relief, first }: { relief: Relief; first: boolean }) {
  const dispatch = useAppDispatch();
  const { path, value } = relief;
  return (
    <li>
      {first ? 'To relieve it: ' : 'or '}
      {relief.direction} {slotTitles[relief.slot].toLowerCase()}, {midSentence(relief.title)}, to{' '}
      <b className="figure whitespace-nowrap">{printQuantity(relief.value, relief.unit, { trim: true })}</b>{' '}
      <button
        type="button"
        className="text-select underline"
        onClick={() => dispatch(valueSet({ path, value }))}
        aria-label={`Set ${slotTitles[relief.slot]} ${relief.title} to ${printQuantity(relief.value, relief.unit, { trim: true })}`}
      >
        set
      </button>
    </li>
  );
}

function Rung({ limit, onTouch }: { limit: Limit; onTouch: (focus: string) => void }) {
  const over = limitState(limit) === 'over';
  return (
    <div className={`border-b border-rule py-1 ${over ? 'text-over' : ''}`} data-limit={limit.id} data-state={limitState(limit)}>
      <button type="button" className="w-full text-left" onClick={() => onTouch(`limit:${limit.id}`)} title={limit.note}>
        <span className="flex items-baseline justify-between gap-2">
          <span className={`text-13 leading-tight ${over ? 'font-bold' : ''}`}>
            {limit.title}
            {over ? ', over' : ''}
          </span>
          <b className="figure whitespace-nowrap">{limit.worst === null ? '' : wordUse(limit.worst)}</b>
        </span>
        {limit.rating && <Bar limit={limit} className="mt-0.5 h-[7px]" />}
        <span className="block text-12 leading-tight text-dim">
          <span className="figure">{printStress(limit.stress.value, limit.stress.unit)}</span>
          {limit.rating ? (
            <>
              {' '}
              of <span className="figure">{printStress(limit.rating.value, limit.rating.unit)}</span>
              <span className="sr-only">, {limitWords(limit)} in the worst case</span>
            </>
          ) : (
            ', no rating given: it cannot be judged'
          )}
        </span>
      </button>
      {limit.relief.length > 0 && (
        <ul className="mt-1 text-13 text-ink" aria-label="One of these relieves it">
          {limit.relief.map((relief, i) => (
            <ReliefLine key={relief.path} first={i === 0} relief={relief} />
          ))}
        </ul>
      )}
    </div>
  );
}

/** Limits that are seen before somebody asks for the others; what is over always is. */
const few = 6;
const fewOnHigh = 10;

/** Limits without a rating: nothing is judged of them. */
function Unrated({ limits, onTouch }: { limits: readonly Limit[]; onTouch: (focus: string) => void }) {
  return (
    <>
      <h3 className="mt-3 text-14 font-bold">Not judged: enter a rating</h3>
      <ul className="text-13">
        {limits.map((limit) => (
          <li key={limit.id} className="border-b border-rule py-1">
            <button
              type="button"
              className="flex w-full justify-between gap-2 text-left"
              onClick={() => onTouch(`limit:${limit.id}`)}
            >
              <span>{limit.title}</span>
              <span className="figure whitespace-nowrap">{printStress(limit.stress.value, limit.stress.unit)}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Every stress against its rating, tightest first. */
export function LimitsLadder({ evaluation, onTouch }: { evaluation: Evaluation; onTouch: (focus: string) => void }) {
  const { limits, blind } = evaluation.ladder;
  const rated = limits.filter((l) => l.rating);
  const unrated = limits.filter((l) => !l.rating);
  const [isOpen, setOpen] = useState(false);
  const over = rated.filter((limit) => limitState(limit) === 'over').length;
  const shown = Math.max(useHigh() ? fewOnHigh : few, over);
  return (
    <section aria-label="Limits" className="min-h-0 overflow-y-auto border-rule px-5 py-2 lg:border-l">
      <div className="flex items-baseline justify-between">
        <h2 className="text-17 font-bold">Limits</h2>
        <span className="text-13 text-dim">
          {isOpen || rated.length <= shown ? rated.length : `${shown} of ${rated.length}`}, tightest first, worst case
        </span>
      </div>
      <ol>
        {rated.map((limit, i) => (
          <li key={limit.id} hidden={!isOpen && i >= shown}>
            <Rung limit={limit} onTouch={onTouch} />
          </li>
        ))}
      </ol>
      {rated.length > shown && (
        <button
          type="button"
          className="mt-1 min-h-[24px] text-14 text-select underline"
          aria-expanded={isOpen}
          onClick={() => setOpen(!isOpen)}
        >
          {isOpen
            ? 'The tightest alone'
            : `${rated.length - shown} more, all at ${printPercent(rated[shown]?.worst ?? 0, 2)} or less`}
        </button>
      )}
      {unrated.length > 0 && <Unrated limits={unrated} onTouch={onTouch} />}
      {blind.map((limit) => (
        <p key={limit.id} className="mt-2 text-13 text-dim">
          {limit.title} cannot be worked out: {limit.reason}
        </p>
      ))}
    </section>
  );
}
