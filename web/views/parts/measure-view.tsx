import { useMemo, useState } from 'react';
import { ArrowLeft, Check } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import type { StoredPart } from '@vast-surge/contract';
import {
  actOn,
  elementsOf,
  guidedTest,
  partKind,
  startTest,
  verdictOf,
  type Measure,
  type TestRun,
  type TestStep,
} from '@vast-surge/core/part';
import { midSentence } from '@vast-surge/core/rig';
import { replaceParameters } from '../../app/address.ts';
import { useShelf } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { addReading, useConditions, type Held } from './bench-hand.ts';
import { PartsFrame } from './frame.tsx';
import { InARow } from './in-a-row.tsx';
import { Entry, HandFields, knownOf, unitOf } from './reading-entry.tsx';
import { editPart, kindWords, short } from './words.tsx';

const stepTitle = (step: TestStep): string =>
  step.step === 'discharge' ? 'Discharge' : step.step === 'verify' ? 'Verify' : step.measure.title;

function StepList({ run, elements }: { run: TestRun; elements: number }) {
  return (
    <ol className="mt-4 flex flex-wrap gap-x-1 gap-y-1 text-13">
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
        ? `${short(what.volts, 'V')} is still on it: back to discharging. Find out why before you go on: it can recover, or the stick may be open.`
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
        <p role="alert" className="mt-3 max-w-[44rem] bg-warning p-2 text-17 text-on-warning">
          ⚠ {found}
        </p>
      )}
      {step?.step === 'discharge' && (
        <div className="mt-4 max-w-[44rem]">
          <h2 className="text-28 leading-tight font-bold">Discharge it</h2>
          <p className="mt-1 text-18">{step.text}</p>
          <Button look="primary" autoFocus className="mt-3 !px-6 !py-3 text-19" onClick={() => act({ act: 'discharged' })}>
            It is discharged and strapped
          </Button>
        </div>
      )}
      {step?.step === 'verify' && (
        <div className="mt-4 max-w-[44rem]">
          <h2 className="text-28 leading-tight font-bold">Verify: what does the meter read?</h2>
          <p className="mt-1 text-18">{step.text}</p>
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
          <h2 className="text-28 leading-tight font-bold">
            {step.measure.title}
            {elementsOf(part) > 1 && step.measure.perElement && `, ${step.between ?? `element ${step.element}`}`}
          </h2>
          <p className="mt-1 text-18">{step.measure.how}</p>
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
            Skip this one
          </Button>
        </div>
      )}
      {!step && (
        <div className="mt-4 max-w-[44rem]">
          <h2 className="text-28 font-bold">Done with {part.tag}</h2>
          {verdict ? (
            <p className="mt-1 text-18">
              Its readings say <b>{verdict.condition}</b>: {verdict.reason}.
            </p>
          ) : (
            <p className="mt-1 text-18">Its readings say nothing of its condition yet.</p>
          )}
          {partKind(part.kind).holdsCharge && <p className="mt-1 text-18">Strap it before you put it down.</p>}
          <div className="mt-3 flex flex-wrap gap-2">
            {verdict && verdict.condition !== part.condition && (
              <Button look="primary" onClick={() => editPart(stored, 'condition', verdict.condition)}>
                Record as {verdict.condition}
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

/** Measures that may be read in a row: of parts of one kind with one element each, and such as leave nothing charged. */
function rowMeasures(parts: readonly StoredPart[]): readonly Measure[] {
  const [first] = parts;
  if (!first || parts.length < 2) return [];
  if (parts.some((p) => p.part.kind !== first.part.kind || elementsOf(p.part) > 1)) return [];
  return partKind(first.part.kind).measures.filter((m) => m.charges !== true);
}

export function MeasureView() {
  const shelf = useShelf();
  const [params] = useSearchParams();
  const wanted = params.get('parts') ?? '';
  const parts = useMemo(() => {
    const byId = new Map(shelf.parts.map((p) => [p.id, p]));
    return wanted.split(',').flatMap((id) => byId.get(id) ?? []);
  }, [shelf.parts, wanted]);
  const [at, setAt] = useState(0);
  const held = useConditions();
  const rows = rowMeasures(parts);
  const [row, setRow] = useState(params.get('row') ?? '');
  const inRow = rows.find((m) => m.id === row);
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
                onClick={() => {
                  setRow(id);
                  replaceParameters(id === '' ? { parts: wanted } : { parts: wanted, row: id });
                }}
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
            <p className="mt-3 text-20">
              <b className="figure text-26">{stored.part.tag}</b> {stored.part.name}{' '}
              <span className="text-dim">
                {kindWords(stored.part)}
                {parts.length > 1 && `, ${at + 1} of ${parts.length}`}
              </span>
            </p>
            {guidedTest(stored.part).length > 0 && (
              <Guided key={stored.id} stored={stored} held={held} onDone={() => setAt(at + 1)} />
            )}
            <ul className="mt-5 max-w-[44rem] list-disc pl-5 text-14">
              {partKind(stored.part.kind).cautions.map((caution) => (
                <li key={caution}>{caution}</li>
              ))}
            </ul>
          </>
        ) : (
          shelf.loaded && (
            <p className="mt-4 text-20">
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
