import { format } from 'date-fns';
import { Link } from 'react-router';
import { useListCampaignsQuery } from '../../app/api.ts';
import { RigDesk } from '../rig-desk.tsx';
import { PlanForm } from './plan-form.tsx';

function Kept({ rigId }: { rigId: string }) {
  const { data, isError } = useListCampaignsQuery(rigId, { refetchOnMountOrArgChange: true });
  if (isError) return <p role="alert">The list of campaigns cannot be had now: the server is away. It is asked for again.</p>;
  if (!data || data.length === 0) return null;
  return (
    <ul aria-label="Campaigns" className="mt-2 max-w-[46rem]">
      {data.map(({ id, question, madeAt, planned, fired, isClosed }) => (
        <li key={id} className="flex flex-wrap items-baseline gap-x-4 border-t border-rule py-1.5">
          <Link className="min-w-0 flex-1 basis-60 font-bold text-select underline" to={`/rigs/${rigId}/campaigns/${id}`}>
            {question}
          </Link>
          <span className="figure">
            {fired} of {planned}
          </span>
          <span className="text-14 text-dim">
            {isClosed ? 'closed' : fired === 0 ? 'planned' : fired === planned ? 'all fired' : 'under way'}, since{' '}
            {format(new Date(madeAt), 'd MMM yyyy')}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Campaigns of a rig, and the plan of another one. */
export function CampaignsView() {
  return (
    <RigDesk whole width="max-w-[1500px]">
      {(document, id) => (
        <>
          <h1 className="text-20 font-bold">Campaigns with {document.name}</h1>
          <Kept rigId={id} />
          <PlanForm id={id} document={document} />
        </>
      )}
    </RigDesk>
  );
}
