import { formatDistanceToNowStrict } from 'date-fns';
import { TriangleAlert } from 'lucide-react';
import { Link } from 'react-router';
import type { RigHead } from '@vast-surge/contract';
import { useOpenRunsQuery } from '../../app/base-api.ts';
import { usePolling } from '../../app/live.ts';

/** What needs a person before anything else: runs that are open, and run sheets whose rig has changed since they were read. */
export function Due({ rigs }: { rigs: readonly RigHead[] }) {
  const { data: open = [] } = useOpenRunsQuery(undefined, { pollingInterval: usePolling(10_000), skipPollingIfUnfocused: true });
  const changed = rigs.filter(({ headline }) => (headline?.changedSteps ?? 0) > 0);
  if (open.length === 0 && changed.length === 0) return null;
  return (
    <section aria-label="Due" className="mt-3">
      <h2 className="text-19 font-bold">Due</h2>
      <ul>
        {open.map((run) => (
          <li key={run.id} className="mt-1 flex flex-wrap items-center gap-3 bg-warning px-4 py-2 text-on-warning">
            <TriangleAlert size={26} aria-hidden />
            <p className="min-w-0 flex-1 basis-60">
              <b className="block text-18 leading-tight">{run.rigName}: a run is open. Treat it as charged.</b>
              Opened {formatDistanceToNowStrict(new Date(run.madeAt), { addSuffix: true })}
              {run.acts && ` by ${run.acts}`}. Verify with a meter before anyone goes near.
            </p>
            <Link className="bg-on-warning px-4 py-2 font-bold text-warning" to={`/runs/${run.id}`}>
              Resume the run
            </Link>
          </li>
        ))}
        {changed.map(({ id, name, headline }) => (
          <li key={id} className="flex flex-wrap gap-x-4 border-b border-rule px-1 py-2">
            <b className="w-32">{name}</b>
            <span className="min-w-0 flex-1 basis-60">
              {headline?.changedSteps === 1 ? '1 step' : `${headline?.changedSteps} steps`} of its run sheet changed since it was
              last read: a printed sheet no longer agrees.
            </span>
            <Link className="text-select underline" to={`/rigs/${id}/run-sheet`} aria-label={`Read the run sheet of ${name}`}>
              Read the run sheet
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
