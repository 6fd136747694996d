import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import { dismissRefused, sendNow, useQueue, type Shelf } from '../../app/bench.ts';
import { writeWords } from '../../app/bench-write.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';

const rooms = [
  { to: '/parts', title: 'Shelf' },
  { to: '/parts/lots', title: 'Lots' },
  { to: '/parts/composer', title: 'Composer' },
  { to: '/parts/home-made', title: 'Home-made' },
];

/** What is on its way to the server, and what it refused: always said, never thrown away unseen. */
function QueueNotes() {
  const { waiting, refused, trouble, kept } = useQueue();
  return (
    <>
      {trouble !== null && waiting.length > 0 && (
        <div role="alert" className="no-print flex flex-wrap items-center gap-3 bg-warning px-5 py-1 text-on-warning">
          <span>
            {waiting.length === 1 ? '1 change is' : `${waiting.length} changes are`}{' '}
            {kept ? 'kept on this device' : 'kept in this page only, which the device has no room for'}, not saved yet: {trouble}
          </span>
          <button type="button" className="underline" onClick={sendNow}>
            Try now
          </button>
        </div>
      )}
      {refused.map((one) => (
        <div
          key={one.key}
          role="alert"
          className="no-print flex flex-wrap items-center gap-3 border-b border-l-4 border-rule border-l-over bg-plate px-5 py-1.5"
        >
          <span className="min-w-0">
            <b>Not written: {writeWords(one.write)}.</b> {one.message}
          </span>
          <Button onClick={() => dismissRefused(one.key)}>I have seen it</Button>
        </div>
      ))}
    </>
  );
}

/** The head that all rooms of the bench share. */
export function PartsFrame({ shelf, tools, children }: { shelf: Shelf; tools?: ReactNode; children: ReactNode }) {
  const { waiting, trouble } = useQueue();
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <h1 className="sr-only">Parts bench</h1>
      <div className="no-print flex flex-wrap items-center gap-x-1 gap-y-2 border-b border-rule px-3 py-1.5 sm:px-5">
        <nav aria-label="Rooms of the bench" className="mr-auto flex flex-wrap">
          {rooms.map(({ to, title }) => (
            <NavLink
              key={to}
              end
              to={to}
              className={({ isActive }) =>
                `border border-rule px-3 py-1 ${isActive ? 'bg-ink font-bold text-plate' : 'bg-plate hover:border-ink'}`
              }
            >
              {title}
            </NavLink>
          ))}
        </nav>
        {waiting.length > 0 && trouble === null && (
          <span role="status" className="px-2 text-13 text-dim">
            saving
          </span>
        )}
        {tools}
      </div>
      <QueueNotes />
      {shelf.error !== undefined && !shelf.loaded && <Failure error={shelf.error} onRetry={shelf.refetch} />}
      {shelf.bench.unreadable.length > 0 && (
        <p role="status" className="no-print border-b border-rule bg-plate px-5 py-1">
          {shelf.bench.unreadable.length === 1 ? 'One part' : `${shelf.bench.unreadable.length} parts`} cannot be read by this
          program and stay as they are:{' '}
          {shelf.bench.unreadable
            .map((u) => `${u.name} (${u.unreadable})`)
            .join('; ')
            .slice(0, 300)}
          .
        </p>
      )}
      {children}
    </main>
  );
}
