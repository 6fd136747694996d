import { useState } from 'react';
import { Camera } from 'lucide-react';
import type { StoredPart } from '@vast-surge/contract';
import { useGetPhotoQuery } from '../../app/api.ts';
import { writeBench } from '../../app/bench.ts';
import { FileButton } from '../../ui/file-button.tsx';
import { smallPicture } from '../../ui/small-picture.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** The photo of a part, if it has one, and the way to take or choose another. */
export function Photo({ stored }: { stored: StoredPart }) {
  const [said, setSaid] = useState<string | null>(null);
  const { data } = useGetPhotoQuery({ id: stored.id, version: stored.version }, { skip: !stored.hasPhoto });
  const take = async (file: File) => {
    setSaid(null);
    try {
      writeBench({ do: 'photo', id: stored.id, photo: await smallPicture(file) });
    } catch (error) {
      setSaid(`${file.name} was not taken: ${error instanceof Error ? error.message : 'no reason given'}.`);
    }
  };
  return (
    <div className="shrink-0 text-right">
      <FileButton
        label="Photo file"
        accept="image/*"
        className="h-[64px] w-[84px] justify-center overflow-hidden !p-0 text-dim"
        aria-label={stored.hasPhoto ? 'Change the photo' : 'Add a photo'}
        title={stored.hasPhoto ? 'Change the photo' : 'Add a photo'}
        onFile={(file) => void take(file)}
      >
        {stored.hasPhoto && data ? (
          <img src={data} alt={`Photo of ${stored.part.tag}`} className="h-full w-full object-cover" />
        ) : (
          <Camera size={20} aria-hidden />
        )}
      </FileButton>
      {stored.hasPhoto && (
        <button
          type="button"
          className="text-13 text-select underline"
          onClick={() => writeBench({ do: 'photo', id: stored.id, photo: null })}
        >
          Remove
        </button>
      )}
      <TroubleLine look="words" className="max-w-[16rem] text-left text-13">
        {said}
      </TroubleLine>
    </div>
  );
}
