import { format } from 'date-fns';
import { Link } from 'react-router';
import type { RunHead } from '@vast-surge/contract';
import { useListRunsInfiniteQuery, type RunList } from '../../app/api.ts';
import { usePolling } from '../../app/live.ts';
import { Failure } from '../../app/trouble.tsx';
import { MoreRows } from '../../ui/more-rows.tsx';
import { useRowKeys } from '../../ui/use-row-keys.ts';

const standWords = (run: RunHead): string => {
  if (run.at === 'not-begun') return 'not begun';
  if (run.at === 'running') return run.mayBeCharged ? 'open: the store may be charged' : 'open';
  if (run.points !== null) return `${run.points} of 100`;
  return run.outcomes.length > 0 ? run.outcomes.join(', ') : run.aborts > 0 ? 'aborted' : 'no shot';
};

function Row({ run, ofOneRig }: { run: RunHead; ofOneRig: boolean }) {
  const isOpen = run.at === 'running';
  return (
    <tr className="border-t border-rule">
      <td className="py-2 pr-4 whitespace-nowrap">
        <Link className={`text-select underline ${isOpen ? 'font-bold' : ''}`} to={`/runs/${run.id}`}>
          {format(new Date(run.madeAt), 'd MMM yyyy, HH:mm')}
        </Link>
      </td>
      {!ofOneRig && <td className="py-2 pr-4 font-bold">{run.rigName}</td>}
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

const columns = ['When', 'Rig', 'Revision', 'Kind', 'Who', 'Result', 'Events'];

/** Runs, the newest first: all, those of a rig, live ones or rehearsals. `none` is said where there is none. */
export function RunTable({ asked, none }: { asked: RunList; none: string }) {
  const { data, error, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useListRunsInfiniteQuery(asked, {
    refetchOnMountOrArgChange: true,
    pollingInterval: usePolling(5000),
  });
  const rowKeys = useRowKeys();
  const ofOneRig = asked.rig !== undefined;
  const runs = data?.pages.flatMap((page) => page.rows);
  if (error && !runs) return <Failure error={error} onRetry={() => void refetch()} />;
  if (!runs) return <p className="mt-4 text-dim">Fetching the runs …</p>;
  if (runs.length === 0) return <p className="mt-4 max-w-[44rem]">{none}</p>;
  return (
    <div className="mt-4 overflow-x-auto">
      <table className="w-full text-left">
        <thead className="text-13 text-dim">
          <tr>
            {columns
              .filter((title) => !(ofOneRig && title === 'Rig'))
              .map((title) => (
                <th key={title} scope="col" className={`py-1 pr-4 font-normal ${title === 'Events' ? '!pr-0 text-right' : ''}`}>
                  {title}
                </th>
              ))}
          </tr>
        </thead>
        <tbody {...rowKeys}>
          {runs.map((run) => (
            <Row key={run.id} run={run} ofOneRig={ofOneRig} />
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
  );
}
