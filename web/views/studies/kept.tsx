import { useMemo, useState } from 'react';
import {
  studyPriorities,
  type SamplesQuestion,
  type StoredStudy,
  type StoredStudyWithSpreads,
  type StudyQuestion,
} from '@vast-surge/contract';
import { printDuration } from '@vast-surge/core/quantity';
import { fieldName, quantityAt, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { outputsOf, sweepPoints, type Output } from '@vast-surge/core/study';
import { failureOf, useGetRevisionQuery } from '../../app/api.ts';
import { fromBase64 } from '../../app/base64.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { ExportLink } from '../../app/export-link.tsx';
import { usePolling } from '../../app/live.ts';
import { useMayNotOn } from '../../app/may.ts';
import { useAppSelector } from '../../app/store.ts';
import {
  useCreateStudyMutation,
  useDeleteStudyMutation,
  useGetStudyQuery,
  useGetSweepQuery,
  useListStudiesQuery,
  useSetStudyMutation,
  useStudyWorkersQuery,
} from '../../app/study-api.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { KeptMet } from './met.tsx';
import { FigureShown, SpreadShown } from './spread.tsx';
import { limitTitles, SweptShown } from './swept.tsx';
import { Worst } from './worst.tsx';

const stateWords: Readonly<Record<StoredStudy['state'], string>> = {
  asked: 'under way',
  paused: 'paused',
  done: 'done',
  cancelled: 'given up',
  failed: 'failed',
};

const priorityWords: Readonly<Record<StoredStudy['priority'], string>> = {
  first: 'before all others',
  usual: 'in turn',
  last: 'when nothing else waits',
};

const count = (n: number): string => n.toLocaleString('en');

/** s that are left, by what it took so far, with so many chunks at a time; null where that cannot be told. */
function leftOf({ done, total, seconds, state }: StoredStudy, threads: number): number | null {
  if (state !== 'asked' || done === 0 || threads === 0) return null;
  return ((seconds / done) * (total - done)) / threads;
}

type Of = StoredStudy['question']['of'];
const things: Readonly<Record<Of, string>> = { samples: 'samples', sweep: 'points' };

/** What was asked, in words: first what it is called by, then how. */
function wordsOf({ question, total, revision }: StoredStudy, rig: Rig): readonly [title: string, how: string] {
  if (question.of === 'samples')
    return [
      `${count(total)} samples, seed ${question.seed}, revision ${revision}`,
      `${question.distribution}${question.withModel ? ', with formula error' : ''}${question.withShots ? ', shot by shot' : ''}`,
    ];
  const varied = question.axes.map(({ path, scale, from, to, values }) => {
    const title = quantityAt(rig, path) ? fieldName(rig, path) : path;
    return scale === 'list' ? `${title} ${values.slice(0, 60)}` : `${title} ${from} to ${to}`;
  });
  return [`${varied.join('; ')}, revision ${revision}`, `${count(total)} points`];
}

interface RowProps {
  readonly study: StoredStudy;
  readonly rig: Rig;
  readonly threads: number;
  readonly isShown: boolean;
  readonly mayNot: string | null;
  onShow(): void;
  onTrouble(trouble: string | null): void;
}

/** What may be done with a study in the state it is in. */
function Acts({ study, mayNot, onTrouble }: Pick<RowProps, 'study' | 'mayNot' | 'onTrouble'>) {
  const [set, setting] = useSetStudyMutation();
  const [remove, removing] = useDeleteStudyMutation();
  const act = (work: { unwrap(): Promise<unknown> }) =>
    work.unwrap().then(
      () => onTrouble(null),
      (error: unknown) => onTrouble(failureOf(error).message),
    );
  const isOpen = study.state === 'asked' || study.state === 'paused';
  const isOff = mayNot !== null || setting.isLoading || removing.isLoading;
  return (
    <span className="flex flex-wrap gap-2">
      {isOpen && (
        <Button
          look="quiet"
          disabled={isOff}
          onClick={() => void act(set({ id: study.id, state: study.state === 'asked' ? 'paused' : 'asked' }))}
        >
          {study.state === 'asked' ? 'Pause' : 'Resume'}
        </Button>
      )}
      {isOpen && (
        <Button look="quiet" disabled={isOff} onClick={() => void act(set({ id: study.id, state: 'cancelled' }))}>
          Cancel
        </Button>
      )}
      {study.state === 'done' && (
        <ExportLink may={['designs', 'acts', 'reads']} href={`/api/studies/${study.id}/table`}>
          CSV
        </ExportLink>
      )}
      {!isOpen && (
        <Button look="quiet" disabled={isOff} onClick={() => void act(remove(study.id))}>
          Delete
        </Button>
      )}
    </span>
  );
}

function Row({ study, rig, threads, isShown, mayNot, onShow, onTrouble }: RowProps) {
  const { question, done, total, state } = study;
  const [title, how] = wordsOf(study, rig);
  const left = leftOf(study, threads);
  return (
    <li className="border-b border-rule py-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <button
          type="button"
          className={`text-left text-select underline ${isShown ? 'font-bold' : ''}`}
          aria-expanded={isShown}
          onClick={onShow}
        >
          {title}
        </button>
        <span className="text-14 text-dim">
          {how}, {stateWords[state]}
          {study.fault !== null && `: ${study.fault}`}
        </span>
        {(state === 'asked' || state === 'paused') && (
          <span className="flex items-center gap-2 text-14">
            <progress className="w-40" max={total} value={done} aria-label={`${things[question.of]} that are there`} />
            {count(done)}
            {left !== null && left >= 2 && `, about ${printDuration(left)} left`}
          </span>
        )}
        <span className="ml-auto">
          <Acts study={study} mayNot={mayNot} onTrouble={onTrouble} />
        </span>
      </div>
      {state === 'asked' && !study.isOfNow && (
        <p className="border-l-4 border-warning pl-2 text-14">
          Asked of another version of the program ({study.program}): only a worker of that version goes on. Cancel it and run it
          again.
        </p>
      )}
    </li>
  );
}

/** The highest samples, drawn from the revision that they are of. */
function KeptWorst({
  study,
  scatter,
  output,
  highest,
}: {
  study: StoredStudy;
  scatter: SamplesQuestion;
  output: Output;
  highest: readonly { readonly sample: number; readonly value: number }[];
}) {
  const { data } = useGetRevisionQuery(study.revisionId);
  // Drawn by another program the sample would be another.
  if (!data || !study.isOfNow) return null;
  return <Worst document={data.document} scatter={scatter} output={output} highest={highest} />;
}

/** What the samples of a kept study come to so far. */
function SamplesShown({
  study,
  question,
  document,
}: {
  study: StoredStudyWithSpreads;
  question: SamplesQuestion;
  document: RigDocument;
}) {
  const [chosen, setChosen] = useState(0);
  const known = useMemo(() => new Map(outputsOf(document.rig).map((one) => [one.id, one])), [document]);
  const { outputs } = question;
  const k = Math.min(chosen, outputs.length - 1);
  const output = known.get(outputs[k] ?? '');
  const spread = study.spreads[k];
  return (
    <>
      <FigureShown titles={outputs.map((id) => known.get(id)?.title ?? id)} value={k} onChange={setChosen} />
      {!output && <p>The rig has no such figure any more; the study is of revision {study.revision}.</p>}
      {output && !spread && <p role="status">No samples yet.</p>}
      {output && spread && (
        <SpreadShown
          id="kept-histogram"
          output={output}
          spread={spread}
          note={`, of ${count(study.done)} samples${spread.missing > 0 ? `; ${count(spread.missing)} have no value` : ''}`}
          beside={
            study.state === 'done' && (
              <>
                <KeptMet key={output.id} id={study.id} output={output} />
                <KeptWorst study={study} scatter={question} output={output} highest={spread.highest} />
              </>
            )
          }
        />
      )}
    </>
  );
}

/** The points of a kept sweep that are there, drawn over the revision that they are of. */
function SweepShown({ study }: { study: StoredStudy }) {
  const { data: sweep, error } = useGetSweepQuery(study.id, {
    pollingInterval: usePolling(2000),
    refetchOnMountOrArgChange: true,
  });
  const { data: revision } = useGetRevisionQuery(study.revisionId);
  const points = useMemo(
    () =>
      sweep
        ? sweepPoints(
            sweep.layout,
            sweep.stretches.map(({ from, numbers }) => ({ from, numbers: fromBase64(numbers) })),
          )
        : [],
    [sweep],
  );
  const titleOf = useMemo(() => limitTitles(revision ? outputsOf(revision.document.rig) : []), [revision]);
  if (!sweep || !revision) return <p role={error ? 'alert' : 'status'}>{error ? failureOf(error).message : 'Reading …'}</p>;
  const { axes, outputs } = sweep.layout;
  return (
    <SweptShown
      as="kept"
      document={revision.document}
      axes={axes}
      outputs={outputs}
      points={points}
      isDone={study.state === 'done'}
      titleOf={titleOf}
    />
  );
}

/** What a kept study has come to so far, and who worked on it. */
function Shown({ study, document }: { study: StoredStudyWithSpreads; document: RigDocument }) {
  const { question } = study;
  return (
    <section aria-label="The kept study" className="mt-3 border border-rule bg-plate p-4">
      {question.of === 'sweep' ? (
        <SweepShown study={study} />
      ) : (
        <SamplesShown study={study} question={question} document={document} />
      )}
      <p className="mt-2 text-14 text-dim">
        {study.hosts.length > 0 && `By ${study.hosts.join(', ')}; ${printDuration(study.seconds)} of work. `}
        Program {study.program}
        {study.digest !== null && (
          <>
            , sum of all {things[question.of]} <span className="figure">{study.digest.slice(0, 16)}</span>: run again on the same
            revision it is the same
          </>
        )}
        .
      </p>
    </section>
  );
}

function ShownById({ id, document }: { id: string; document: RigDocument }) {
  const { data, error } = useGetStudyQuery(id, { pollingInterval: usePolling(2000), refetchOnMountOrArgChange: true });
  if (data) return <Shown study={data} document={document} />;
  return <p role={error ? 'alert' : 'status'}>{error ? failureOf(error).message : 'Reading …'}</p>;
}

interface KeptProps {
  readonly rigId: string;
  readonly document: RigDocument;
  /** Which sort is listed here. */
  readonly of: Of;
  /** What can be asked now; null where something of it is wrong. */
  readonly question: StudyQuestion | null;
  /** Samples or points of it. */
  readonly size: number;
}

/** Studies of a rig that the server keeps, and a way to ask for another. */
export function KeptStudies({ rigId, document, of, question, size }: KeptProps) {
  const polling = usePolling(2000);
  const { data: all = [] } = useListStudiesQuery(rigId, { pollingInterval: polling, refetchOnMountOrArgChange: true });
  const studies = all.filter((study) => study.question.of === of);
  const { data: workers = [] } = useStudyWorkersQuery(undefined, { pollingInterval: 10_000, refetchOnMountOrArgChange: true });
  const base = useAppSelector((s) => s.editor.base);
  const mayNot = useMayNotOn(rigId, 'designs');
  const [create, { isLoading }] = useCreateStudyMutation();
  const [priority, setPriority] = useState<StoredStudy['priority']>('usual');
  const [shown, setShown] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const now = workers.filter(({ isOfNow }) => isOfNow);
  const threads = now.reduce((sum, one) => sum + one.threads, 0);
  const ask = async () => {
    if (!question) return;
    try {
      const version = await versionOnceSaved(rigId, base?.version ?? 1);
      if (version === null) {
        setTrouble(unsavedWords);
        return;
      }
      const id = crypto.randomUUID();
      // Shown as soon as it is listed, also where the answer itself is lost.
      setShown(id);
      await create({ id, rigId, version, question, priority }).unwrap();
      setTrouble(null);
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <section aria-label="Kept studies" className="mt-5 border-t-2 border-ink pt-3">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h2 className="text-17 font-bold">Kept on the server</h2>
        <Button disabled={!question || isLoading || mayNot !== null} onClick={() => void ask()}>
          {isLoading ? 'Asking the server …' : `Run on the server${question ? `: ${count(size)} ${things[of]}` : ''}`}
        </Button>
        <label className="flex items-baseline gap-2">
          Priority
          <Select
            fit="small"
            value={priority}
            onChange={(event) => setPriority(studyPriorities.find((one) => one === event.target.value) ?? 'usual')}
          >
            {studyPriorities.map((one) => (
              <option key={one} value={one}>
                {priorityWords[one]}
              </option>
            ))}
          </Select>
        </label>
        <span className="text-14 text-dim">
          {threads === 0
            ? 'Nobody works on studies now: they wait. ./surge worker starts a host.'
            : `${now.length} ${now.length === 1 ? 'host' : 'hosts'}, ${threads} ${threads === 1 ? 'chunk' : 'chunks'} at a time`}
        </span>
      </div>
      {mayNot !== null && <p className="text-14">{mayNot}</p>}
      {trouble !== null && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-2">
          {trouble}
        </p>
      )}
      <ul className="mt-2">
        {studies.map((study) => (
          <Row
            key={study.id}
            study={study}
            rig={document.rig}
            threads={threads}
            isShown={study.id === shown}
            mayNot={mayNot}
            onShow={() => setShown(study.id === shown ? null : study.id)}
            onTrouble={setTrouble}
          />
        ))}
      </ul>
      {studies.length === 0 && (
        <p className="text-14 text-dim">
          None yet. What runs on the server goes on when this page is closed, on every host that works for it.
        </p>
      )}
      {shown !== null && studies.some(({ id }) => id === shown) && <ShownById key={shown} id={shown} document={document} />}
    </section>
  );
}
