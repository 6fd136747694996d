import { useState } from 'react';
import { format } from 'date-fns';
import { Camera, FileUp } from 'lucide-react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import type { StoredShot } from '@vast-surge/contract';
import { printOwn } from '@vast-surge/core/field';
import { measurable, measures, ofTheAir, ownIn, settable, type Shot } from '@vast-surge/core/shot';
import {
  failureOf,
  useAddShotFileMutation,
  useGetRevisionQuery,
  useGetShotFileQuery,
  useGetShotQuery,
  useRemoveShotFileMutation,
  useRemoveShotMutation,
  useSaveShotMutation,
} from '../../app/api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { smallPicture } from '../../ui/small-picture.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { fileOf, ImportTrace, previewOf } from './import-trace.tsx';
import { printMeasure } from './export.ts';
import { ShotFields } from './shot-fields.tsx';
import { TracePanel } from './trace-panel.tsx';
import { useShots } from './use-shots.ts';
import { printFixed } from '@vast-surge/core/quantity';

function Compared({ stored }: { stored: StoredShot }) {
  const { shot, predicted } = stored;
  const ids = measurable.filter((id) => shot.measured[id] !== undefined || predicted[id] !== undefined);
  return (
    <table className="mt-3 w-full max-w-[46rem] text-left">
      <thead className="text-13 text-dim">
        <tr>
          {['', 'calculated', 'measured', 'of what was calculated'].map((title, i) => (
            <th key={title} scope="col" className={`py-1 pr-4 font-normal ${i > 0 ? 'text-right' : ''}`}>
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ids.map((id) => {
          const [m, p] = [shot.measured[id], predicted[id]];
          return (
            <tr key={id} className="border-t border-rule">
              <th scope="row" className="py-1 pr-4 font-normal">
                {measures[id].title}
              </th>
              <td className="figure py-1 pr-2 text-right whitespace-nowrap text-16 sm:pr-4 sm:text-19">
                {printMeasure(id, predicted)}
              </td>
              <td className="figure py-1 pr-2 text-right whitespace-nowrap text-16 sm:pr-4 sm:text-19 font-bold">
                {printMeasure(id, shot.measured)}
              </td>
              <td className="figure py-1 pr-2 text-right whitespace-nowrap text-16 sm:pr-4 sm:text-19">
                {m !== undefined && p ? `${printFixed((100 * m) / p, 1)} %` : '–'}
              </td>
            </tr>
          );
        })}
        {shot.own.map(({ name, unit, value }) => (
          <tr key={name} className="border-t border-rule">
            <th scope="row" className="py-1 pr-4 font-normal">
              {name}
            </th>
            <td className="figure py-1 pr-2 text-right text-16 sm:pr-4 sm:text-19">–</td>
            <td className="figure py-1 pr-2 text-right whitespace-nowrap text-16 font-bold sm:pr-4 sm:text-19">
              {printOwn(value, unit)}
            </td>
            <td className="figure py-1 pr-2 text-right text-16 sm:pr-4 sm:text-19">–</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What was set for it and the air it was fired in, in view before anything is opened. */
function AsSet({ shot }: { shot: Shot }) {
  const row = (title: string, ids: typeof settable) => {
    const given = ids.filter((id) => shot.set[id] !== undefined);
    return (
      given.length > 0 && (
        <p className="mt-1">
          {title}:{' '}
          {given.map((id, i) => (
            <span key={id}>
              {i > 0 && ' · '}
              <span className="text-dim">{measures[id].title}</span>{' '}
              <b className="figure text-19 whitespace-nowrap">{printMeasure(id, shot.set)}</b>
            </span>
          ))}
        </p>
      )
    );
  };
  return (
    <>
      {row(
        'Set',
        settable.filter((id) => !ofTheAir.includes(id)),
      )}
      {row('Air of the day', ofTheAir)}
    </>
  );
}

function Photo({ id, name }: { id: string; name: string }) {
  const { data } = useGetShotFileQuery(id);
  const [remove] = useRemoveShotFileMutation();
  if (data?.kind !== 'photo') return null;
  return (
    <figure className="max-w-72">
      <img src={data.content} alt={name} className="border border-rule" />
      <figcaption className="flex gap-2 text-13 text-dim">
        {name}{' '}
        <Button look="quiet" onClick={() => void remove(id)}>
          Remove
        </Button>
      </figcaption>
    </figure>
  );
}

function Photos({ files }: { files: StoredShot['files'] }) {
  return (
    <div className="mt-4 flex flex-wrap gap-4">
      {files
        .filter((f) => f.kind === 'photo')
        .map((f) => (
          <Photo key={f.id} id={f.id} name={f.name} />
        ))}
    </div>
  );
}

function AddFiles({ onTrace, onPhoto }: { onTrace: (file: File) => void; onPhoto: (file: File) => void }) {
  return (
    <div className="no-print mt-5 flex flex-wrap gap-3">
      <FileButton label="Oscilloscope trace" accept=".csv,.txt,.tsv,.dat,text/*" onFile={onTrace}>
        <FileUp size={16} aria-hidden /> Oscilloscope trace (CSV)
      </FileButton>
      <FileButton label="A photo" accept="image/*" onFile={onPhoto}>
        <Camera size={16} aria-hidden /> Photo
      </FileButton>
    </div>
  );
}

function Files({ stored }: { stored: StoredShot }) {
  const [add] = useAddShotFileMutation();
  const { data: revision } = useGetRevisionQuery(stored.revisionId);
  const [asked, setAsked] = useState<{ file: File; preview: Awaited<ReturnType<typeof previewOf>> } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const refuse = (file: File, error: unknown) =>
    setTrouble(`${file.name} was not taken: ${error instanceof Error ? error.message : failureOf(error).message}`);
  const look = async (file: File) => {
    setTrouble(null);
    try {
      setAsked({ file, preview: await previewOf(file) });
    } catch (error) {
      refuse(file, error);
    }
  };
  const takePhoto = async (file: File) => {
    setTrouble(null);
    try {
      const content = await smallPicture(file);
      await add({
        id: stored.id,
        file: { id: crypto.randomUUID(), kind: 'photo', name: file.name.slice(0, 120), content },
      }).unwrap();
    } catch (error) {
      refuse(file, error);
    }
  };
  return (
    <>
      <AddFiles onTrace={(file) => void look(file)} onPhoto={(file) => void takePhoto(file)} />
      <TroubleLine className="mt-2">{trouble}</TroubleLine>
      {stored.files
        .filter((f) => f.kind === 'trace')
        .map((f) => (
          <TracePanel key={f.id} shot={stored} rig={revision?.document.rig ?? null} file={f} />
        ))}
      <Photos files={stored.files} />
      {asked && (
        <ImportTrace
          file={asked.file}
          preview={asked.preview}
          onClose={() => setAsked(null)}
          onTaken={(record) => {
            setAsked(null);
            add({ id: stored.id, file: fileOf(asked.file.name, record) })
              .unwrap()
              .catch((error: unknown) => refuse(asked.file, error));
          }}
        />
      )}
    </>
  );
}

function ShotOf({ stored }: { stored: StoredShot }) {
  const [draft, setDraft] = useState<Shot | null>(null);
  // What was typed and given up goes with its boxes.
  const [edition, setEdition] = useState(0);
  const [isUnreadable, setUnreadable] = useState(false);
  const { shots: beside } = useShots({ q: '', rig: stored.rigId, outcome: '' }, false);
  const known = ownIn((beside ?? []).map(({ shot }) => shot));
  const [save, { isLoading }] = useSaveShotMutation();
  const [remove] = useRemoveShotMutation();
  const navigate = useNavigate();
  const keep = async () => {
    if (!draft) return;
    try {
      await save({ id: stored.id, version: stored.version, shot: draft }).unwrap();
      setDraft(null);
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  const takeOff = async () => {
    await remove({ id: stored.id, removed: true });
    toast('The shot is removed.', {
      duration: 12_000,
      action: { label: 'Undo', onClick: () => void remove({ id: stored.id, removed: false }) },
    });
    void navigate('/shots');
  };
  return (
    <main className="mx-auto w-full max-w-[1000px] p-5 print:max-w-none print:p-0">
      <div className="no-print flex flex-wrap items-center gap-3">
        <Link className="mr-auto text-select underline" to="/shots">
          All shots
        </Link>
        {stored.shot.campaign !== null && (
          <Link className="text-select underline" to={`/rigs/${stored.rigId}/campaigns/${stored.shot.campaign.id}`}>
            Shot {stored.shot.campaign.place + 1} of its campaign
          </Link>
        )}{' '}
        {stored.runId !== null && (
          <Link className="text-select underline" to={`/runs/${stored.runId}`}>
            Its run
          </Link>
        )}
        <Button onClick={() => window.print()}>Print</Button>
        <Button onClick={() => void takeOff()}>Remove</Button>
      </div>
      <h1 className="mt-3 text-2xl font-bold">
        {stored.rigName}, {format(new Date(stored.shot.at), 'd MMM yyyy, HH:mm')}
      </h1>
      <p className="text-dim">
        <Link className="text-select underline" to={`/rigs/${stored.rigId}/revisions`}>
          Revision {stored.revision}
        </Link>{' '}
        · {stored.shot.outcome}
      </p>
      <AsSet shot={stored.shot} />
      <Compared stored={stored} />
      <details className="mt-4" open={draft !== null}>
        <summary className="cursor-pointer font-bold">What was recorded</summary>
        <div className="mt-2">
          <ShotFields key={edition} shot={draft ?? stored.shot} known={known} onShot={setDraft} onTrouble={setUnreadable} />
          {draft && (
            <div className="mt-3 flex gap-3">
              <Button look="primary" disabled={isLoading || isUnreadable} onClick={() => void keep()}>
                Save changes
              </Button>
              <Button
                onClick={() => {
                  setDraft(null);
                  setUnreadable(false);
                  setEdition(edition + 1);
                }}
              >
                Discard changes
              </Button>
            </div>
          )}
        </div>
      </details>
      {stored.shot.remarks && <p className="mt-3 whitespace-pre-line">{stored.shot.remarks}</p>}
      <Files stored={stored} />
    </main>
  );
}

export function ShotView() {
  const { id = '' } = useParams();
  const { data, error, refetch } = useGetShotQuery(id, { refetchOnMountOrArgChange: true });
  if (data?.id === id) return <ShotOf key={id} stored={data} />;
  if (error) return <Failure error={error} onRetry={() => void refetch()} />;
  return <p className="p-6 text-dim">Fetching the shot …</p>;
}
