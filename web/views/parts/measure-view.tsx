import { useMemo, useState, type FormEvent } from 'react';
import { ArrowLeft, Check } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import type { StoredPart } from '@vast-surge/contract';
import {
  actOn,
  elementsOf,
  guidedTest,
  labelOf,
  measuredOf,
  partKind,
  readingIssue,
  startTest,
  verdictOf,
  verifiedBelow,
  type Measure,
  type TestRun,
  type TestStep,
} from '@vast-surge/core/part';
import { parseQuantity, unitName, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import { midSentence } from '@vast-surge/core/rig';
import { useShelf, writeBench } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { saveHand, savedHand, type Hand } from './bench-hand.ts';
import { PartsFrame } from './frame.tsx';
import { editPart, kindWords, short, signedPercent } from './words.tsx';

const underUnits = { frequency: 'Hz', voltage: 'V', current: 'A' } as const satisfies Record<string, UnitId>;

/** Nobody reads whole farads or henries off a meter: a bare number is a slip until a prefix was shown. */
const needsUnit: readonly UnitId[] = ['F', 'H'];

/** The prefix and unit in which a value that is known is printed: "µF" of 35.3 µF. */
const unitOf = (value: number | null, unit: UnitId): string =>
  value === null || value === 0 ? '' : unitTyped(short(value, unit));

/** What a measure of a part is known to be: its readings, else its label. */
function knownOf({ part }: StoredPart, measure: Measure): number | null {
  return measuredOf(part, measure.id)?.mean ?? (measure.field === undefined ? null : labelOf(part, measure.field));
}

/** A value as it is read off a meter; a bare number is taken in the unit shown. */
function readTyped(text: string, unit: UnitId, last: string): { ok: true; value: number } | { ok: false; reason: string } {
  const bare = /^[-+]?[\d.,]+$/.test(text.trim());
  // On the meter only the digits change from part to part: the prefix typed last goes on.
  const prefix = bare && last !== '' ? ` ${last}` : '';
  if (bare && prefix === '' && needsUnit.includes(unit))
    return {
      ok: false,
      reason: `write it with its unit, such as ${unit === 'F' ? '35 µF' : '2 mH'}; the next ones may then be bare numbers`,
    };
  const parsed = parseQuantity(text + prefix, unit);
  if (!parsed.ok) return { ok: false, reason: wordQuantityIssue(parsed.issue) };
  if (parsed.quantity.tolerance) return { ok: false, reason: 'a reading has no tolerance' };
  return { ok: true, value: parsed.quantity.value };
}

const unitTyped = (text: string): string => /^\s*[\d.,]+\s*([a-zA-ZµμΩ%]+)\s*$/.exec(text)?.[1] ?? '';

/** The unit a bare number is taken in: the prefix typed last, written out. */
const unitWords = (hint: string, unit: UnitId): string =>
  /^[fpnuµμmkMGT]$/.test(hint) ? `${hint.replace(/[uμ]/, 'µ')}${unitName(unit)}` : hint || unitName(unit);

interface EntryProps {
  readonly label: string;
  readonly unit: UnitId;
  readonly unitHint: string;
  readonly onUnit: (unit: string) => void;
  /** @returns why the value was not taken, or null */
  readonly onValue: (value: number) => string | null;
}

/** One reading, huge: type, Enter, next. */
function Entry({ label, unit, unitHint, onUnit, onValue }: EntryProps) {
  const [text, setText] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const read = readTyped(text, unit, unitHint);
    const refused = read.ok ? onValue(read.value) : read.reason;
    setSaid(refused);
    if (refused === null) {
      const typed = unitTyped(text);
      if (typed !== '') onUnit(typed);
      setText('');
    }
  };
  return (
    <form onSubmit={submit} className="mt-3 max-w-[34rem]">
      <label className="sr-only" htmlFor="reading">
        {label}
      </label>
      <div className={`flex items-center border-2 bg-plate ${said ? 'border-over' : 'border-ink'}`}>
        <input
          // In the hand from the first instant: the next digits come off the meter at once.
          autoFocus
          id="reading"
          className="figure min-w-0 flex-1 bg-transparent px-3 py-2 text-[34px] outline-none"
          autoComplete="off"
          spellCheck={false}
          inputMode="text"
          aria-invalid={said !== null}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <span className="px-3 text-[20px] text-dim">{unitWords(unitHint, unit)}</span>
        <button type="submit" className="border-l-2 border-ink px-4 py-3 font-bold">
          Enter
        </button>
      </div>
      {said !== null && (
        <p role="alert" className="mt-1 font-bold text-over">
          {label}: {said}. Nothing was written.
        </p>
      )}
    </form>
  );
}

interface Conditions {
  /** By measure: frequency, voltage or current, as typed. */
  readonly under: Readonly<Record<string, string>>;
  readonly hand: Hand;
  readonly units: Readonly<Record<string, string>>;
}

function useConditions() {
  const [conditions, setConditions] = useState<Conditions>(() => ({ under: {}, hand: savedHand(), units: {} }));
  const setHand = (hand: Hand) => {
    saveHand(hand);
    setConditions((c) => ({ ...c, hand }));
  };
  return {
    ...conditions,
    setHand,
    setUnder: (id: string, text: string) => setConditions((c) => ({ ...c, under: { ...c.under, [id]: text } })),
    setUnit: (id: string, unit: string) => setConditions((c) => ({ ...c, units: { ...c.units, [id]: unit } })),
  };
}

type Held = ReturnType<typeof useConditions>;

function underOf(measure: Measure, { under }: Conditions): { ok: true; value: number | null } | { ok: false; reason: string } {
  const text = under[measure.id] ?? '';
  if (measure.at === undefined || text.trim() === '') return { ok: true, value: null };
  const read = parseQuantity(text, underUnits[measure.at]);
  return read.ok
    ? { ok: true, value: read.quantity.value }
    : { ok: false, reason: `${measure.at} ${wordQuantityIssue(read.issue)}` };
}

/** Adds a reading. @returns why it was not, or null */
function addReading(stored: StoredPart, measure: Measure, element: number, value: number, held: Conditions): string | null {
  const under = underOf(measure, held);
  if (!under.ok) return under.reason;
  const { instrument, by } = held.hand;
  writeBench({
    do: 'read',
    readings: [
      {
        partId: stored.id,
        reading: { measure: measure.id, element, value, at: new Date().toISOString(), instrument, under: under.value, by },
      },
    ],
  });
  return null;
}

function HandFields({ measure, held }: { measure: Measure | null; held: Held }) {
  const field = 'w-full border border-rule bg-plate px-2 py-1';
  return (
    <div className="mt-3 grid max-w-[34rem] grid-cols-1 gap-2 sm:grid-cols-3">
      <label className="text-[13px] text-dim">
        Instrument
        <input
          className={`${field} text-ink`}
          maxLength={80}
          value={held.hand.instrument}
          onChange={(event) => held.setHand({ ...held.hand, instrument: event.target.value })}
        />
      </label>
      <label className="text-[13px] text-dim">
        Who
        <input
          className={`${field} text-ink`}
          maxLength={40}
          value={held.hand.by}
          onChange={(event) => held.setHand({ ...held.hand, by: event.target.value })}
        />
      </label>
      {measure?.at !== undefined && (
        <label className="text-[13px] text-dim">
          At which {measure.at}
          <input
            className={`figure ${field} text-ink`}
            placeholder={measure.at === 'frequency' ? '120 Hz' : measure.at === 'voltage' ? '500 V' : '10 mA'}
            value={held.under[measure.id] ?? ''}
            onChange={(event) => held.setUnder(measure.id, event.target.value)}
          />
        </label>
      )}
    </div>
  );
}

const stepTitle = (step: TestStep): string =>
  step.step === 'discharge' ? 'Discharge' : step.step === 'verify' ? 'Verify' : step.measure.title;

function StepList({ run, elements }: { run: TestRun; elements: number }) {
  return (
    <ol className="mt-4 flex flex-wrap gap-x-1 gap-y-1 text-[13px]">
      {run.steps.map((step, i) => (
        <li
          key={i}
          aria-current={i === run.at ? 'step' : undefined}
          className={`flex items-center gap-1 border px-2 py-0.5 ${i === run.at ? 'border-ink bg-ink font-bold text-plate' : 'border-rule'} ${i > run.at ? 'text-dim' : ''}`}
        >
          {i < run.at && <Check size={13} aria-label="done" />}
          {stepTitle(step)}
          {step.step === 'measure' && elements > 1 && step.measure.perElement && ` ${step.element}`}
        </li>
      ))}
    </ol>
  );
}

/** One part, step by step in the order that is enforced. */
function Guided({ stored, held, onDone }: { stored: StoredPart; held: Held; onDone: () => void }) {
  const { part } = stored;
  const [run, setRun] = useState<TestRun>(() => startTest(part));
  const [found, setFound] = useState<string | null>(null);
  const step = run.steps[run.at];
  const act = (what: Parameters<typeof actOn>[2]): string | null => {
    const answer = actOn(part, run, what);
    if (!answer.ok) return answer.reason;
    if (answer.measured && what.act === 'measured') {
      const refused = addReading(stored, answer.measured.measure, answer.measured.element, what.value, held);
      if (refused !== null) return refused;
    }
    setFound(
      what.act === 'verified' && !answer.run.verified
        ? `${short(what.volts, 'V')} is still on it: back to discharging. Find out why before you go on: it can recover, or the tool may be open.`
        : null,
    );
    setRun(answer.run);
    return null;
  };
  const verdict = verdictOf(part);
  return (
    <section aria-label={`Guided test of ${part.tag}`}>
      <StepList run={run} elements={elementsOf(part)} />
      {found !== null && (
        <p role="alert" className="mt-3 max-w-[44rem] bg-warning p-2 text-[17px] text-on-warning">
          ⚠ {found}
        </p>
      )}
      {step?.step === 'discharge' && (
        <div className="mt-4 max-w-[44rem]">
          <h2 className="text-[28px] leading-tight font-bold">Discharge it</h2>
          <p className="mt-1 text-[18px]">{step.text}</p>
          <Button look="primary" autoFocus className="mt-3 !px-6 !py-3 text-[19px]" onClick={() => act({ act: 'discharged' })}>
            It is discharged and strapped
          </Button>
        </div>
      )}
      {step?.step === 'verify' && (
        <div className="mt-4 max-w-[44rem]">
          <h2 className="text-[28px] leading-tight font-bold">Verify: what does the meter read?</h2>
          <p className="mt-1 text-[18px]">{step.text}</p>
          <Entry
            key={run.at}
            label="Voltage found"
            unit="V"
            unitHint={held.units['verify'] ?? ''}
            onUnit={(unit) => held.setUnit('verify', unit)}
            onValue={(volts) => act({ act: 'verified', volts })}
          />
        </div>
      )}
      {step?.step === 'measure' && (
        <div className="mt-4 max-w-[44rem]">
          <h2 className="text-[28px] leading-tight font-bold">
            {step.measure.title}
            {elementsOf(part) > 1 && step.measure.perElement && `, ${step.between ?? `element ${step.element}`}`}
          </h2>
          <p className="mt-1 text-[18px]">{step.measure.how}</p>
          <Entry
            key={run.at}
            label={step.measure.title}
            unit={step.measure.unit}
            unitHint={held.units[step.measure.id] ?? unitOf(knownOf(stored, step.measure), step.measure.unit)}
            onUnit={(unit) => held.setUnit(step.measure.id, unit)}
            onValue={(value) => act({ act: 'measured', value })}
          />
          <HandFields measure={step.measure} held={held} />
          <Button className="mt-3" onClick={() => act({ act: 'skipped' })}>
            Leave this one out
          </Button>
        </div>
      )}
      {!step && (
        <div className="mt-4 max-w-[44rem]">
          <h2 className="text-[28px] font-bold">Done with {part.tag}</h2>
          {verdict ? (
            <p className="mt-1 text-[18px]">
              Its readings say <b>{verdict.condition}</b>: {verdict.reason}.
            </p>
          ) : (
            <p className="mt-1 text-[18px]">Its readings say nothing of its condition yet.</p>
          )}
          {partKind(part.kind).holdsCharge && <p className="mt-1 text-[18px]">Strap it before you put it down.</p>}
          <div className="mt-3 flex flex-wrap gap-2">
            {verdict && verdict.condition !== part.condition && (
              <Button look="primary" onClick={() => editPart(stored, 'condition', verdict.condition)}>
                Take it as {verdict.condition}
              </Button>
            )}
            <Button autoFocus look={verdict && verdict.condition !== part.condition ? 'plain' : 'primary'} onClick={onDone}>
              Next part
            </Button>
          </div>
        </div>
      )}
    </section>
  );
}

/** One measure of many parts in a row, once every one of them is discharged and verified. */
function InARow({ parts, measure, held }: { parts: readonly StoredPart[]; measure: Measure; held: Held }) {
  const [at, setAt] = useState(0);
  const [highest, setHighest] = useState<number | null>(null);
  const charge = parts.some((p) => partKind(p.part.kind).holdsCharge);
  const stored = parts[at];
  if (charge && highest === null)
    return (
      <div className="mt-4 max-w-[44rem]">
        <h2 className="text-[28px] leading-tight font-bold">First all {parts.length}: discharge, then verify</h2>
        <p className="mt-1 text-[18px]">
          Each one through a resistor tool, terminal by terminal and to the case, then a strap. Strap off one at a time, a meter
          rated for its voltage between every two terminals and to the case. Type the highest reading of all; each must stay below{' '}
          {short(verifiedBelow, 'V')}.
        </p>
        <Entry
          label="Highest voltage found"
          unit="V"
          unitHint={held.units['verify'] ?? ''}
          onUnit={(unit) => held.setUnit('verify', unit)}
          onValue={(volts) => {
            if (Math.abs(volts) >= verifiedBelow)
              return `${short(volts, 'V')} is still on one of them, and it must be below ${short(verifiedBelow, 'V')}: discharge it, find out why, and verify all of them again`;
            setHighest(volts);
            return null;
          }}
        />
      </div>
    );
  if (!stored)
    return (
      <div className="mt-4">
        <h2 className="text-[28px] font-bold">All {parts.length} are read</h2>
        {charge && <p className="text-[18px]">Strap each before you put it away.</p>}
        <Link className="mt-3 inline-block border border-ink bg-ink px-4 py-2 font-bold text-plate" to="/parts">
          Back to the shelf
        </Link>
      </div>
    );
  const last = measuredOf(stored.part, measure.id);
  return (
    <div className="mt-4">
      <h2 className="text-[28px] leading-tight font-bold">
        <span className="figure">{stored.part.tag}</span>: {midSentence(measure.title)}
      </h2>
      <p className="text-[18px]">
        {at + 1} of {parts.length}. {stored.part.name}
        {last && `, so far ${short(last.mean, measure.unit)}`}
      </p>
      <Entry
        key={at}
        label={`${measure.title} of ${stored.part.tag}`}
        unit={measure.unit}
        unitHint={held.units[measure.id] ?? unitOf(knownOf(stored, measure), measure.unit)}
        onUnit={(unit) => held.setUnit(measure.id, unit)}
        onValue={(value) => {
          const issue = readingIssue(stored.part.kind, measure.id, value);
          if (issue !== null) return issue;
          const refused = addReading(stored, measure, 1, value, held);
          if (refused === null) setAt(at + 1);
          return refused;
        }}
      />
      <HandFields measure={measure} held={held} />
      <div className="mt-3 flex gap-2">
        <Button disabled={at === 0} onClick={() => setAt(at - 1)}>
          Back to {parts[at - 1]?.part.tag ?? 'the one before'}
        </Button>
        <Button onClick={() => setAt(at + 1)}>Leave {stored.part.tag} out</Button>
      </div>
      <ol className="mt-4 flex flex-wrap gap-1 text-[13px]">
        {parts.map((p, i) => {
          const m = measuredOf(p.part, measure.id);
          return (
            <li
              key={p.id}
              className={`border px-2 py-0.5 ${i === at ? 'border-ink bg-ink text-plate' : 'border-rule'}`}
              aria-current={i === at ? 'step' : undefined}
            >
              <b className="figure">{p.part.tag}</b>
              {m && (
                <>
                  {' '}
                  <span className="figure">{short(m.mean, measure.unit)}</span>
                  {m.fromLabel !== null && ` ${signedPercent(m.fromLabel)}`}
                </>
              )}
            </li>
          );
        })}
      </ol>
    </div>
  );
}

/** Measures that may be read in a row: of parts of one kind with one element each, and such as leave nothing charged. */
function rowMeasures(parts: readonly StoredPart[]): readonly Measure[] {
  const [first] = parts;
  if (!first || parts.length < 2) return [];
  if (parts.some((p) => p.part.kind !== first.part.kind || elementsOf(p.part) > 1)) return [];
  return partKind(first.part.kind).measures.filter((m) => m.charges !== true);
}

export function MeasureView() {
  const shelf = useShelf();
  const [params, setParams] = useSearchParams();
  const wanted = params.get('parts') ?? '';
  const parts = useMemo(() => {
    const byId = new Map(shelf.parts.map((p) => [p.id, p]));
    return wanted.split(',').flatMap((id) => byId.get(id) ?? []);
  }, [shelf.parts, wanted]);
  const [at, setAt] = useState(0);
  const held = useConditions();
  const rows = rowMeasures(parts);
  const inRow = rows.find((m) => m.id === params.get('row'));
  const stored = parts[at];
  return (
    <PartsFrame shelf={shelf}>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3 sm:px-8">
        <Link
          className="inline-flex items-center gap-1 text-select underline"
          to={stored ? `/parts?part=${stored.id}` : '/parts'}
        >
          <ArrowLeft size={16} aria-hidden /> Back to the shelf
        </Link>
        {rows.length > 0 && (
          <div role="group" aria-label="How to measure" className="mt-3 flex flex-wrap">
            {[
              { id: '', title: 'One part after the other' },
              ...rows.map((m) => ({ id: m.id, title: `Only ${midSentence(m.title)}, in a row` })),
            ].map(({ id, title }) => (
              <button
                key={id}
                type="button"
                aria-pressed={(inRow?.id ?? '') === id}
                className={`border border-rule px-3 py-1 ${(inRow?.id ?? '') === id ? 'bg-ink font-bold text-plate' : 'bg-plate hover:border-ink'}`}
                onClick={() => setParams(id === '' ? { parts: wanted } : { parts: wanted, row: id }, { replace: true })}
              >
                {title}
              </button>
            ))}
          </div>
        )}
        {inRow ? (
          <InARow key={`${inRow.id} ${wanted}`} parts={parts} measure={inRow} held={held} />
        ) : stored ? (
          <>
            <p className="mt-3 text-[20px]">
              <b className="figure text-[26px]">{stored.part.tag}</b> {stored.part.name}{' '}
              <span className="text-dim">
                {kindWords(stored.part)}
                {parts.length > 1 && `, ${at + 1} of ${parts.length}`}
              </span>
            </p>
            {guidedTest(stored.part).length > 0 && (
              <Guided key={stored.id} stored={stored} held={held} onDone={() => setAt(at + 1)} />
            )}
            <ul className="mt-5 max-w-[44rem] list-disc pl-5 text-[14px]">
              {partKind(stored.part.kind).cautions.map((caution) => (
                <li key={caution}>{caution}</li>
              ))}
            </ul>
          </>
        ) : (
          shelf.loaded && (
            <p className="mt-4 text-[20px]">
              {parts.length > 0 ? `All ${parts.length} are done.` : 'No part to measure: choose some on the shelf first.'}{' '}
              <Link className="text-select underline" to="/parts">
                To the shelf
              </Link>
            </p>
          )
        )}
      </div>
    </PartsFrame>
  );
}
