import { useState } from 'react';
import { useGetRigQuery } from '../../app/api.ts';
import { useKeptEdits } from '../../app/session.ts';
import { Button } from '../../ui/button.tsx';
import { useRigPage } from '../rig-shell/use-rig-page.ts';
import { BeginDialog, type RunKind } from './begin-dialog.tsx';
import { RunTable } from './run-table.tsx';

const pages: {
  readonly [K in RunKind]: { readonly title: string; readonly says: string; readonly begin: string; readonly none: string };
} = {
  live: {
    title: 'Runs of',
    says: 'A run takes the rig step by step from the strap off to the strap on, and keeps what was done and read.',
    begin: 'Start a run',
    none: 'No live run yet.',
  },
  rehearsal: {
    title: 'Rehearse',
    says: 'The run sheet on a simulated rig, with faults put in: what you miss is listed at the end, with a score.',
    begin: 'Start a rehearsal',
    none: 'No rehearsal yet.',
  },
};

function Page({ kind }: { kind: RunKind }) {
  const { id, document } = useRigPage();
  const { data } = useGetRigQuery(id);
  const isUnsaved = useKeptEdits().some((edit) => edit.rigId === id);
  const [isOpen, setOpen] = useState(false);
  const { title, says, begin, none } = pages[kind];
  return (
    <main className="mx-auto w-full max-w-[1100px] p-5">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-20 font-bold">
          {title} {document.name}
        </h1>
        <Button look="primary" disabled={!data || isUnsaved} className="disabled:opacity-50" onClick={() => setOpen(true)}>
          {begin}
        </Button>
      </div>
      <p className="mt-1 max-w-[70ch] text-dim">{says}</p>
      <RunTable asked={{ q: '', rig: id, kind }} none={none} />
      {isOpen && data && (
        <BeginDialog rigId={id} version={data.version} document={document} first={kind} onClose={() => setOpen(false)} />
      )}
    </main>
  );
}

/** Live runs of one rig. */
export const RigRunsView = () => <Page kind="live" />;

/** Rehearsals of one rig, and the way to another. */
export const RehearseView = () => <Page kind="rehearsal" />;
