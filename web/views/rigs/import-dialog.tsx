import { useState } from 'react';
import { FileUp } from 'lucide-react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { type BenchTaking, type PreviewBench, type PreviewEntry, type StoredRig, type Taking } from '@vast-surge/contract';
import { readRigFile, rigFileLimit, wordFileIssue } from '@vast-surge/core/format';
import { sameDocument } from '@vast-surge/core/rig';
import { api, failureOf, useImportArchiveMutation, useUploadArchiveMutation } from '../../app/api.ts';
import { askedOnce } from '../../app/asked-once.ts';
import { useAddRig } from '../../app/commands.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const standingWords: { readonly [K in PreviewEntry['standing']]: string } = {
  new: 'new',
  same: 'same',
  different: 'different',
  unreadable: 'cannot be read',
};

const takingWords = (entry: PreviewEntry): readonly (readonly [Taking, string])[] =>
  entry.standing === 'unreadable'
    ? [['leave', 'skip']]
    : [
        ['leave', 'skip'],
        ['take', entry.standing === 'new' ? 'import' : 'use the archive’s; mine is kept as a revision'],
        ['copy', 'import as another rig, without runs and shots'],
      ];

const firstChoice = (entry: PreviewEntry): Taking =>
  entry.standing === 'new' || (entry.standing === 'same' && entry.newRevisions > 0) ? 'take' : 'leave';

const revisionWords = ({ revisions, newRevisions }: PreviewEntry): string =>
  revisions === 0
    ? 'No revisions.'
    : `${revisions === 1 ? '1 revision' : `${revisions} revisions`}, ${newRevisions === 0 ? 'all of them here already' : `${newRevisions} not here yet`}.`;

const recordWords = ({ runs, shots, newShots, campaigns, photos, traces }: PreviewEntry): string =>
  [
    ...(runs > 0 ? [runs === 1 ? '1 run' : `${runs} runs and rehearsals`] : []),
    ...(shots > 0 ? [`${pieces(shots, 'shot')}, ${newShots} not here yet`] : []),
    ...(campaigns > 0 ? [pieces(campaigns, 'campaign')] : []),
    ...(photos > 0 ? [pieces(photos, 'photo')] : []),
    ...(traces > 0 ? [pieces(traces, 'trace')] : []),
  ].join('; ');

const pieces = (n: number, noun: string) => (n === 1 ? `1 ${noun}` : `${n} ${noun}s`);

/** What the archive's parts bench would bring, and the choice of it. */
function BenchEntry({
  bench,
  choice,
  onChoice,
}: {
  bench: PreviewBench;
  choice: BenchTaking;
  onChoice: (choice: BenchTaking) => void;
}) {
  return (
    <li className="grid gap-x-4 gap-y-1 border-t border-rule py-2 sm:grid-cols-[minmax(0,1fr)_17rem]">
      <div>
        <b>Parts bench</b>
        <span className="block text-14">
          {pieces(bench.parts, 'part')}
          {bench.photos > 0 && `, ${bench.photos} with a photo,`} in {pieces(bench.lots, 'lot')}: {bench.new} new here,{' '}
          {bench.same} the same, {bench.different} different
          {bench.unreadable > 0 && `, ${bench.unreadable} that this program cannot read`}.
        </span>
        <span className="block text-13 text-dim">
          A new part whose tag another one has here already gets a number appended, such as C-004-2.
        </span>
      </div>
      <Select
        aria-label="What to do with the parts bench"
        fit="tall"
        className="w-full"
        value={choice}
        onChange={(event) => onChoice(event.target.value as BenchTaking)}
      >
        <option value="leave">skip</option>
        <option value="add">add what is missing here</option>
        <option value="take">add, and use the archive’s where they differ</option>
      </Select>
    </li>
  );
}

interface Loaded {
  readonly file: string;
  /** Of the file on the server. */
  readonly id: string;
  readonly entries: readonly PreviewEntry[];
  readonly bench: PreviewBench | null;
}

function RigEntry({
  entry,
  choice,
  onChoice,
}: {
  entry: Loaded['entries'][number];
  choice: Taking;
  onChoice: (choice: Taking) => void;
}) {
  return (
    <li className="grid gap-x-4 gap-y-1 border-t border-rule py-2 sm:grid-cols-[minmax(0,1fr)_17rem]">
      <div>
        <b>{entry.name}</b> <span className="border border-ink px-1 text-13">{standingWords[entry.standing]}</span>
        <span className="block text-14">{entry.says}</span>
        <span className="block text-13 text-dim">
          {[revisionWords(entry), recordWords(entry)].filter((words) => words !== '').join(' ')}
        </span>
      </div>
      <Select
        aria-label={`What to do with ${entry.name}`}
        fit="tall"
        className="w-full"
        value={choice}
        onChange={(event) => onChoice(event.target.value as Taking)}
      >
        {takingWords(entry).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </Select>
    </li>
  );
}

const importWords = (taken: number, bench: BenchTaking): string =>
  taken > 0
    ? `Import ${pieces(taken, 'rig')}${bench === 'leave' ? '' : ' and the parts'}`
    : bench === 'leave'
      ? 'Nothing chosen'
      : 'Import the parts';

function PreviewDialog({ loaded, onClose }: { loaded: Loaded; onClose: () => void }) {
  const [choices, setChoices] = useState<Readonly<Record<string, Taking>>>(() =>
    Object.fromEntries(loaded.entries.map((entry) => [entry.id, firstChoice(entry)])),
  );
  const [run, { isLoading, error }] = useImportArchiveMutation();
  const [bench, setBench] = useState<BenchTaking>(loaded.bench && loaded.bench.new > 0 ? 'add' : 'leave');
  const taken = Object.values(choices).filter((choice) => choice !== 'leave').length;
  const bringIn = async () => {
    try {
      const { made, changed, parts } = await run({ id: loaded.id, choices: { ...choices }, bench }).unwrap();
      const benchWords = bench === 'leave' ? '' : ` Parts: ${parts.made} new, ${parts.changed} changed.`;
      toast(`Imported: ${made} new, ${changed} changed.${benchWords}`);
      onClose();
    } catch {
      // The dialog stays open and says what went wrong; nothing was written.
    }
  };
  return (
    <Sheet
      title={`What ${loaded.file} would bring`}
      says="Nothing has been written yet. Everything chosen is imported, or nothing is."
      width="w-[min(60rem,96vw)]"
      onClose={onClose}
    >
      {loaded.entries.length === 0 && <p className="mt-3">The archive holds no rigs.</p>}
      <ul className="mt-3">
        {loaded.bench && <BenchEntry bench={loaded.bench} choice={bench} onChoice={setBench} />}
        {loaded.entries.map((entry) => (
          <RigEntry
            key={entry.id}
            entry={entry}
            choice={choices[entry.id] ?? 'leave'}
            onChoice={(choice) => setChoices({ ...choices, [entry.id]: choice })}
          />
        ))}
      </ul>
      {error !== undefined && (
        <TroubleLine look="words" className="mt-2">
          Nothing was imported. {failureOf(error).message}
        </TroubleLine>
      )}
      <div className="mt-4 flex gap-2">
        <Button look="primary" disabled={(taken === 0 && bench === 'leave') || isLoading} onClick={() => void bringIn()}>
          {importWords(taken, bench)}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Sheet>
  );
}

interface Refused {
  readonly file: string;
  readonly reasons: readonly string[];
}

/** Takes a rig file, or an archive of which it first shows what it would bring. */
export function ImportButton() {
  const add = useAddRig();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [upload, { isLoading }] = useUploadArchiveMutation();
  const [refused, setRefused] = useState<Refused | null>(null);
  const [loaded, setLoaded] = useState<Loaded | null>(null);

  const find = async (id: string): Promise<StoredRig | null> => {
    try {
      return await askedOnce(dispatch(api.endpoints.getRig.initiate(id, { forceRefetch: true })));
    } catch (error) {
      // Whether it is here is not known where the server does not say so.
      if (failureOf(error).code === 'not_found') return null;
      throw error;
    }
  };

  const takeRigFile = async (file: File): Promise<readonly string[]> => {
    // The size is judged before anything is read: a file of gigabytes must not reach the memory of the page.
    const read =
      file.size > rigFileLimit
        ? { ok: false as const, issues: [{ code: 'too_large' as const, bytes: file.size, limit: rigFileLimit }] }
        : readRigFile(await file.text());
    if (!read.ok) return read.issues.map(wordFileIssue);
    const here = read.id === undefined ? null : await find(read.id);
    if (here && sameDocument(here.document, read.document)) {
      toast(`${file.name} holds ${read.document.name} as it is here already; nothing was written.`);
      void navigate(`/rigs/${here.id}`);
      return [];
    }
    if (here) toast(`${here.document.name} is here too and differs: this one came in as a rig of its own.`, { duration: 10_000 });
    const id = await add(read.document, here ? {} : { id: read.id });
    if (id) void navigate(`/rigs/${id}`);
    return [];
  };

  const takeArchive = async (file: File): Promise<readonly string[]> => {
    try {
      const { id, preview } = await upload(file).unwrap();
      setLoaded({ file: file.name, id, entries: preview.entries, bench: preview.bench });
      return [];
    } catch (error) {
      return [failureOf(error).message];
    }
  };

  const take = async (file: File) => {
    setRefused(null);
    const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
    // Every ZIP file begins with these two letters, whatever it is named.
    const isArchive = head[0] === 0x50 && head[1] === 0x4b;
    const reasons = await (isArchive ? takeArchive(file) : takeRigFile(file)).catch((error: unknown) => [
      failureOf(error).message,
    ]);
    if (reasons.length > 0) setRefused({ file: file.name, reasons });
  };

  return (
    <>
      <FileButton
        disabled={isLoading}
        label="Rig file or archive to import"
        accept=".json,.zip,application/json,application/zip"
        onFile={(file) => void take(file)}
      >
        <FileUp size={16} aria-hidden /> Import
      </FileButton>
      {loaded && <PreviewDialog loaded={loaded} onClose={() => setLoaded(null)} />}
      {refused && (
        <div role="alert" className="order-last w-full border-l-4 border-over bg-plate p-3">
          <p className="font-bold">{refused.file} was not imported; nothing was written.</p>
          <ul className="list-disc pl-5">
            {refused.reasons.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
