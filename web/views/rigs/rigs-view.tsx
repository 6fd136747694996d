import { useMemo, useRef, useState } from 'react';
import { FileUp, Plus } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { StoredRig } from '@vast-surge/contract';
import { bleedGoal } from '@vast-surge/core/block';
import { evaluateRig, figureIn } from '@vast-surge/core/evaluation';
import { rigFileLimit, readRigFile, wordFileIssue, writeRigFile, type RigDocument } from '@vast-surge/core/format';
import { limitState, tightest } from '@vast-surge/core/limit';
import { printQuantity } from '@vast-surge/core/quantity';
import { newRig, type Rig } from '@vast-surge/core/rig';
import { failureOf, useArchiveRigMutation, useCreateRigMutation, useListRigsQuery, type ListedRig } from '../../app/api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { printFigure } from '../../ui/print-figure.ts';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { Bar, limitWords } from '../../ui/gauge.tsx';
import { Guide } from './guide.tsx';

function useAddRig() {
  const [create] = useCreateRigMutation();
  return async (document: RigDocument): Promise<string | null> => {
    try {
      return (await create({ id: crypto.randomUUID(), document }).unwrap()).id;
    } catch (error) {
      toast.error(failureOf(error).message);
      return null;
    }
  };
}

function RigActions({ rig }: { rig: StoredRig }) {
  const add = useAddRig();
  const [archive] = useArchiveRigMutation();
  const { name } = rig.document;
  const setArchived = async (archived: boolean) => {
    try {
      await archive({ id: rig.id, archived }).unwrap();
      if (archived)
        toast(`${name} is taken off the list.`, {
          duration: 12_000,
          action: { label: 'Undo', onClick: () => void setArchived(false) },
        });
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  return (
    <span className="flex flex-wrap gap-x-3 text-[14px] text-select">
      <Link className="py-1 underline" to={`/rigs/${rig.id}/run-sheet`} aria-label={`Run sheet of ${name}`}>
        Run sheet
      </Link>
      <button
        type="button"
        className="py-1 underline"
        aria-label={`Duplicate ${name}`}
        onClick={() => void add({ ...rig.document, name: `${name.slice(0, 70)} (copy)` })}
      >
        Duplicate
      </button>
      <button
        type="button"
        className="py-1 underline"
        aria-label={`Export ${name}`}
        onClick={() => download(`${fileName(name)}.rig.json`, writeRigFile(rig.document), 'application/json')}
      >
        Export
      </button>
      <button type="button" className="py-1 underline" aria-label={`Remove ${name}`} onClick={() => void setArchived(true)}>
        Remove
      </button>
    </span>
  );
}

interface NumberProps {
  readonly figure: ReturnType<typeof figureIn>;
  readonly rig: Rig;
  /** The worst corner rather than the nominal value. */
  readonly worst?: boolean;
  readonly className?: string;
}

function FigureNumber({ figure, rig, worst = false, className = '' }: NumberProps) {
  if (!figure) return <span>—</span>;
  const { id, title, worked, band } = figure;
  const printed = printFigure(id, worst ? band.high : worked.value, worked.unit);
  return (
    <WorkedNumber
      title={worst ? `${title}, at worst` : title}
      printed={printed}
      worked={worked}
      rig={rig}
      atWorst={worst}
      className={className}
    />
  );
}

function Headline({ rig }: { rig: StoredRig }) {
  const evaluation = useMemo(() => evaluateRig(rig.document.rig), [rig.document.rig]);
  const reading = evaluation.corners.nominal();
  const energy = figureIn(evaluation, 'stored-energy');
  const peak = figureIn(evaluation, 'peak-current');
  const goal = bleedGoal(reading);
  const bleed = figureIn(evaluation, goal.figures.bleeder);
  const limit = tightest(evaluation.ladder);
  const errors = evaluation.problems.filter((p) => p.severity === 'error').length;
  const cell = 'px-3 py-3 align-top';
  return (
    <>
      <td className={`${cell} whitespace-nowrap`}>
        <FigureNumber rig={rig.document.rig} figure={energy} className="text-[19px] font-bold" />
        <span className="block text-[13px] text-dim">
          at <span className="figure">{printQuantity(reading.offer('chargedTo').value, 'V')}</span>
          {evaluation.hazard && evaluation.hazard.class !== 'below' && (
            <span className="ml-2 bg-warning px-1 text-on-warning">⚠ {evaluation.hazard.headline}</span>
          )}
        </span>
      </td>
      <td className={`${cell} whitespace-nowrap`}>
        <FigureNumber rig={rig.document.rig} figure={peak} />
      </td>
      <td className={`${cell} whitespace-nowrap`}>
        {bleed ? <FigureNumber rig={rig.document.rig} figure={bleed} worst /> : 'no bleeder'}
        {bleed && <span className="block text-[13px] text-dim">to {goal.text}, at worst</span>}
      </td>
      <td className={`${cell} min-w-[190px]`}>
        {limit ? (
          <>
            <span className={limitState(limit) === 'over' ? 'font-bold text-over' : ''}>
              {limit.title}: {limitWords(limit)}
            </span>
            <Bar limit={limit} className="mt-1.5 h-[7px]" />
          </>
        ) : (
          <span className="text-dim">no rating given</span>
        )}
        {errors > 0 && (
          <span className="mt-1 block text-[13px] font-bold text-over">{errors === 1 ? '1 problem' : `${errors} problems`}</span>
        )}
      </td>
    </>
  );
}

function Row({ rig }: { rig: ListedRig }) {
  if ('unreadable' in rig) {
    return (
      <tr className="border-b border-rule">
        <td className="px-3 py-3 font-bold">{rig.name}</td>
        <td colSpan={4} className="px-3 py-3">
          This rig cannot be read, perhaps because a newer version wrote it. It is left as it is. {rig.unreadable}
        </td>
        <td />
      </tr>
    );
  }
  return (
    <tr className="border-b border-rule hover:bg-plate" data-rig={rig.document.name}>
      <td className="max-w-[16rem] px-3 py-3 align-top">
        <Link className="text-[19px] font-bold underline decoration-1 underline-offset-3" to={`/rigs/${rig.id}`}>
          {rig.document.name}
        </Link>
        <span className="line-clamp-2 text-[13px] text-dim">{rig.document.note}</span>
      </td>
      <Headline rig={rig} />
      <td className="px-3 py-3 align-top">
        <RigActions rig={rig} />
      </td>
    </tr>
  );
}

function ImportButton() {
  const input = useRef<HTMLInputElement>(null);
  const add = useAddRig();
  const navigate = useNavigate();
  const [refused, setRefused] = useState<{ file: string; reasons: string[] } | null>(null);
  const take = async (file: File) => {
    setRefused(null);
    // The size is judged before anything is read: a file of gigabytes must not reach the memory of the page.
    const read =
      file.size > rigFileLimit
        ? { ok: false as const, issues: [{ code: 'too_large' as const, bytes: file.size, limit: rigFileLimit }] }
        : readRigFile(await file.text());
    if (!read.ok) {
      setRefused({ file: file.name, reasons: read.issues.map(wordFileIssue) });
      return;
    }
    const id = await add(read.document);
    if (id) void navigate(`/rigs/${id}`);
  };
  return (
    <>
      <Button onClick={() => input.current?.click()}>
        <FileUp size={17} aria-hidden /> Import
      </Button>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        className="hidden"
        aria-label="Rig file to import"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) void take(file);
        }}
      />
      {refused && (
        <div role="alert" className="w-full border-l-4 border-over bg-plate p-3">
          <p className="font-bold">{refused.file} was not imported; nothing was written.</p>
          <ul className="list-disc pl-5">
            {refused.reasons.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}

function NewButton() {
  const add = useAddRig();
  const navigate = useNavigate();
  const make = async () => {
    const id = await add({ name: 'New capacitor bank', note: '', rig: newRig() });
    if (id) void navigate(`/rigs/${id}`);
  };
  return (
    <Button look="primary" onClick={() => void make()}>
      <Plus size={17} aria-hidden /> New capacitor bank
    </Button>
  );
}

const columns = ['Rig', 'Stored', 'Peak current', 'Bleeder', 'Tightest limit', ''];

export function RigsView() {
  const { data, error, refetch } = useListRigsQuery(undefined, {
    refetchOnMountOrArgChange: true,
    pollingInterval: 5000,
    skipPollingIfUnfocused: true,
  });
  return (
    <main className="mx-auto w-full max-w-[1500px] p-5">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-2xl font-bold">Rigs</h1>
        <ImportButton />
        <NewButton />
      </div>
      <Guide />
      {error && <Failure error={error} onRetry={() => void refetch()} />}
      {data?.length === 0 && <p className="mt-8 text-dim">No rig yet. Start with a new capacitor bank, or import a rig file.</p>}
      {data && data.length > 0 && (
        <div className="relative mt-4 overflow-x-auto">
          <table className="w-full border-t border-ink text-left">
            <thead>
              <tr className="border-b border-rule text-[13px] text-dim">
                {columns.map((title) => (
                  <th key={title} scope="col" className="px-3 py-1 font-normal">
                    {title || <span className="sr-only">Actions</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {data.map((rig) => (
                <Row key={rig.id} rig={rig} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </main>
  );
}
