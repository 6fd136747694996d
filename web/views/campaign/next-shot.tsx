import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { RunHead, StoredCampaign, StoredShot } from '@vast-surge/contract';
import {
  betterSetting,
  checkIds,
  expectedAt,
  isSetTo,
  lastReading,
  rigSetTo,
  settingWords,
  shotVerdict,
  turnsTold,
  type Gate,
  type Kept,
  type Place,
} from '@vast-surge/core/campaign';
import { blockIn, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { axisOf, lifeUsed } from '@vast-surge/core/shot';
import { failureOf, useListChecksQuery } from '../../app/api.ts';
import { rigReplaced } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { useStanding } from '../../workers/studies.ts';
import { CheckForm } from './check-form.tsx';
import { LogShot } from './log-shot.tsx';
import { moments } from './moments.ts';
import { useWrite } from './use-campaign.ts';

/** The time, every few seconds: a rest that ends shows by itself. */
function useClock(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 2000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

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

/** What to turn and type before the next shot: what differs from the shot before it stands out. */
function Settings({ rig, place, before }: { rig: Rig; place: Place; before: Place | null }) {
  return (
    <ul aria-label="Settings to make" className="mt-1">
      {place.setting.values.map(({ path, title, text, value }) => {
        const was = before?.setting.values.find((one) => one.path === path);
        const changes = was?.text !== text;
        const turns = was && changes ? turnsTold(rig, path, was.value, value) : null;
        return (
          <li key={path} className={changes ? 'font-bold' : ''}>
            {title} <span className="figure text-30 font-bold">{text}</span>{' '}
            <span className="text-15 font-normal text-dim">
              {was === undefined ? 'to set' : changes ? `to set; it was ${was.text}` : 'stays'}
            </span>
            {turns !== null && <span className="block text-17">{turns}</span>}
          </li>
        );
      })}
    </ul>
  );
}

/** Where the next shot teaches more than where it stands, of a campaign that goes by what was read. */
function Better({ stored, kept, place, by }: { stored: StoredCampaign; kept: Kept; place: Place; by: string }) {
  const k = useMemo(() => betterSetting(kept), [kept]);
  const { write, isWriting } = useWrite(stored.id);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [id] = useState(() => crypto.randomUUID());
  const setting = k === null ? undefined : kept.campaign.settings[k];
  if (k === null || !setting) return null;
  const take = async () => {
    if (by.trim() === '') {
      setTrouble('Enter the initials of who acts first: the book says who chose it.');
      return;
    }
    try {
      await write({ kind: 'setting', by: by.trim(), place: place.place, setting: k, text: 'it teaches the most there.' }, id);
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <div className="no-print mt-2 border-l-4 border-select pl-2">
      <p>
        By what was read, a shot teaches the most at <b>{settingWords(setting)}</b>.
      </p>
      <Button className="mt-1" disabled={isWriting} onClick={() => void take()}>
        Fire shot {place.place + 1} there
      </Button>
      {trouble !== null && (
        <p role="alert" className="font-bold text-over">
          {trouble}
        </p>
      )}
    </div>
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

/** The next shot: what to set, whether it may be fired, what to expect, and where what was read goes. */
export function NextShot({
  stored,
  kept,
  document,
  all,
  runs,
  isLearning,
}: {
  stored: StoredCampaign;
  kept: Kept;
  document: RigDocument;
  /** Every shot of the rig. */
  all: readonly StoredShot[];
  /** Runs and rehearsals of the rig. */
  runs: readonly RunHead[];
  isLearning: boolean;
}) {
  const { progress, campaign } = kept;
  const place = progress.next;
  const now = useClock();
  const dispatch = useAppDispatch();
  const [acts, setActs] = useState('');
  const [reads, setReads] = useState('');
  const standing = useStanding(document, place?.setting.values ?? null);
  const { data: checks } = useListChecksQuery(undefined, { refetchOnMountOrArgChange: true });
  const life = useMemo(
    () =>
      lifeUsed(
        document.rig,
        all.map(({ shot }) => shot),
      ),
    [document.rig, all],
  );
  const log = useRef<HTMLInputElement>(null);
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
  }, []);
  if (!place)
    return (
      <section aria-label="Next shot" className="mt-3 border-l-4 border-select bg-plate p-3">
        <p className="text-18">
          {progress.closed
            ? `Closed by ${progress.closed.by}: ${progress.closed.text}`
            : 'Every shot is fired or left out. Write the answer down, and close the campaign.'}
        </p>
      </section>
    );
  const isSet = isSetTo(document.rig, place.setting.values);
  const setRig = () => dispatch(rigReplaced(rigSetTo(document.rig, place.setting.values)));
  const last = progress.places.find(({ shots }) => shots.some(({ id }) => id === progress.last?.id)) ?? null;
  const sheet = standing?.ok
    ? { word: standing.value.word, says: standing.value.says, because: standing.value.act }
    : {
        word: 'not now',
        says: standing ? 'it cannot be calculated' : 'being calculated',
        because: standing?.reason ?? 'Wait for it',
      };
  const verdict = shotVerdict(
    campaign,
    progress,
    {
      now,
      sheet,
      checks: checks ?? [],
      rehearsed: runs.filter(({ rehearsal }) => rehearsal !== null).map(({ points }) => points),
      hasGuard: blockIn(document.rig, 'guard').kind !== 'none',
      acts,
      reads,
      reading: isLearning ? 'pending' : lastReading(kept),
      lifeUsed: life?.used ?? null,
    },
    moments,
  );
  const isGo = verdict.word === 'go at most';
  const expected = expectedWords(kept, place);
  const person = (label: string, value: string, onText: (text: string) => void) => (
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
        {person('Acts', acts, setActs)}
        {person('Reads', reads, setReads)}
      </p>
      <Gates rigId={stored.rigId} gates={verdict.gates} />
      {checks && <CheckForm by={acts} open={checkIds.filter((one) => verdict.gates.some(({ id, ok }) => id === one && !ok))} />}
      <p className="no-print mt-2 flex flex-wrap items-baseline gap-3">
        {isSet ? (
          <Link className="text-select underline" to={`/rigs/${stored.rigId}/run-sheet`}>
            Run sheet of this setting
          </Link>
        ) : (
          <Button onClick={setRig}>Set the rig to it, for its run sheet</Button>
        )}
      </p>
      <LogShot key={`${place.place}-${place.shots.length}`} stored={stored} place={place} people={[acts, reads]} first={log} />
    </section>
  );
}
