import type { ReactNode } from 'react';
import { useParams } from 'react-router';
import type { RigDocument } from '@vast-surge/core/rig';
import { useOpenRig } from '../app/open-rig.ts';
import { useSeen } from '../app/store.ts';
import { Failure } from '../app/trouble.tsx';
import { StageTabs } from './stage-tabs.tsx';

type Page = (id: string, document: RigDocument) => ReactNode;

/** What is shown of one channel, with the way to the others. */
function OfOneStage({ id, document, children }: { id: string; document: RigDocument; children: Page }) {
  const seen = useSeen(document);
  return (
    <>
      <StageTabs rig={document.rig} />
      {children(id, seen)}
    </>
  );
}

/**
 * A page of its own about one rig: what it shows once the rig is there, or why it is not.
 *
 * @param whole it is about all channels together; else it shows one, as the rig is seen from it
 */
export function RigDesk({ width, whole = false, children }: { width: string; whole?: boolean; children: Page }) {
  const { id = '' } = useParams();
  const { document, error, refetch } = useOpenRig(id);
  return (
    <main className={`mx-auto w-full ${width} p-5`}>
      {document ? (
        whole ? (
          children(id, document)
        ) : (
          <OfOneStage id={id} document={document}>
            {children}
          </OfOneStage>
        )
      ) : error ? (
        <Failure error={error} onRetry={refetch} />
      ) : (
        <p className="text-dim">Fetching the rig …</p>
      )}
    </main>
  );
}
