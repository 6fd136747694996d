import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { linesLimit } from '@vast-surge/core/field';
import { printQuantity, type UnitId } from '@vast-surge/core/quantity';
import { blockIn, type RigDocument } from '@vast-surge/core/rig';
import { causesOf, symptoms, type Cause, type SymptomId } from '@vast-surge/core/study';
import { fieldTyped } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { newBurst } from '../../ui/burst.ts';
import { RigDesk } from '../rig-desk.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);

function CauseItem({ cause, first }: { cause: Cause; first: boolean }) {
  return (
    <li className={`border-t border-rule py-2 ${cause.likely ? '' : 'text-dim'}`}>
      <p className={cause.likely ? 'text-18 font-bold' : 'text-15'}>
        {cause.likely ? cause.cause : `Unlikely: ${cause.cause.charAt(0).toLowerCase()}${cause.cause.slice(1)}`}
      </p>
      <p className="figure text-15">{cause.shown}</p>
      {cause.likely && (
        <p className={`mt-1 ${first ? 'border-l-4 border-select bg-plate px-3 py-1 text-17' : ''}`}>
          {first ? <b>Try next: </b> : 'Then: '}
          {cause.change}
        </p>
      )}
    </li>
  );
}

/** What is set, in the words of a line that is kept. */
function settingOf(document: RigDocument): string {
  const text = (slot: 'store' | 'switch', field: string) => {
    const held = blockIn(document.rig, slot).fields[field];
    return typeof held === 'object' && held ? held.text : null;
  };
  return [text('store', 'V0'), text('switch', 'd'), text('switch', 'p')].filter(Boolean).join(', ');
}

function Kept({ notes }: { notes: readonly string[] }) {
  return (
    <>
      <ul className="figure mt-2 text-14">
        {notes.map((note, i) => (
          <li key={i}>{note}</li>
        ))}
      </ul>
      <p className="text-13 text-dim">
        A self-break at a voltage that was read belongs on the Gap page, where it goes into the fit.
      </p>
    </>
  );
}

function Trials({ document, symptom }: { document: RigDocument; symptom: SymptomId }) {
  const dispatch = useAppDispatch();
  const [seen, setSeen] = useState('');
  const block = blockIn(document.rig, 'switch');
  if (!('seen' in block.fields)) return null;
  const lines = String(block.fields['seen'] ?? '');
  const notes = lines.split('\n').filter((line) => /^\s*-/.test(line));
  const title = symptoms.find((s) => s.id === symptom)?.title ?? '';
  const line = `- ${settingOf(document)}: ${(seen.trim() || title).replace(/\s+/g, ' ')}`;
  const full = lines.length + line.length + 1 > linesLimit;
  return (
    <section aria-label="Trials" className="mt-5 border-t border-rule pt-3">
      <h2 className="text-17 font-bold">Trials</h2>
      <form
        className="mt-1 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (full) return;
          const value = lines === '' ? line : `${lines}\n${line}`;
          dispatch(fieldTyped({ slot: 'switch', field: 'seen', value, burst: newBurst() }));
          setSeen('');
        }}
      >
        <label className="grow">
          What was seen at {settingOf(document)}
          <input
            className="mt-1 block w-full border border-rule bg-plate px-2 py-1"
            value={seen}
            maxLength={200}
            placeholder={title}
            onChange={(event) => setSeen(event.target.value)}
          />
        </label>
        <Button type="submit">Keep this trial</Button>
      </form>
      {full && (
        <TroubleLine look="words">
          Breakdowns and trials of this gap are {linesLimit} characters long already: take old ones out on the Gap page.
        </TroubleLine>
      )}
      <Kept notes={notes} />
    </section>
  );
}

function Helper({ id, document }: { id: string; document: RigDocument }) {
  const [symptom, setSymptom] = useState<SymptomId>('no-spark');
  const causes = useMemo(() => causesOf(document.rig, symptom, print), [document.rig, symptom]);
  return (
    <>
      <h1 className="text-20 font-bold">Troubleshoot {document.name}</h1>
      <p className="border-l-4 border-ink bg-plate px-3 py-1">
        Treat it as charged whatever it did: bleed, verify with a meter rated for the voltage and strap it before you turn
        anything. One change at a time.
      </p>
      <div className="mt-3 grid gap-6 md:grid-cols-[280px_minmax(0,1fr)]">
        <fieldset>
          <legend className="font-bold">Symptom</legend>
          {symptoms.map(({ id: of, title }) => (
            <label
              key={of}
              className={`flex items-baseline gap-2 border-b border-rule py-2 ${symptom === of ? 'font-bold' : ''}`}
            >
              <input type="radio" name="symptom" value={of} checked={symptom === of} onChange={() => setSymptom(of)} />
              {title}
            </label>
          ))}
        </fieldset>
        <div className="min-w-0">
          <section aria-label="Causes" aria-live="polite">
            {!causes.some((c) => c.likely) && (
              <p className="text-17">Nothing entered points to a usual cause: check what is entered against the rig itself.</p>
            )}
            <ol>
              {causes.map((cause, i) => (
                <CauseItem key={cause.id} cause={cause} first={i === 0} />
              ))}
            </ol>
          </section>
          <Trials document={document} symptom={symptom} />
          <p className="mt-4 flex gap-5">
            <Link className="text-select underline" to={`/rigs/${id}/gap`}>
              Gap
            </Link>
          </p>
        </div>
      </div>
    </>
  );
}

/** From what is seen, through the rig's own numbers, to the one change to try next. */
export function CommissionView() {
  return <RigDesk width="max-w-[1100px]">{(document, id) => <Helper id={id} document={document} />}</RigDesk>;
}
