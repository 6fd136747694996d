import type { ReactNode } from 'react';
import { useParams } from 'react-router';
import type { RigDocument } from '@vast-surge/core/rig';
import { useOpenRig } from '../app/open-rig.ts';
import { Failure } from '../app/trouble.tsx';

/** A page of its own about one rig: what it shows once the rig is there, or why it is not. */
export function RigDesk({ width, children }: { width: string; children: (id: string, document: RigDocument) => ReactNode }) {
  const { id = '' } = useParams();
  const { document, error, refetch } = useOpenRig(id);
  return (
    <main className={`mx-auto w-full ${width} p-5`}>
      {document ? (
        children(id, document)
      ) : error ? (
        <Failure error={error} onRetry={refetch} />
      ) : (
        <p className="text-dim">Fetching the rig …</p>
      )}
    </main>
  );
}
