import { Link, useRouteError } from 'react-router';
import { passing } from '@vast-surge/contract';
import { failureOf } from './base-api.ts';

function TroubleView({ title, lines }: { title: string; lines: readonly string[] }) {
  return (
    <main className="mx-auto max-w-2xl p-6">
      <h1 className="text-2xl font-bold">{title}</h1>
      {lines.map((line) => (
        <p key={line} className="mt-2">
          {line}
        </p>
      ))}
      <p className="mt-4 flex gap-4">
        <Link className="text-select underline" to="/rigs">
          All rigs
        </Link>
        <button type="button" className="text-select underline" onClick={() => location.reload()}>
          Reload
        </button>
      </p>
    </main>
  );
}

/** A page that broke while it was drawn: what happened, and the ways on. */
export function BrokenView() {
  const error = useRouteError();
  const message = error instanceof Error ? error.message : 'no reason given';
  return (
    <TroubleView
      title="This page failed"
      lines={[`It could not be drawn: ${message}`, 'What was saved is still there. Go back to the list, or reload the page.']}
    />
  );
}

/** In the place of a page whose script did not come. */
export const NotFetchedView = () => (
  <TroubleView
    title="This page is not loaded yet"
    lines={[
      'Its script could not be fetched: the server does not answer, or another version of it runs since this page was loaded.',
      'What was typed elsewhere is kept on this device. Reload once the server is back.',
    ]}
  />
);

/** Until the script of the first page is here. */
export const OpeningView = () => <p className="p-6 text-dim">Fetching the page …</p>;

export function MissingView() {
  return (
    <main className="mx-auto max-w-2xl p-6">
      <h1 className="text-2xl font-bold">There is no such page</h1>
      <Link className="mt-4 inline-block text-select underline" to="/rigs">
        All rigs
      </Link>
    </main>
  );
}

/** A request that failed, where its answer would stand. It is tried again by itself. */
export function Failure({ error, onRetry }: { error: unknown; onRetry: () => void }) {
  const { code, message } = failureOf(error);
  const waits = code === 'server_away' || passing.has(code);
  return (
    <div role="alert" className="m-6 max-w-2xl border-l-4 border-over bg-plate p-4">
      <p className="font-bold">{message}</p>
      {waits && <p className="mt-1 text-dim">The page tries again every few seconds. Sums work without the server.</p>}
      {code === 'unreadable' && (
        <p className="mt-1">
          It is left as it is, with all its revisions, and goes into every backup. All other rigs and the sums work as usual.{' '}
          <Link className="text-select underline" to="/rigs">
            All rigs
          </Link>
        </p>
      )}
      <button type="button" className="mt-2 text-select underline" onClick={onRetry}>
        Try now
      </button>
    </div>
  );
}
