import { useDeferredValue, useState } from 'react';
import { format } from 'date-fns';
import { FileDown } from 'lucide-react';
import { Link } from 'react-router';
import { actWords, type AuditEntry } from '@vast-surge/contract';
import { failureOf } from '../../app/base-api.ts';
import { useLazyCheckAuditQuery, useListAuditInfiniteQuery } from '../../app/people-api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { MoreRows } from '../../ui/more-rows.tsx';
import { AdminLinks, Wrong } from './form-parts.tsx';
import { ColumnHeads } from '../../ui/column-heads.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** Whether the chain holds, when asked. */
function Chain() {
  const [check, { data, error, isFetching }] = useLazyCheckAuditQuery();
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-3">
      <Button disabled={isFetching} onClick={() => void check(undefined)}>
        Check the chain
      </Button>
      <Wrong error={error} />
      {data &&
        (data.brokenAt === null ? (
          <p role="status" className="min-w-0 break-all">
            Whole: <span className="figure">{data.entries}</span> entries.{' '}
            {data.last !== null && (
              <span className="text-14 text-dim">
                Write the sum of the last one down elsewhere: <span className="figure">{data.last.slice(0, 16)}</span> …
              </span>
            )}
          </p>
        ) : (
          <TroubleLine>Broken at entry {data.brokenAt}: it, or one before it, was changed or is missing.</TroubleLine>
        ))}
    </div>
  );
}

const rooms: readonly (readonly [act: RegExp, room: string])[] = [
  [/ runs| key$|^took over/, 'runs'],
  [/ rigs|waive/, 'rigs'],
  [/(put|patch) shots$/, 'shots'],
];

/** What it was done to, where it has a page. */
function About({ act, about }: { act: string; about: string | null }) {
  const room = rooms.find(([of]) => of.test(act))?.[1];
  if (about === null || room === undefined) return about;
  return (
    <Link className="text-select underline" to={`/${room}/${about}`}>
      {about}
    </Link>
  );
}

function Entries({ rows }: { rows: readonly AuditEntry[] }) {
  return (
    <table className="w-full border-t border-ink text-left">
      <ColumnHeads
        titles={['No.', 'When', 'Who', 'Device', 'What', 'Of']}
        look="px-2 py-1 whitespace-nowrap"
        row="border-b border-rule"
      />
      <tbody>
        {rows.map((row) => (
          <tr key={row.number} className="border-b border-rule align-baseline">
            <td className="figure px-2 py-1">{row.number}</td>
            <td className="figure px-2 py-1 whitespace-nowrap">{format(new Date(row.at), 'd MMM yyyy, HH:mm:ss')}</td>
            <td className="px-2 py-1">
              {row.name ?? (row.who === null ? 'the machine itself' : `number ${row.who.slice(0, 8)}`)}
            </td>
            <td className="px-2 py-1">{row.device}</td>
            <td className="px-2 py-1">{actWords[row.act] ?? row.act}</td>
            <td className="figure px-2 py-1 text-13 break-all">
              <About act={row.act} about={row.about} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Head({ words, setWords }: { words: string; setWords: (words: string) => void }) {
  return (
    <div className="flex flex-wrap items-center gap-3">
      <h1 className="mr-auto text-2xl font-bold">Audit</h1>
      <AdminLinks but="/audit" />
      <input
        type="search"
        aria-label="Search the audit"
        placeholder="Search name, act or id"
        className="w-56 border border-rule bg-plate px-2 py-1"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <a
        className="inline-flex items-center gap-2 border border-rule bg-plate px-3 py-1.5 whitespace-nowrap hover:border-ink"
        href="/api/audit/file"
        download
      >
        <FileDown size={17} aria-hidden /> Export as CSV
      </a>
    </div>
  );
}

/** Who did what from which device, the newest first. */
export function AuditView() {
  const [words, setWords] = useState('');
  const q = useDeferredValue(words.trim());
  const { data, error, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useListAuditInfiniteQuery(
    { q },
    { refetchOnMountOrArgChange: true },
  );
  const rows = data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <main className="mx-auto w-full max-w-[70rem] p-5">
      <Head words={words} setWords={setWords} />
      <p className="mt-1 max-w-[46rem] text-dim">
        Sign-ins, roles, saves, exports and runs, as long as the workshop is open to other devices. Entries are added and never
        changed; each holds the sum of the one before.
      </p>
      <Chain />
      {error !== undefined &&
        (failureOf(error).code === 'not_allowed' ? (
          <Wrong error={error} />
        ) : (
          <Failure error={error} onRetry={() => void refetch()} />
        ))}
      {data && rows.length === 0 && <p className="mt-4 text-dim">{q === '' ? 'Nothing yet.' : 'No results.'}</p>}
      {rows.length > 0 && (
        <div className="mt-3 overflow-x-auto">
          <Entries rows={rows} />
          <MoreRows
            shown={rows.length}
            total={data?.pages[0]?.total ?? 0}
            noun="entries"
            isLoading={isFetchingNextPage}
            onMore={hasNextPage ? () => void fetchNextPage() : null}
          />
        </div>
      )}
    </main>
  );
}
