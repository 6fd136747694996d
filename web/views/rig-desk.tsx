import type { ReactNode } from 'react';
import type { RigDocument } from '@vast-surge/core/rig';
import { useRigPage } from './rig-shell/use-rig-page.ts';
import { StageTabs } from './stage-tabs.tsx';

/**
 * A page that a kind brings with it, within the shell of its rig.
 *
 * @param whole it is about all channels together; else it shows one, as the rig is seen from it
 */
export function RigDesk({
  width,
  whole = false,
  children,
}: {
  width: string;
  whole?: boolean;
  children: (document: RigDocument, id: string) => ReactNode;
}) {
  const { id, document, seen } = useRigPage();
  return (
    <main className={`mx-auto w-full ${width} p-5`}>
      {!whole && <StageTabs rig={document.rig} />}
      {children(whole ? document : seen, id)}
    </main>
  );
}
