import { useState } from 'react';
import { format, formatDistanceToNowStrict } from 'date-fns';
import { toast } from 'sonner';
import type { BackupRow, Backups, BackupSettings } from '@vast-surge/contract';
import { failureOf, useGetBackupsQuery, useGetHealthQuery, useSetBackupsMutation } from '../../app/api.ts';
import { ExportLink } from '../../app/export-link.tsx';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const kindWords: { readonly [K in BackupRow['kind']]: string } = {
  asked: 'from the terminal',
  scheduled: 'scheduled',
  download: 'downloaded',
  'before-restore': 'before a restore',
};

const size = (bytes: number): string => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toPrecision(3)} MB`);

const field = 'border border-rule bg-plate px-2 py-1';

interface EntryProps {
  readonly title: string;
  readonly wide?: boolean;
  readonly mode?: 'text' | 'decimal' | 'numeric';
  readonly placeholder?: string;
  readonly value: string;
  readonly onText: (text: string) => void;
}

function Entry({ title, wide = false, mode = 'text', placeholder, value, onText }: EntryProps) {
  return (
    <label className="flex flex-col text-14">
      {title}
      <input
        className={`${field} ${wide ? 'w-[min(26rem,86vw)]' : 'figure w-24'} text-16`}
        inputMode={mode}
        placeholder={placeholder}
        value={value}
        onChange={(event) => onText(event.target.value)}
      />
    </label>
  );
}

/** Where, how often, how many: one setting that is on or off. */
function Schedule({ settings }: { settings: BackupSettings | null }) {
  const [set, { isLoading, error }] = useSetBackupsMutation();
  const [folder, setFolder] = useState(settings?.folder ?? '');
  const [every, setEvery] = useState(String(settings?.every ?? 24));
  const [keep, setKeep] = useState(String(settings?.keep ?? 14));
  const save = async (next: BackupSettings | null) => {
    try {
      await set(next).unwrap();
      toast(next ? 'Scheduled backups are on. The first is made now.' : 'Scheduled backups are off.');
    } catch {
      // The form says what is wrong and stays as it is.
    }
  };
  return (
    <section className="mt-5">
      <h2 className="text-17 font-bold">Scheduled backups: {settings ? 'on' : 'off'}</h2>
      <p className="max-w-[44rem] text-dim">
        Writes the whole workshop to a folder on the machine that runs Vast Surge, best on another disk. Each backup is read back
        before it counts; then the oldest beyond the number kept is deleted.
      </p>
      <form
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save({ folder, every: Number(every), keep: Number(keep) });
        }}
      >
        <Entry title="Folder" placeholder="/media/backup/vast-surge" wide value={folder} onText={setFolder} />
        <Entry title="Every, hours" mode="decimal" value={every} onText={setEvery} />
        <Entry title="Number kept" mode="numeric" value={keep} onText={setKeep} />
        <Button type="submit" look="primary" disabled={isLoading}>
          {settings ? 'Save schedule' : 'Switch on'}
        </Button>
        {settings && (
          <Button disabled={isLoading} onClick={() => void save(null)}>
            Switch off
          </Button>
        )}
      </form>
      <TroubleLine className="mt-2">{error === undefined ? null : failureOf(error).message}</TroubleLine>
    </section>
  );
}

function List({ list }: { list: Backups['list'] }) {
  if (list.length === 0) return null;
  return (
    <section className="mt-6">
      <h2 className="text-17 font-bold">Last backups</h2>
      <ul>
        {list.map((b) => (
          <li key={b.id} className="border-t border-rule py-1.5">
            <b>{format(new Date(b.madeAt), 'd MMM yyyy, HH:mm')}</b> {kindWords[b.kind]},{' '}
            {b.failed === null ? (
              <>
                read back, <span className="figure">{b.records}</span> records, {size(b.bytes)}
              </>
            ) : (
              <b className="text-over">failed: {b.failed}</b>
            )}
            <span className="figure block text-13 break-all text-dim">{b.path}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is kept of the workshop elsewhere, how old it is, and backups by themselves. */
export function BackupsView() {
  const { data, error, refetch } = useGetBackupsQuery(undefined, { refetchOnMountOrArgChange: true, pollingInterval: 10_000 });
  const { data: health } = useGetHealthQuery(undefined);
  if (error && !data) return <Failure error={error} onRetry={() => void refetch()} />;
  if (!data) return <p className="p-6 text-dim">Fetching the backups …</p>;
  const disk = health?.disk;
  return (
    <main className="mx-auto w-full max-w-[1100px] p-5">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-2xl font-bold">Backups</h1>
        <ExportLink may={['administers']} href="/api/archive">
          Download a backup
        </ExportLink>
      </div>
      <p className="mt-3 text-19">
        Last backup that was read back:{' '}
        <b>
          {data.lastVerifiedAt === null
            ? 'none yet'
            : `${formatDistanceToNowStrict(new Date(data.lastVerifiedAt))} ago, ${format(new Date(data.lastVerifiedAt), 'd MMM yyyy, HH:mm')}`}
        </b>
      </p>
      {disk && (
        <p className="text-dim">
          Disk of the workshop: <span className="figure">{(disk.free / 1e9).toPrecision(3)} GB</span> free of{' '}
          <span className="figure">{(disk.total / 1e9).toPrecision(3)} GB</span>.
        </p>
      )}
      <Schedule key={JSON.stringify(data.settings)} settings={data.settings} />
      <List list={data.list} />
      <p className="mt-6 max-w-[44rem] text-dim">
        Restore a backup from the terminal: <code className="figure">./surge restore FILE</code> makes the workshop exactly what
        the file holds, and keeps what was here in a file of its own first. Import on the Rigs page brings single rigs in.
      </p>
    </main>
  );
}
