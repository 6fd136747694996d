import { useState } from 'react';
import { format, parseISO } from 'date-fns';
import { GitBranch, RotateCcw } from 'lucide-react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { RevisionHead, RevisionRow } from '@vast-surge/contract';
import { copyName, copyOf, type RigDocument } from '@vast-surge/core/rig';
import { useGetRevisionQuery, useListRevisionsQuery } from '../../app/api.ts';
import { usePolling } from '../../app/live.ts';
import { closeOpenRevision, undoEdit, useAddRig } from '../../app/commands.ts';
import { restored } from '../../app/edits.ts';
import { ExportLink } from '../../app/export-link.tsx';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { fileName } from '../../ui/download.ts';
import { useRigPage } from '../rig-shell/use-rig-page.ts';
import { ComparisonOf, type Compared } from './comparison.tsx';
import { Select } from '../../ui/select.tsx';

const now = 'now';

const titleOf = ({ number, name }: RevisionHead): string => `Revision ${number}${name ? `, ${name}` : ''}`;

const dayOf = (instant: string): string => format(parseISO(instant), 'EEEE, d MMMM yyyy');

/** Revisions of one day, in the order in which they came. */
function byDay(revisions: readonly RevisionRow[]): { day: string; revisions: RevisionRow[] }[] {
  const days: { day: string; revisions: RevisionRow[] }[] = [];
  for (const revision of revisions) {
    const day = dayOf(revision.madeAt);
    const last = days.at(-1);
    if (last?.day === day) last.revisions.push(revision);
    else days.push({ day, revisions: [revision] });
  }
  return days;
}

/** What a revision changed against the one before it. */
function Changes({ number, changes, furtherChanges }: RevisionRow) {
  const quiet = 'mt-0.5 text-14 text-dim';
  if (number === 1) return <p className={quiet}>The first.</p>;
  if (changes === null) return <p className={quiet}>This program cannot read this revision or the one before it.</p>;
  if (changes.length === 0) return <p className={quiet}>No visible change.</p>;
  return (
    <ul className="mt-0.5 text-14">
      {changes.map(({ title, from, to }) => (
        <li key={title} className="break-words">
          {title}: <span className="text-dim">{from === '' ? 'empty' : (from ?? 'none')}</span> →{' '}
          <b>{to === '' ? 'empty' : (to ?? 'none')}</b>
        </li>
      ))}
      {furtherChanges > 0 && <li className="text-dim">{furtherChanges} more</li>}
    </ul>
  );
}

interface ListProps {
  readonly revisions: readonly RevisionRow[];
  readonly nowWords: string;
  /** The one that is compared. */
  readonly from: string;
  readonly onFrom: (id: string) => void;
}

/** What the rig has been, day by day, the newest first; each is compared by one press. */
function RevisionList({ revisions, nowWords, from, onFrom }: ListProps) {
  return (
    <>
      <p className="border-t border-ink py-1.5" data-revision={now}>
        <b>Now</b> <span className="text-13 text-dim">{nowWords}</span>
      </p>
      {byDay(revisions).map(({ day, revisions: ofDay }) => (
        <section key={day} aria-label={day}>
          <h2 className="mt-3 text-14 font-bold">{day}</h2>
          <ul>
            {ofDay.map((revision) => {
              const title = titleOf(revision);
              return (
                <li
                  key={revision.id}
                  className={`flex items-start gap-2 border-t border-rule border-l-4 py-1 pl-2 ${revision.id === from ? 'border-l-select bg-plate' : 'border-l-transparent'}`}
                  data-revision={title}
                >
                  <span className="min-w-0 flex-1">
                    <b className="mr-2 break-words">{title}</b>
                    <span className="figure text-13 text-dim">{format(parseISO(revision.madeAt), 'HH:mm:ss')}</span>
                    <Changes {...revision} />
                  </span>
                  <Button
                    className="!px-2 !py-1 text-14"
                    aria-label={`Compare ${title}`}
                    aria-pressed={revision.id === from}
                    onClick={() => onFrom(revision.id)}
                  >
                    Compare
                  </Button>
                </li>
              );
            })}
          </ul>
        </section>
      ))}
    </>
  );
}

/** What can be done with the revision one compares from. */
function Actions({
  rigId,
  revision,
  document,
  present,
}: {
  rigId: string;
  revision: RevisionHead;
  document: RigDocument;
  present: RigDocument;
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const add = useAddRig();
  const restore = async () => {
    // What the rig is now is closed first, so that a restore never costs anything.
    if (!(await closeOpenRevision(''))) return;
    dispatch(restored(document));
    toast(`The rig is as in revision ${revision.number} again.`, {
      duration: 12_000,
      action: { label: 'Undo', onClick: undoEdit },
    });
    void navigate(`/rigs/${rigId}`);
  };
  const branch = async () => {
    const id = await add(copyOf(document, copyName(document.name, `from revision ${revision.number}`)), {
      branchedFrom: revision.id,
    });
    if (id) void navigate(`/rigs/${id}`);
  };
  return (
    <div className="mt-3 flex flex-wrap gap-2">
      <Button disabled={document === present} onClick={() => void restore()}>
        <RotateCcw size={16} aria-hidden /> Restore revision {revision.number}
      </Button>
      <Button onClick={() => void branch()}>
        <GitBranch size={16} aria-hidden /> Branch into a new rig
      </Button>
    </div>
  );
}

/** What a rig has been: its revisions, two of them side by side, and the ways back. */
export function RevisionsView() {
  const { id, document, saveRevision } = useRigPage();
  const {
    data: revisions = [],
    error,
    refetch,
  } = useListRevisionsQuery(id, { refetchOnMountOrArgChange: true, pollingInterval: usePolling(5000) });
  const base = useAppSelector((s) => s.editor.base);
  const [chosenFrom, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string>(now);
  // The last state that is not what stands now says most.
  const other = revisions.find((r) => r.version !== base?.version) ?? revisions[0];
  const from = chosenFrom ?? other?.id ?? now;
  const compare = (id: string) => {
    setFrom(id);
    if (id === to) setTo(now);
  };
  const first = useGetRevisionQuery(from, { skip: from === now });
  const second = useGetRevisionQuery(to, { skip: to === now });
  const side = (which: string, query: typeof first): Compared | null => {
    if (which === now) return { title: 'Now', document };
    return query.data?.id === which ? { title: titleOf(query.data), document: query.data.document } : null;
  };
  const [left, right] = [side(from, first), side(to, second)];
  const trouble = error ?? (from === now ? undefined : first.error) ?? (to === now ? undefined : second.error);
  const last = revisions[0];
  const nowWords =
    last && last.version === base?.version && document === base.document
      ? `the same as revision ${last.number}`
      : `unsaved changes${last ? ` since revision ${last.number}` : ''}`;
  return (
    <main className="mx-auto grid w-full max-w-[1500px] grid-cols-1 gap-6 p-5 lg:grid-cols-[420px_minmax(0,1fr)]">
      <section aria-label="Revisions">
        <h1 className="text-20 font-bold">Revisions of {document.name}</h1>
        <div className="my-3 flex flex-wrap gap-2">
          <Button className="sm:hidden" onClick={saveRevision}>
            Save revision
          </Button>
          <ExportLink may={['designs']} href={`/api/archive/rigs/${id}`} name={`${fileName(document.name)}.zip`}>
            Share with parts, runs and shots
          </ExportLink>
        </div>
        {revisions.length > 0 && <RevisionList revisions={revisions} nowWords={nowWords} from={from} onFrom={compare} />}
        {revisions.length === 0 && !error && (
          <p className="mt-3 text-dim">
            No revision yet. Edits are saved into one after a minute without any; or save one now and give it a name.
          </p>
        )}
      </section>
      <section aria-label="Comparison" className="min-w-0">
        {trouble !== undefined && <Failure error={trouble} onRetry={() => void refetch()} />}
        {left && right && from !== to && (
          <>
            <h2 className="flex flex-wrap items-center gap-2 text-19 font-bold">
              {left.title} beside
              <Select aria-label="Compared with" value={to} onChange={(event) => setTo(event.target.value)}>
                <option value={now}>now</option>
                {revisions
                  .filter(({ id: one }) => one !== from)
                  .map((revision) => (
                    <option key={revision.id} value={revision.id}>
                      {titleOf(revision)}
                    </option>
                  ))}
              </Select>
            </h2>
            {first.data && from !== now && (
              <Actions rigId={id} revision={first.data} document={first.data.document} present={document} />
            )}
            <ComparisonOf from={left} to={right} />
          </>
        )}
        {from === to && revisions.length > 0 && <p className="text-dim">Compare a revision to see here what changed since.</p>}
      </section>
    </main>
  );
}
