import { useState } from 'react';
import { format } from 'date-fns';
import { Link } from 'react-router';
import type { RigHead, RunHead } from '@vast-surge/contract';
import { useGetRigQuery, useListRunsInfiniteQuery, useRehearsedQuery } from '../../app/api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { MoreRows } from '../../ui/more-rows.tsx';
import { RigPicker } from '../../ui/rig-picker.tsx';
import { BeginDialog } from './begin-dialog.tsx';

const standWords = (run: RunHead): string => {
  if (run.at === 'not-begun') return 'not begun';
  if (run.at === 'running') return run.mayBeCharged ? 'open: the store may be charged' : 'open';
  if (run.points !== null) return `${run.points} of 100`;
  return run.outcomes.length > 0 ? run.outcomes.join(', ') : run.aborts > 0 ? 'aborted' : 'no shot';
};

function Row({ run }: { run: RunHead }) {
  const isOpen = run.at === 'running';
  return (
    <tr className="border-t border-rule">
      <td className="py-2 pr-4 whitespace-nowrap">
        <Link className={`text-select underline ${isOpen ? 'font-bold' : ''}`} to={`/runs/${run.id}`}>
          {format(new Date(run.madeAt), 'd MMM yyyy, HH:mm')}
        </Link>
      </td>
      <td className="py-2 pr-4 font-bold">{run.rigName}</td>
      <td className="py-2 pr-4">{run.revision}</td>
      <td className="py-2 pr-4">
        {run.rehearsal
          ? `rehearsal, ${run.rehearsal.faults.length} ${run.rehearsal.faults.length === 1 ? 'fault' : 'faults'}`
          : 'live'}
      </td>
      <td className="py-2 pr-4">{[run.acts, run.reads].filter(Boolean).join(', ') || '–'}</td>
      <td className="py-2 pr-4">
        {isOpen && run.mayBeCharged && run.rehearsal === null ? (
          <span className="bg-warning px-1.5 text-on-warning">⚠ {standWords(run)}</span>
        ) : (
          standWords(run)
        )}
      </td>
      <td className="figure py-2 text-right">{run.events}</td>
    </tr>
  );
}

/** The dialog for a rig of the list, which has to be fetched whole first. */
function BeginFetched({ rigId, onClose }: { rigId: string; onClose: () => void }) {
  const { data, error, refetch } = useGetRigQuery(rigId);
  if (error) return <Failure error={error} onRetry={() => void refetch()} />;
  return data ? <BeginDialog rigId={rigId} version={data.version} document={data.document} onClose={onClose} /> : null;
}

function BeginChoice() {
  const [rig, setRig] = useState<RigHead | null>(null);
  const [isOpen, setOpen] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <RigPicker label="Rig to run" none="Choose a rig …" value={rig?.id ?? ''} onPick={setRig} />
      <Button look="primary" disabled={rig === null} className="disabled:opacity-50" onClick={() => setOpen(true)}>
        Run or rehearse
      </Button>
      {isOpen && rig && <BeginFetched rigId={rig.id} onClose={() => setOpen(false)} />}
    </div>
  );
}

/** All runs and rehearsals, the newest first. */
export function RunsView() {
  const { data, error, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useListRunsInfiniteQuery(
    { q: '' },
    { refetchOnMountOrArgChange: true, pollingInterval: 5000 },
  );
  const { data: people = [] } = useRehearsedQuery(undefined, { refetchOnMountOrArgChange: true });
  const runs = data?.pages.flatMap((page) => page.rows);
  return (
    <main className="mx-auto w-full max-w-[1100px] p-5">
      <div className="flex flex-wrap items-baseline gap-3">
        <h1 className="mr-auto text-2xl font-bold">Runs</h1>
        <BeginChoice />
      </div>
      {error && !runs ? (
        <Failure error={error} onRetry={() => void refetch()} />
      ) : !runs ? (
        <p className="mt-4 text-dim">Fetching the runs …</p>
      ) : runs.length === 0 ? (
        <p className="mt-4 max-w-[44rem]">
          No run yet. A run takes a rig step by step from the strap off to the strap on, and writes down what was done and read. A
          rehearsal does the same on a simulated rig, with faults put in.
        </p>
      ) : (
        <div className="mt-4 overflow-x-auto">
          <table className="w-full text-left">
            <thead className="text-[13px] text-dim">
              <tr>
                {['When', 'Rig', 'Revision', 'Kind', 'Who', 'How it stands', 'Events'].map((title) => (
                  <th key={title} scope="col" className={`py-1 pr-4 font-normal ${title === 'Events' ? '!pr-0 text-right' : ''}`}>
                    {title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {runs.map((run) => (
                <Row key={run.id} run={run} />
              ))}
            </tbody>
          </table>
          <MoreRows
            shown={runs.length}
            total={data?.pages[0]?.total ?? 0}
            noun="runs"
            isLoading={isFetchingNextPage}
            onMore={hasNextPage ? () => void fetchNextPage() : null}
          />
        </div>
      )}
      {people.length > 0 && (
        <section className="mt-6">
          <h2 className="text-[17px] font-bold">Rehearsals by person</h2>
          <ul>
            {people.map(({ who, rehearsals, last, best }) => (
              <li key={who}>
                <b>{who}</b>: {rehearsals} {rehearsals === 1 ? 'rehearsal' : 'rehearsals'}, last {last}, best {best} of 100
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}
