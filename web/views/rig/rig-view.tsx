import { useDeferredValue, useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { Redo2, Undo2 } from 'lucide-react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { slots } from '@vast-surge/core/block';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { writeRigFile } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';
import { failureOf, useArchiveRigMutation } from '../../app/api.ts';
import { redoEdit, undoEdit } from '../../app/commands.ts';
import { renamed } from '../../app/edits.ts';
import { blockSelected, numberTouched, workingToggled } from '../../app/editor.ts';
import { useOpenRig } from '../../app/open-rig.ts';
import { useAppDispatch, useAppSelector, useSeen } from '../../app/store.ts';
import { Failure } from '../../app/trouble.tsx';
import { redoWords, undoWords } from '../../app/undo.ts';
import { RigLine } from '../../schematic/line.tsx';
import { download, fileName } from '../../ui/download.ts';
import { IconButton } from '../../ui/icon-button.tsx';
import { StageTabs } from '../stage-tabs.tsx';
import { BlockForm } from './block-form.tsx';
import { Conflict } from './conflict.tsx';
import { HazardStrip } from './hazard-strip.tsx';
import { VerdictRow } from './verdict-row.tsx';
import { LimitsLadder } from './limits-ladder.tsx';
import { RevisionDialog } from './revision-dialog.tsx';
import { SaveLine } from './save-line.tsx';
import { TracesPanel } from './traces-panel.tsx';
import { WorkingBar } from './working.tsx';

function RigName({ name }: { name: string }) {
  const dispatch = useAppDispatch();
  return (
    <input
      aria-label="Name of the rig"
      title="Rename"
      className="w-40 min-w-0 border border-transparent bg-transparent px-1 text-right font-bold hover:border-rule focus:border-select"
      defaultValue={name}
      maxLength={80}
      onBlur={(event) => {
        const next = event.target.value.trim();
        if (next === '') event.target.value = name;
        else if (next !== name) dispatch(renamed(next));
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

function UndoButtons() {
  const history = useAppSelector((s) => s.history);
  const [back, forth] = [undoWords(history), redoWords(history)];
  const button = (title: string, words: string | null, act: () => void, icon: React.ReactNode) => (
    <IconButton
      label={title}
      hint={words === null ? `${title}: nothing yet` : `${title}: ${words}`}
      className="!px-1.5"
      disabled={words === null}
      onClick={act}
    >
      {icon}
    </IconButton>
  );
  return (
    <span className="flex max-[430px]:hidden">
      {button('Undo', back, undoEdit, <Undo2 size={17} aria-hidden />)}
      {button('Redo', forth, redoEdit, <Redo2 size={17} aria-hidden />)}
    </span>
  );
}

const tool = 'whitespace-nowrap border border-rule bg-plate px-2 py-0.5 hover:border-ink';

function HeaderTools({ id, document: rigDocument, away }: { id: string; document: RigDocument; away: boolean }) {
  const slot = window.document.getElementById('header-slot');
  if (!slot) return null;
  return createPortal(
    <>
      <span className="hidden sm:inline">
        <RigName key={`${id} ${rigDocument.name}`} name={rigDocument.name} />
      </span>
      <SaveLine serverAway={away} />
      <UndoButtons />
      <Link className={tool} to={`/rigs/${id}/run-sheet`}>
        Run sheet
      </Link>
      <Link className={`hidden sm:inline ${tool}`} to={`/rigs/${id}/revisions`}>
        Revisions
      </Link>
      <button
        type="button"
        className={`hidden sm:inline ${tool}`}
        onClick={() => download(`${fileName(rigDocument.name)}.rig.json`, writeRigFile(rigDocument, id), 'application/json')}
      >
        Export
      </button>
    </>,
    slot,
  );
}

/** Keys of the rig page. In a field they work as well where they take the place of the browser's own. */
function useRigKeys(onClose: () => void) {
  const anywhere = { enableOnFormTags: true, preventDefault: true } as const;
  useHotkeys('mod+z', undoEdit, anywhere);
  useHotkeys('mod+shift+z, mod+y', redoEdit, anywhere);
  useHotkeys('mod+s', onClose, anywhere);
  const dispatch = useAppDispatch();
  const selected = useAppSelector((s) => s.editor.selected);
  const open = useAppSelector((s) => s.editor.workingOpen);
  const move = (step: number) => {
    const next = slots[(slots.indexOf(selected) + step + slots.length) % slots.length];
    if (next) dispatch(blockSelected(next));
  };
  useHotkeys('[', () => move(-1), { useKey: true });
  useHotkeys(']', () => move(1), { useKey: true });
  useHotkeys('w', () => void dispatch(workingToggled(!open)), { useKey: true });
  useHotkeys('escape', () => void dispatch(workingToggled(false)));
}

interface WorkbenchProps {
  readonly id: string;
  readonly document: RigDocument;
  readonly away: boolean;
  readonly archived: boolean;
}

function ArchivedNote({ id }: { id: string }) {
  const [archive] = useArchiveRigMutation();
  const bringBack = async () => {
    const answer = await archive({ id, archived: false });
    if (answer.error) toast.error(failureOf(answer.error).message);
  };
  return (
    <p role="status" className="flex gap-3 border-b border-rule bg-plate px-5 py-1.5">
      This rig is archived: it is kept and not on the list.
      <button type="button" className="text-select underline" onClick={() => void bringBack()}>
        Bring it back
      </button>
    </p>
  );
}

function Workbench({ id, document: whole, away, archived }: WorkbenchProps) {
  const dispatch = useAppDispatch();
  const document = useSeen(whole);
  const { selected, send, base } = useAppSelector((s) => s.editor);
  const [closing, setClosing] = useState(false);
  // Evaluating takes some milliseconds: a keystroke is shown first and the numbers follow.
  const rig = useDeferredValue(document.rig);
  const evaluation = useMemo(() => evaluateRig(rig), [rig]);
  useRigKeys(() => setClosing(true));
  const touch = (focus: string) => dispatch(numberTouched(focus));
  return (
    <main className="flex flex-1 flex-col lg:min-h-0">
      <HeaderTools id={id} document={whole} away={away} />
      <h1 className="sr-only">Rig {document.name}</h1>
      <HazardStrip evaluation={evaluation} onTouch={touch} />
      <VerdictRow id={id} document={document} evaluation={evaluation} />
      {archived && <ArchivedNote id={id} />}
      {send.at === 'conflict' && base && <Conflict id={id} base={base} mine={whole} theirs={send.theirs} />}
      <div className="px-5 empty:hidden">
        <StageTabs rig={document.rig} edits />
      </div>
      <RigLine evaluation={evaluation} selected={selected} onSelect={(slot) => dispatch(blockSelected(slot))} />
      <div className="grid min-h-0 flex-1 grid-cols-1 lg:grid-cols-[322px_minmax(0,1fr)_312px]">
        <BlockForm id={id} document={document} evaluation={evaluation} />
        <TracesPanel evaluation={evaluation} name={document.name} onTouch={touch} />
        <LimitsLadder evaluation={evaluation} onTouch={touch} />
      </div>
      <WorkingBar evaluation={evaluation} />
      <RevisionDialog open={closing} onOpenChange={setClosing} />
    </main>
  );
}

export function RigView() {
  const { id = '' } = useParams();
  const { document, error, away, archived, refetch } = useOpenRig(id);
  if (document) return <Workbench key={id} id={id} document={document} away={away} archived={archived} />;
  if (error) return <Failure error={error} onRetry={refetch} />;
  return <p className="p-6 text-dim">Fetching the rig …</p>;
}
