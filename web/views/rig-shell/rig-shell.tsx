import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { allPages, pagesOf, type RigDocument, type RigPage } from '@vast-surge/core/rig';
import { allDesks } from '@vast-surge/core/kind';
import { failureOf, useArchiveRigMutation } from '../../app/api.ts';
import { redoEdit, undoEdit } from '../../app/commands.ts';
import { numberTouched } from '../../app/editor.ts';
import { useOpenRig, type OpenRig } from '../../app/open-rig.ts';
import { useAppDispatch, useAppSelector, useSeen } from '../../app/store.ts';
import { Failure } from '../../app/trouble.tsx';
import { Conflict } from './conflict.tsx';
import { HazardStrip } from './hazard-strip.tsx';
import { RevisionDialog } from './revision-dialog.tsx';
import { RigBar } from './rig-bar.tsx';
import { RigTabs } from './rig-tabs.tsx';
import type { RigPageContext } from './use-rig-page.ts';
import { useEvaluation } from '../../workers/evaluate.ts';

function ArchivedNote({ id }: { id: string }) {
  const [archive] = useArchiveRigMutation();
  const bringBack = async () => {
    const answer = await archive({ id, archived: false });
    if (answer.error) toast.error(failureOf(answer.error).message);
  };
  return (
    <p role="status" className="no-print flex gap-3 border-b border-rule bg-plate px-5 py-1.5">
      This rig is archived: it is kept and not on the list.
      <button type="button" className="text-select underline" onClick={() => void bringBack()}>
        Restore to the list
      </button>
    </p>
  );
}

/** Keys of every page of a rig. In a field they work as well where they take the place of the browser's own. */
function useRigKeys(onSave: () => void) {
  const anywhere = { enableOnFormTags: true, preventDefault: true } as const;
  useHotkeys('mod+z', undoEdit, anywhere);
  useHotkeys('mod+shift+z, mod+y', redoEdit, anywhere);
  useHotkeys('mod+s', onSave, anywhere);
}

/** Moves to the heading of a page that was gone to, so that a screen reader says it and Tab goes on from there. */
function useFocusOnHeading(route: string) {
  const last = useRef(route);
  useEffect(() => {
    if (last.current === route) return undefined;
    last.current = route;
    const focused = (): boolean => {
      const heading = document.querySelector<HTMLElement>('main h1');
      if (!heading) return false;
      heading.tabIndex = -1;
      heading.focus({ preventScroll: true });
      return true;
    };
    if (focused()) return undefined;
    // A page that fetches something first has its heading later.
    const observer = new MutationObserver(() => focused() && observer.disconnect());
    observer.observe(document.body, { childList: true, subtree: true });
    // Whoever has gone on by then is not called back.
    const over = setTimeout(() => observer.disconnect(), 10_000);
    return () => {
      clearTimeout(over);
      observer.disconnect();
    };
  }, [route]);
}

/** A page that exists and that this rig does not have: why, and what would change that. */
function NotOfThisRig({ id, name, route }: { id: string; name: string; route: string }) {
  const page = allPages.find((one) => one.route === route);
  const desk = allDesks.find((one) => one.route === route);
  return (
    <main className="mx-auto w-full max-w-[900px] p-5">
      <h1 className="text-20 font-bold">
        {page ? `${page.title} does not apply to ${name}` : `${name} has no page of this name`}
      </h1>
      {page && desk && (
        <>
          <p className="mt-2">
            It needs {desk.of}, and {name} has none. Choose another kind of block on the rig, and the tab appears.
          </p>
          <p className="mt-2 text-dim">{page.about}</p>
        </>
      )}
      <p className="mt-3">
        <Link className="text-select underline" to={`/rigs/${id}`}>
          Open {name}
        </Link>
      </p>
    </main>
  );
}

function Opened({ id, document, away, archived }: OpenRig & { id: string; document: RigDocument }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const seen = useSeen(document);
  const { send, base } = useAppSelector((s) => s.editor);
  const [isSaving, setSaving] = useState(false);
  // Evaluating takes some milliseconds: a keystroke is shown first and the numbers follow.
  const rig = useDeferredValue(seen.rig);
  const evaluation = useEvaluation(rig);
  const route = pathname.split('/')[3] ?? '';
  const here: RigPage | null = pagesOf(document.rig).find((page) => page.route === route) ?? null;
  useRigKeys(() => setSaving(true));
  useFocusOnHeading(route);
  const touch = (focus: string) => {
    dispatch(numberTouched(focus));
    if (route !== '') void navigate(`/rigs/${id}`);
  };
  const context: RigPageContext = { id, document, seen, evaluation, saveRevision: () => setSaving(true) };
  return (
    <div className="flex flex-1 flex-col lg:min-h-0 print:block">
      <title>{`${here ? `${here.title} · ` : ''}${document.name} · Vast Surge`}</title>
      <RigBar id={id} document={document} evaluation={evaluation} away={away} onSaveRevision={() => setSaving(true)} />
      <RigTabs id={id} rig={document.rig} here={here} />
      <HazardStrip evaluation={evaluation} onTouch={touch} />
      {archived && <ArchivedNote id={id} />}
      {send.at === 'conflict' && base && <Conflict id={id} base={base} mine={document} theirs={send.theirs} />}
      <div className="flex flex-1 flex-col lg:min-h-0 lg:overflow-y-auto print:block print:overflow-visible">
        {here ? <Outlet context={context} /> : <NotOfThisRig id={id} name={document.name} route={route} />}
      </div>
      <RevisionDialog open={isSaving} onOpenChange={setSaving} />
    </div>
  );
}

/** What stands around every page of a rig: its name, verdict, pages, hazard, and where its edits are. */
export function RigShell() {
  const { id = '' } = useParams();
  const open = useOpenRig(id);
  if (open.document) return <Opened key={id} {...open} id={id} document={open.document} />;
  return (
    <main className="mx-auto w-full max-w-[900px] p-5">
      <title>Rig · Vast Surge</title>
      {open.error ? (
        <>
          <h1 className="sr-only">This rig cannot be shown</h1>
          <Failure error={open.error} onRetry={open.refetch} />
          <Link className="ml-6 text-select underline" to="/rigs">
            Open the list of rigs
          </Link>
        </>
      ) : (
        <p className="text-dim">Fetching the rig …</p>
      )}
    </main>
  );
}
