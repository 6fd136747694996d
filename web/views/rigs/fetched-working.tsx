import type { FigureId } from '@vast-surge/core/block';
import { evaluateRig, figureIn } from '@vast-surge/core/evaluation';
import { useGetRigQuery } from '../../app/api.ts';
import { Failure } from '../../app/trouble.tsx';
import { WorkingLines } from '../../ui/working-lines.tsx';

/** The working of a number of the list: the rig is fetched and worked out when it is asked for. */
export function FetchedWorking({ rigId, figureId }: { rigId: string; figureId: FigureId }) {
  const { data, error, refetch } = useGetRigQuery(rigId);
  if (error) return <Failure error={error} onRetry={() => void refetch()} />;
  if (!data) return <p className="mt-2 text-dim">Fetching the rig …</p>;
  const { rig } = data.document;
  const worked = figureIn(evaluateRig(rig), figureId)?.worked;
  return worked ? <WorkingLines rig={rig} worked={worked} /> : <p className="mt-2">This number is not available any more.</p>;
}
