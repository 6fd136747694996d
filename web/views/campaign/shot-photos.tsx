import type { StoredShot } from '@vast-surge/contract';
import { useGetShotFileQuery } from '../../app/api.ts';

function Photo({ id, name }: { id: string; name: string }) {
  const { data } = useGetShotFileQuery(id);
  return data?.kind === 'photo' ? <img src={data.content} alt={name} className="max-h-40 border border-rule" /> : null;
}

/** What was photographed at a shot, beside its line of the book. */
export function ShotPhotos({ shot }: { shot: StoredShot | undefined }) {
  const photos = shot?.files.filter(({ kind }) => kind === 'photo') ?? [];
  if (photos.length === 0) return null;
  return (
    <div className="mt-1 flex flex-wrap gap-2 pl-6">
      {photos.map(({ id, name }) => (
        <Photo key={id} id={id} name={name} />
      ))}
    </div>
  );
}
