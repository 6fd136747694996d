import { useState } from 'react';
import type { RigHead } from '@vast-surge/contract';
import { useGetRigQuery, useRehearsedQuery } from '../../app/api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { RigPicker } from '../../ui/rig-picker.tsx';
import { BeginDialog } from './begin-dialog.tsx';
import { RunTable } from './run-table.tsx';

/** The dialog for a rig of the list, which has to be fetched whole first. */
function BeginFetched({ rigId, onClose }: { rigId: string; onClose: () => void }) {
  const { data, error, refetch } = useGetRigQuery(rigId);
  if (error) return <Failure error={error} onRetry={() => void refetch()} />;
  return data ? <BeginDialog rigId={rigId} version={data.version} document={data.document} onClose={onClose} /> : null;
}

function BeginChoice() {
  const [rig, setRig] = useState<RigHead | null>(null);
  const [isOpen, setOpen] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <RigPicker label="Rig to run" none="Choose a rig …" value={rig?.id ?? ''} onPick={setRig} />
      <Button look="primary" disabled={rig === null} className="disabled:opacity-50" onClick={() => setOpen(true)}>
        Run or rehearse
      </Button>
      {isOpen && rig && <BeginFetched rigId={rig.id} onClose={() => setOpen(false)} />}
    </div>
  );
}

/** All runs and rehearsals, the newest first. */
export function RunsView() {
  const { data: people = [] } = useRehearsedQuery(undefined, { refetchOnMountOrArgChange: true });
  return (
    <main className="mx-auto w-full max-w-[1100px] p-5">
      <div className="flex flex-wrap items-baseline gap-3">
        <h1 className="mr-auto text-2xl font-bold">Runs</h1>
        <BeginChoice />
      </div>
      <RunTable
        asked={{ q: '' }}
        none="No run yet. A run takes a rig step by step from the strap off to the strap on, and writes down what was done and read. A rehearsal does the same on a simulated rig, with faults put in."
      />
      {people.length > 0 && (
        <section className="mt-6">
          <h2 className="text-17 font-bold">Rehearsals by person</h2>
          <ul>
            {people.map(({ who, rehearsals, last, best }) => (
              <li key={who}>
                <b>{who}</b>: {rehearsals} {rehearsals === 1 ? 'rehearsal' : 'rehearsals'}, last {last}, best {best} of 100
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}
