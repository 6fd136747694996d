import { useDeferredValue, useEffect, useMemo } from 'react';
import { createPortal } from 'react-dom';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useParams } from 'react-router';
import { slots } from '@vast-surge/core/block';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { writeRigFile, type RigDocument } from '@vast-surge/core/format';
import { failureOf, useGetRigQuery } from '../../app/api.ts';
import { blockSelected, numberTouched, renamed, rigOpened, workingToggled } from '../../app/editor.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { keptDrafts } from '../../app/drafts.ts';
import { Failure } from '../../app/trouble.tsx';
import { RigLine } from '../../schematic/line.tsx';
import { download, fileName } from '../../ui/download.ts';
import { BlockForm } from './block-form.tsx';
import { HazardStrip } from './hazard-strip.tsx';
import { LimitsLadder } from './limits-ladder.tsx';
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

function HeaderTools({ id, document: rigDocument }: { id: string; document: RigDocument }) {
  const slot = window.document.getElementById('header-slot');
  if (!slot) return null;
  return createPortal(
    <>
      <span className="hidden sm:inline">
        <RigName key={id} name={rigDocument.name} />
      </span>
      <SaveLine />
      <Link className="whitespace-nowrap border border-rule bg-plate px-2 py-0.5 hover:border-ink" to={`/rigs/${id}/run-sheet`}>
        Run sheet
      </Link>
      <button
        type="button"
        className="hidden whitespace-nowrap border border-rule bg-plate px-2 py-0.5 hover:border-ink sm:inline"
        onClick={() => download(`${fileName(rigDocument.name)}.rig.json`, writeRigFile(rigDocument), 'application/json')}
      >
        Export
      </button>
    </>,
    slot,
  );
}

function useRigKeys() {
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

function Workbench({ id, document }: { id: string; document: RigDocument }) {
  const dispatch = useAppDispatch();
  const selected = useAppSelector((s) => s.editor.selected);
  // Evaluating takes some milliseconds: a keystroke is shown first and the numbers follow.
  const rig = useDeferredValue(document.rig);
  const evaluation = useMemo(() => evaluateRig(rig), [rig]);
  useRigKeys();
  const touch = (focus: string) => dispatch(numberTouched(focus));
  return (
    <main className="flex flex-1 flex-col lg:min-h-0">
      <HeaderTools id={id} document={document} />
      <h1 className="sr-only">Rig {document.name}</h1>
      <HazardStrip evaluation={evaluation} onTouch={touch} />
      <RigLine evaluation={evaluation} selected={selected} onSelect={(slot) => dispatch(blockSelected(slot))} />
      <div className="grid min-h-0 flex-1 grid-cols-1 lg:grid-cols-[322px_minmax(0,1fr)_312px]">
        <BlockForm evaluation={evaluation} note={document.note} />
        <TracesPanel evaluation={evaluation} name={document.name} onTouch={touch} />
        <LimitsLadder evaluation={evaluation} onTouch={touch} />
      </div>
      <WorkingBar evaluation={evaluation} />
    </main>
  );
}

/** Another rig still has edits on their way: it is saved first, and no edit is dropped in silence. */
function StillSaving({ id, name }: { id: string; name: string }) {
  return (
    <div role="alert" className="m-6 max-w-2xl border-l-4 border-warning bg-plate p-4">
      <p className="font-bold">Edits of {name} are not saved yet.</p>
      <p className="mt-1">This page opens as soon as they are. Should that take long, go back and see what stands in the way.</p>
      <Link className="mt-2 inline-block text-select underline" to={`/rigs/${id}`}>
        Back to {name}
      </Link>
    </div>
  );
}

export function RigView() {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const { data, error, refetch } = useGetRigQuery(id, { refetchOnMountOrArgChange: true });
  const { id: editorId, document, version, save } = useAppSelector((s) => s.editor);
  const pending = save.at !== 'saved';
  const isOpen = editorId === id && document !== null;

  useEffect(() => {
    // What is still to be saved, of this rig or another, is newer than what the server has.
    if (!data || data.id !== id || pending) return;
    if (!isOpen || data.version > version) dispatch(rigOpened({ rig: data, drafts: keptDrafts(id) }));
  }, [data, id, isOpen, version, pending, dispatch]);

  useEffect(() => {
    if (!error || failureOf(error).code === 'not_found' || failureOf(error).code === 'unreadable') return;
    const timer = setInterval(() => void refetch(), 3000);
    return () => clearInterval(timer);
  }, [error, refetch]);

  if (isOpen) return <Workbench key={id} id={id} document={document} />;
  if (error) return <Failure error={error} onRetry={() => void refetch()} />;
  if (pending && editorId && document) return <StillSaving id={editorId} name={document.name} />;
  return <p className="p-6 text-dim">Fetching the rig …</p>;
}
