import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api, failureOf, useCreateRigMutation } from '../../app/api.ts';
import { rigOpened } from '../../app/editor.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';

function useSecondsSince(when: number | null): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return when === null ? 0 : Math.max(0, Math.round((now - when) / 1000));
}

const ago = (seconds: number): string =>
  seconds < 60 ? `${seconds} s` : seconds < 3600 ? `${Math.floor(seconds / 60)} min` : `${Math.floor(seconds / 3600)} h`;

/** The rig was saved elsewhere in between: the user says which one stands, and neither is lost. */
function Conflict() {
  const dispatch = useAppDispatch();
  const { id, document } = useAppSelector((s) => s.editor);
  const [create] = useCreateRigMutation();
  const takeTheirs = async () => {
    if (!id) return;
    try {
      const rig = await dispatch(api.endpoints.getRig.initiate(id, { forceRefetch: true })).unwrap();
      dispatch(rigOpened({ rig, drafts: {} }));
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  const keepMine = async () => {
    if (!document) return;
    try {
      const copy = { ...document, name: `${document.name.slice(0, 70)} (copy)` };
      await create({ id: crypto.randomUUID(), document: copy }).unwrap();
      toast(`Yours is kept as "${copy.name}".`);
      await takeTheirs();
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  return (
    <span role="alert" className="flex flex-wrap items-center gap-2 bg-warning px-2 text-on-warning">
      Changed elsewhere: your last edits are not saved.
      <button type="button" className="underline" onClick={() => void keepMine()}>
        Keep mine as a copy
      </button>
      <button type="button" className="underline" onClick={() => void takeTheirs()}>
        Take the other
      </button>
    </span>
  );
}

/** Where the edits are, always readable. */
export function SaveLine() {
  const { save } = useAppSelector((s) => s.editor);
  const seconds = useSecondsSince(save.at === 'saved' ? save.when : null);
  if (save.at === 'conflict') return <Conflict />;
  if (save.at === 'failed') {
    return (
      <span role="alert" className="bg-warning px-2 text-on-warning" title={save.message}>
        Not saved: {save.message} Kept in this page.
      </span>
    );
  }
  const text =
    save.at === 'saved'
      ? save.when === null
        ? 'saved'
        : `saved ${ago(seconds)} ago`
      : save.at === 'saving'
        ? 'saving'
        : 'not yet saved';
  return (
    <span data-save={save.at} className="text-[13px] whitespace-nowrap text-dim">
      {text}
    </span>
  );
}
