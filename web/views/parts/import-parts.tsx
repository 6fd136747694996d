import { useEffect, useMemo, useState } from 'react';
import { format } from 'date-fns';
import { FileUp } from 'lucide-react';
import { toast } from 'sonner';
import type { FileTaken } from '@vast-surge/contract';
import {
  matchColumns,
  partFileLimit,
  tableColumns,
  unitIssue,
  wordFileIssue,
  type Matching,
  type ReadPartFile,
  type ReadTable,
} from '@vast-surge/core/format';
import { failureOf, useAskFileMutation } from '../../app/api.ts';
import { writeBenchNow, type Shelf } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { benchWorker } from '../../workers/bench.ts';
import { digestOf, issueWords, planImport, readCsv, textIn, type FileLot, type FilePart, type TableFile } from './import-read.ts';
import { Select } from '../../ui/select.tsx';
import { partKindOptions } from './form-row.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

interface Loaded {
  readonly name: string;
  readonly digest: string;
  readonly taken: FileTaken | null;
  readonly table: TableFile | null;
  /** Of a JSON file, which needs no matching. */
  readonly read: { readonly parts: readonly FilePart[]; readonly lots: readonly FileLot[] } | null;
}

const some = (count: number, noun: string): string => (count === 1 ? `1 ${noun}` : `${count} ${noun}s`);

const columnsByTitle = [...tableColumns].sort((a, b) => a.title.localeCompare(b.title));

function ReadAs({ head, id, onId }: { head: string; id: string; onId: (id: string) => void }) {
  return (
    <Select
      aria-label={`${head} is read as`}
      fit="small"
      className="w-full"
      value={id}
      onChange={(event) => onId(event.target.value)}
    >
      <option value="">ignored</option>
      {columnsByTitle.map((c) => (
        <option key={c.id} value={c.id}>
          {c.title} ({c.id})
        </option>
      ))}
    </Select>
  );
}

interface MatchProps {
  readonly table: TableFile;
  readonly matching: Matching;
  readonly onMatching: (m: Matching) => void;
}

/** Which of our columns each column of the file stands for. */
function MatchTable({ table, matching, onMatching }: MatchProps) {
  const idAt = (at: number) => Object.entries(matching).find(([, m]) => m.at === at)?.[0] ?? '';
  const choose = (at: number, id: string) => {
    const rest = Object.fromEntries(Object.entries(matching).filter(([key, m]) => m.at !== at && key !== id));
    const unit = /[([]\s*([^)\]]+?)\s*[)\]]\s*$/.exec(table.heads[at] ?? '')?.[1];
    onMatching(id === '' ? rest : { ...rest, [id]: { at, ...(unit === undefined ? {} : { unit }) } });
  };
  return (
    <div
      className="mt-3 max-h-[34vh] overflow-auto border border-rule"
      tabIndex={0}
      role="group"
      aria-label="Columns of the file"
    >
      <table className="w-full text-left text-14">
        <thead className="text-13 text-dim">
          <tr>
            <th className="px-2 font-normal">Column of the file</th>
            <th className="px-2 font-normal">First rows</th>
            <th className="px-2 font-normal">Read as</th>
          </tr>
        </thead>
        <tbody>
          {table.heads.map((head, at) => (
            <tr key={`${at} ${head}`} className="border-t border-rule">
              <td className="px-2 font-bold">{head || `column ${at + 1}`}</td>
              <td className="max-w-[16rem] truncate px-2 text-dim">
                {table.rows
                  .slice(0, 3)
                  .map((row) => row[at])
                  .filter(Boolean)
                  .join(' · ')}
              </td>
              <td className="px-2 py-0.5">
                <ReadAs head={head || `Column ${at + 1}`} id={idAt(at)} onId={(id) => choose(at, id)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function useTableReading(loaded: Loaded, matching: Matching, fallback: string) {
  const [state, setState] = useState<{ read: ReadTable | null; trouble: string | null }>({ read: null, trouble: null });
  const { table } = loaded;
  useEffect(() => {
    if (!table) return undefined;
    let current = true;
    benchWorker
      .call((remote) => remote.readTable(table.rows, matching, new Date().toISOString(), fallback))
      .then(
        (read) => current && setState({ read, trouble: null }),
        (error: unknown) =>
          current && setState({ read: null, trouble: error instanceof Error ? error.message : 'no reason given' }),
      );
    return () => {
      current = false;
    };
  }, [table, matching, fallback]);
  return state;
}

/** What stands against the file, the first fifty. */
function Against({ issues }: { issues: readonly string[] }) {
  return (
    <div role="alert" className="mt-3 border-l-4 border-over pl-3">
      <p className="font-bold">
        {some(issues.length, 'reason')} against it. Nothing is imported until every row can be read: correct the file, or match
        its columns differently.
      </p>
      <ul className="max-h-[22vh] overflow-y-auto text-14">
        {issues.slice(0, 50).map((issue) => (
          <li key={issue}>{issue}</li>
        ))}
        {issues.length > 50 && <li>and {issues.length - 50} more</li>}
      </ul>
    </div>
  );
}

/** What the file would bring: parts and lots that are new, those that are here, and tags that are taken. */
function Brings({
  plan,
  retag,
  setRetag,
}: {
  plan: ReturnType<typeof planImport>;
  retag: boolean;
  setRetag: (retag: boolean) => void;
}) {
  return (
    <ul className="mt-3 space-y-1">
      <li>
        <b>{some(plan.parts.length, 'new part')}</b>
        {plan.lots.length > 0 &&
          ` in ${some(plan.lots.length, 'new lot')}: ${plan.lots
            .map((l) => l.lot.name)
            .join(', ')
            .slice(0, 160)}`}
      </li>
      {plan.here.length > 0 && (
        <li>
          {some(plan.here.length, 'part')} on the bench already, left as they are: {plan.here.slice(0, 12).join(', ')}
          {plan.here.length > 12 && ' …'}
        </li>
      )}
      {plan.tagTaken.length > 0 && (
        <li>
          {some(plan.tagTaken.length, 'part')} with a tag that another part on the bench has:{' '}
          {plan.tagTaken.slice(0, 12).join(', ')}
          {plan.tagTaken.length > 12 && ' …'}
          <label className="flex items-baseline gap-2">
            <input type="checkbox" checked={retag} onChange={(event) => setRetag(event.target.checked)} />
            Give them new tags. Otherwise they are left out.
          </label>
        </li>
      )}
    </ul>
  );
}

/** What a file would bring to the shelf as its columns are read, and what stands against it. */
function usePlan(loaded: Loaded, shelf: Shelf, matching: Matching, read: ReadTable | null, retag: boolean) {
  const headOf = (column: string) => {
    const at = matching[column]?.at;
    return at === undefined ? column : (loaded.table?.heads[at] ?? column);
  };
  const unitIssues = Object.entries(matching).flatMap(([id, { unit }]) => {
    const column = tableColumns.find((c) => c.id === id);
    const issue = column && unit !== undefined ? unitIssue(column, unit) : null;
    return issue === null ? [] : [`Column ${headOf(id)}: ${issue}`];
  });
  const file = useMemo(() => {
    if (loaded.read) return loaded.read;
    const parts = (read?.parts ?? []).map(({ row, id, lot, part }) => ({ where: `row ${row}`, id, lotName: lot, part }));
    return { parts, lots: [] };
  }, [loaded.read, read]);
  const plan = useMemo(() => planImport(file, shelf.bench, retag), [file, shelf.bench, retag]);
  const issues = [...unitIssues, ...(read?.issues ?? []).map((issue) => issueWords(issue, headOf))];
  return { plan, issues };
}

/** How the columns of a table are read, and of what kind the parts are where no column says so. */
function Columns({
  table,
  matching,
  onMatching,
  fallback,
  onFallback,
}: {
  table: TableFile;
  matching: Matching;
  onMatching: (matching: Matching) => void;
  fallback: string;
  onFallback: (kind: string) => void;
}) {
  return (
    <>
      <MatchTable table={table} matching={matching} onMatching={onMatching} />
      {!('kind' in matching) && (
        <label className="mt-2 flex items-center gap-2">
          No column gives the kind of part. They are
          <Select fit="small" value={fallback} onChange={(event) => onFallback(event.target.value)}>
            {partKindOptions}
          </Select>
        </label>
      )}
    </>
  );
}

function ImportDialog({ loaded, shelf, onClose }: { loaded: Loaded; shelf: Shelf; onClose: () => void }) {
  const [fallback, setFallback] = useState('capacitor');
  const [matching, setMatching] = useState<Matching>(() => matchColumns(loaded.table?.heads ?? [], fallback));
  const [retag, setRetag] = useState(false);
  const [again, setAgain] = useState(false);
  const [sending, setSending] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const [key] = useState(() => crypto.randomUUID());
  const { read, trouble } = useTableReading(loaded, matching, fallback);
  const { plan, issues } = usePlan(loaded, shelf, matching, read, retag);
  const takenBefore = loaded.taken?.takenAt ?? null;
  const ready = plan.parts.length > 0 && issues.length === 0 && !sending && (takenBefore === null || again);
  const bringIn = async () => {
    setSending(true);
    setFailure(null);
    try {
      await writeBenchNow(
        { do: 'create', parts: plan.parts, lots: plan.lots, file: { name: loaded.name.slice(0, 200), digest: loaded.digest } },
        key,
      );
      toast(`${some(plan.parts.length, 'part')} from ${loaded.name} on the bench.`);
      onClose();
    } catch (error) {
      setFailure(failureOf(error).message);
      setSending(false);
    }
  };
  return (
    <Sheet
      title={`What ${loaded.name} would bring`}
      says="Nothing has been written yet. All of it is imported, or nothing is."
      width="w-[min(56rem,96vw)]"
      onClose={onClose}
    >
      {takenBefore !== null && (
        <label className="mt-2 flex items-baseline gap-2 border-l-4 border-warning pl-2">
          <input type="checkbox" checked={again} onChange={(event) => setAgain(event.target.checked)} />
          <span>
            This file was imported on {format(new Date(takenBefore), 'd MMM yyyy, HH:mm')}, and brought{' '}
            {some(loaded.taken?.parts ?? 0, 'part')}. Import it again anyway.
          </span>
        </label>
      )}
      {loaded.table && (
        <Columns
          table={loaded.table}
          matching={matching}
          onMatching={setMatching}
          fallback={fallback}
          onFallback={(kind) => {
            setFallback(kind);
            setMatching(matchColumns(loaded.table?.heads ?? [], kind));
          }}
        />
      )}
      {trouble !== null && (
        <TroubleLine look="words" className="mt-2">
          The table could not be read: {trouble}.
        </TroubleLine>
      )}
      {issues.length > 0 && <Against issues={issues} />}
      <Brings plan={plan} retag={retag} setRetag={setRetag} />
      {failure !== null && (
        <TroubleLine look="words" className="mt-2">
          Nothing was imported. {failure}
        </TroubleLine>
      )}
      <div className="mt-4 flex gap-2">
        <Button look="primary" disabled={!ready} onClick={() => void bringIn()}>
          {plan.parts.length === 0 ? 'Nothing to import' : `Import ${some(plan.parts.length, 'part')}`}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Sheet>
  );
}

/** Takes a table or a file of parts, and first shows what it would bring. */
export function ImportParts({ shelf }: { shelf: Shelf }) {
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [ask] = useAskFileMutation();
  const refused = (name: string, reason: string) =>
    toast.error(`${name} was not imported; nothing was written. ${reason}`, { duration: 20_000 });
  const take = async (file: File) => {
    if (file.size > partFileLimit) {
      refused(file.name, `It has ${file.size} bytes; a file of parts has at most ${partFileLimit}.`);
      return;
    }
    const bytes = new Uint8Array(await file.arrayBuffer());
    const text = textIn(bytes);
    const digest = await digestOf(bytes);
    const isJson = /^\s*[{[]/.test(text.replace(/^\uFEFF/, ''));
    // Whether it was taken in before is asked of the server; where that is away, bringing it in would fail as well.
    const taken = await ask(digest)
      .unwrap()
      .catch(() => null);
    const head = { name: file.name, digest, taken };
    if (isJson) {
      const read = await benchWorker.call<ReadPartFile>(async (remote) => await remote.readPartFile(text));
      if (!read.ok) {
        refused(file.name, read.issues.slice(0, 6).map(wordFileIssue).join(' '));
        return;
      }
      const parts = read.file.parts.map(({ id, part }) => ({ where: part.name, id, lotName: null, part }));
      setLoaded({ ...head, table: null, read: { parts, lots: read.file.lots } });
      return;
    }
    const table = readCsv(text);
    if (table.ok) setLoaded({ ...head, table: table.value, read: null });
    else refused(file.name, `In it ${table.reason}.`);
  };
  return (
    <>
      <FileButton
        label="Table or file of parts to import"
        accept=".csv,.tsv,.txt,.json,text/csv,application/json"
        onFile={(file) => void take(file).catch((error: unknown) => refused(file.name, failureOf(error).message))}
      >
        <FileUp size={16} aria-hidden /> Import
      </FileButton>
      {loaded && <ImportDialog key={loaded.digest} loaded={loaded} shelf={shelf} onClose={() => setLoaded(null)} />}
    </>
  );
}
