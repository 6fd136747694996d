import { useEffect, useRef, useState, type RefObject } from 'react';
import { Link } from 'react-router';
import type { StoredCampaign } from '@vast-surge/contract';
import { checkIds, expectedAt, isSetTo, rigSetTo, type Gate, type Kept, type Place } from '@vast-surge/core/campaign';
import type { RigDocument } from '@vast-surge/core/rig';
import { axisOf } from '@vast-surge/core/shot';
import { rigReplaced } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { CheckForm } from './check-form.tsx';
import { LogShot } from './log-shot.tsx';
import { Better, Settings } from './settings-to-make.tsx';
import { useVerdict, type Known } from './use-verdict.ts';

function Gates({ rigId, gates }: { rigId: string; gates: readonly Gate[] }) {
  const open = gates.filter(({ ok }) => !ok);
  const line = ({ id, title, ok, says, act, page }: Gate) => (
    <li key={id} className="border-t border-rule py-1">
      <b className={ok ? '' : 'text-over'}>{ok ? '✓' : '✗'}</b> {title}: <span className="text-dim">{says}</span>
      {act !== null && (
        <p className="pl-5 font-bold">
          {page === undefined ? (
            act
          ) : (
            <Link className="text-select underline" to={`/rigs/${rigId}/${page}`}>
              {act}
            </Link>
          )}
          {/[.?!]$/.test(act) ? '' : '.'}
        </p>
      )}
    </li>
  );
  return (
    <>
      <ul aria-label="What stands against it" className="mt-2">
        {open.map(line)}
      </ul>
      <details className="mt-1">
        <summary>{gates.length - open.length} checked and in order</summary>
        <ul>{gates.filter(({ ok }) => ok).map(line)}</ul>
      </details>
    </>
  );
}

/** What a shot is expected to come to, in words. */
function expectedWords(kept: Kept, place: Place): string | null {
  const { print } = axisOf(kept.campaign.answers);
  const expected = expectedAt(kept, place.setting);
  if (!expected) return null;
  const { value, low, high, share, calculated } = expected;
  return `Expected: ${print(value)}, in ${share} of 100 from ${print(low)} to ${print(high)}${calculated === null ? ', by the shots so far' : ` (calculated: ${print(calculated)})`}`;
}

/** The key that goes to the reading of the next shot, wherever one is on the page. */
function useLogKey(log: RefObject<HTMLInputElement | null>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
      if (event.key !== 'l' || event.ctrlKey || event.metaKey || event.altKey || typing) return;
      event.preventDefault();
      log.current?.focus();
      log.current?.scrollIntoView({ block: 'center' });
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [log]);
}

const Person = ({ label, value, onText }: { label: string; value: string; onText: (text: string) => void }) => (
  <label>
    {label}{' '}
    <input
      className="w-16 border border-rule bg-plate px-2 py-0.5"
      value={value}
      maxLength={12}
      onChange={(event) => onText(event.target.value)}
    />
  </label>
);

/** The run sheet of the setting, once the rig stands at it. */
function ToSheet({ rigId, document, place }: { rigId: string; document: RigDocument; place: Place }) {
  const dispatch = useAppDispatch();
  const { values } = place.setting;
  return (
    <p className="no-print mt-2 flex flex-wrap items-baseline gap-3">
      {isSetTo(document.rig, values) ? (
        <Link className="text-select underline" to={`/rigs/${rigId}/run-sheet`}>
          Run sheet of this setting
        </Link>
      ) : (
        <Button onClick={() => dispatch(rigReplaced(rigSetTo(document.rig, values)))}>
          Set the rig to it, for its run sheet
        </Button>
      )}
    </p>
  );
}

/** What is said where no shot is left. */
const NoneLeft = ({ progress: { closed } }: Pick<Kept, 'progress'>) => (
  <section aria-label="Next shot" className="mt-3 border-l-4 border-select bg-plate p-3">
    <p className="text-18">
      {closed
        ? `Closed by ${closed.by}: ${closed.text}`
        : 'Every shot is fired or left out. Write the answer down, and close the campaign.'}
    </p>
  </section>
);

/** The next shot: what to set, whether it may be fired, what to expect, and where what was read goes. */
function Next({ stored, kept, place, known }: { stored: StoredCampaign; kept: Kept; place: Place; known: Known }) {
  const { progress } = kept;
  const { document } = known;
  const [acts, setActs] = useState('');
  const [reads, setReads] = useState('');
  const { verdict, sheet, checks } = useVerdict(kept, known, [acts, reads]);
  const log = useRef<HTMLInputElement>(null);
  useLogKey(log);
  const last = progress.places.find(({ shots }) => shots.some(({ id }) => id === progress.last?.id)) ?? null;
  const isGo = verdict.word === 'go at most';
  // By half of what is known it would say something else a moment later.
  const expected = known.isLearning ? 'Expected: being calculated' : expectedWords(kept, place);
  return (
    <section aria-label="Next shot" className={`mt-3 border-l-4 bg-plate p-3 ${isGo ? 'border-select' : 'border-warning'}`}>
      <h2 className="text-17 font-bold">
        Next: shot {place.place + 1} of {progress.places.length}
        {place.shots.length > 0 && `, again after ${place.shots.length === 1 ? 'one' : place.shots.length} that did not fire`}
      </h2>
      <Settings rig={document.rig} place={place} before={last} />
      <Better key={place.place} stored={stored} kept={kept} place={place} by={acts} />
      {expected !== null && <p className="mt-1">{expected}.</p>}
      <p className="mt-2 text-20 font-bold">{isGo ? sheet.says : `By what was entered and calculated: ${verdict.word}.`}</p>
      <p className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
        <Person label="Acts" value={acts} onText={setActs} />
        <Person label="Reads" value={reads} onText={setReads} />
      </p>
      <Gates rigId={stored.rigId} gates={verdict.gates} />
      {checks && <CheckForm by={acts} open={checkIds.filter((one) => verdict.gates.some(({ id, ok }) => id === one && !ok))} />}
      <ToSheet rigId={stored.rigId} document={document} place={place} />
      <LogShot
        key={`${place.place}-${place.shots.length}`}
        stored={stored}
        place={place}
        people={[acts, reads]}
        all={known.all}
        first={log}
      />
    </section>
  );
}

export const NextShot = ({ stored, kept, known }: { stored: StoredCampaign; kept: Kept; known: Known }) =>
  kept.progress.next ? (
    <Next stored={stored} kept={kept} place={kept.progress.next} known={known} />
  ) : (
    <NoneLeft progress={kept.progress} />
  );
