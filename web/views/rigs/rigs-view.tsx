import { useMemo, useState } from 'react';
import { FileDown, Plus } from 'lucide-react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import type { StoredRig } from '@vast-surge/contract';
import { evaluateRig, figureIn, type Headline, type HeadlineFigure } from '@vast-surge/core/evaluation';
import { writeRigFile } from '@vast-surge/core/format';
import { limitState } from '@vast-surge/core/limit';
import { printQuantity } from '@vast-surge/core/quantity';
import { copyOf, type Rig } from '@vast-surge/core/rig';
import { failureOf, useArchiveRigMutation, useListRigsQuery, type ListedRig } from '../../app/api.ts';
import { useAddRig, useNewBank } from '../../app/commands.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { printFigure } from '../../ui/print-figure.ts';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { Bar, limitWords } from '../../ui/gauge.tsx';
import { useHeadlines, type Headlines } from '../../workers/headlines.ts';
import { Guide } from './guide.tsx';
import { ImportButton } from './import-dialog.tsx';

function useSetArchived(rig: { id: string; name: string }) {
  const [archive] = useArchiveRigMutation();
  const setArchived = async (archived: boolean): Promise<void> => {
    try {
      await archive({ id: rig.id, archived }).unwrap();
      if (archived)
        toast(`${rig.name} is archived: off the list, with everything it was.`, {
          duration: 12_000,
          action: { label: 'Undo', onClick: () => void setArchived(false) },
        });
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  return setArchived;
}

const action = 'py-1 underline';

function RigActions({ rig }: { rig: StoredRig }) {
  const add = useAddRig();
  const { name } = rig.document;
  const setArchived = useSetArchived({ id: rig.id, name });
  if (rig.archivedAt !== null) {
    return (
      <button
        type="button"
        className={`${action} text-[14px] text-select`}
        aria-label={`Bring back ${name}`}
        onClick={() => void setArchived(false)}
      >
        Bring back
      </button>
    );
  }
  return (
    <span className="flex max-w-[15rem] flex-wrap gap-x-3 text-[14px] text-select">
      <Link className={action} to={`/rigs/${rig.id}/run-sheet`} aria-label={`Run sheet of ${name}`}>
        Run sheet
      </Link>
      <Link className={action} to={`/rigs/${rig.id}/revisions`} aria-label={`Revisions of ${name}`}>
        {rig.revision ? `Revision ${rig.revision.number}` : 'Revisions'}
      </Link>
      <button type="button" className={action} aria-label={`Duplicate ${name}`} onClick={() => void add(copyOf(rig.document))}>
        Duplicate
      </button>
      <button
        type="button"
        className={action}
        aria-label={`Export ${name}`}
        onClick={() => download(`${fileName(name)}.rig.json`, writeRigFile(rig.document, rig.id), 'application/json')}
      >
        Export
      </button>
      <button type="button" className={action} aria-label={`Archive ${name}`} onClick={() => void setArchived(true)}>
        Archive
      </button>
    </span>
  );
}

interface NumberProps {
  readonly figure: HeadlineFigure | null;
  readonly rig: Rig;
  /** The worst corner rather than the nominal value. */
  readonly worst?: boolean;
  readonly className?: string;
}

function FigureNumber({ figure, rig, worst = false, className = '' }: NumberProps) {
  if (!figure) return <span>—</span>;
  const { id, title, unit, value, high } = figure;
  return (
    <WorkedNumber
      title={worst ? `${title}, at worst` : title}
      printed={printFigure(id, worst ? high : value, unit)}
      worked={() => figureIn(evaluateRig(rig), id)?.worked ?? null}
      rig={rig}
      atWorst={worst}
      className={className}
    />
  );
}

function HeadlineCells({ rig, headline }: { rig: Rig; headline: Headline }) {
  const { energy, peakCurrent, bleed, tightest, hazard, errors } = headline;
  const cell = 'px-3 py-3 align-top';
  return (
    <>
      <td className={`${cell} whitespace-nowrap`}>
        <FigureNumber rig={rig} figure={energy} className="text-[19px] font-bold" />
        <span className="block text-[13px] text-dim">
          at <span className="figure">{printQuantity(headline.chargedTo, 'V')}</span>
          {hazard && hazard.class !== 'below' && (
            <span className="ml-2 bg-warning px-1 text-on-warning">⚠ {hazard.headline}</span>
          )}
        </span>
      </td>
      <td className={`${cell} whitespace-nowrap`}>
        <FigureNumber rig={rig} figure={peakCurrent} />
      </td>
      <td className={`${cell} whitespace-nowrap`}>
        {bleed ? <FigureNumber rig={rig} figure={bleed} worst /> : 'no bleeder'}
        {bleed && <span className="block text-[13px] text-dim">to {headline.bleedTo}, at worst</span>}
      </td>
      <td className={`${cell} min-w-[190px]`}>
        {tightest ? (
          <>
            <span className={limitState(tightest) === 'over' ? 'font-bold text-over' : ''}>
              {tightest.title}: {limitWords(tightest)}
            </span>
            <Bar limit={tightest} className="mt-1.5 h-[7px]" />
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

function Row({ rig, headlines }: { rig: ListedRig; headlines: Headlines }) {
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
  const headline = headlines.of(rig);
  return (
    <tr className="border-b border-rule hover:bg-plate" data-rig={rig.document.name}>
      <td className="max-w-[16rem] px-3 py-3 align-top">
        <Link className="text-[19px] font-bold underline decoration-1 underline-offset-3" to={`/rigs/${rig.id}`}>
          {rig.document.name}
        </Link>
        <span className="line-clamp-2 text-[13px] text-dim">{rig.document.note}</span>
      </td>
      {headline ? (
        <HeadlineCells rig={rig.document.rig} headline={headline} />
      ) : (
        <td colSpan={4} className="px-3 py-3 align-top text-dim">
          {headlines.trouble === null ? 'calculating …' : 'not calculated yet'}
        </td>
      )}
      <td className="px-3 py-3 align-top">
        <RigActions rig={rig} />
      </td>
    </tr>
  );
}

const columns = ['Rig', 'Stored', 'Peak current', 'Bleeder', 'Tightest limit', ''];

const isReadable = (rig: ListedRig): rig is StoredRig => !('unreadable' in rig);

type Which = 'live' | 'archived';

function ListTabs({ which, onWhich }: { which: Which; onWhich: (which: Which) => void }) {
  const tab = (value: Which, title: string) => (
    <button
      type="button"
      aria-pressed={which === value}
      className={`border border-rule px-3 py-1 ${which === value ? 'bg-ink font-bold text-plate' : 'bg-plate hover:border-ink'}`}
      onClick={() => onWhich(value)}
    >
      {title}
    </button>
  );
  return (
    <div role="group" aria-label="Which rigs" className="mt-4 flex">
      {tab('live', 'In use')}
      {tab('archived', 'Archived')}
    </div>
  );
}

export function RigsView() {
  const [which, setWhich] = useState<Which>('live');
  const {
    currentData: data,
    error,
    refetch,
  } = useListRigsQuery(which, {
    refetchOnMountOrArgChange: true,
    pollingInterval: 5000,
    skipPollingIfUnfocused: true,
  });
  const newBank = useNewBank();
  const headlines = useHeadlines(useMemo(() => (data ?? []).filter(isReadable), [data]));
  return (
    <main className="mx-auto w-full max-w-[1500px] p-5">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-2xl font-bold">Rigs</h1>
        <ImportButton />
        <a
          className="inline-flex items-center gap-2 border border-rule bg-plate px-3 py-1.5 whitespace-nowrap hover:border-ink"
          href="/api/archive"
          download
        >
          <FileDown size={17} aria-hidden /> Export all
        </a>
        <Button look="primary" onClick={() => void newBank()}>
          <Plus size={17} aria-hidden /> New capacitor bank
        </Button>
      </div>
      <Guide />
      <ListTabs which={which} onWhich={setWhich} />
      {error && <Failure error={error} onRetry={() => void refetch()} />}
      {headlines.trouble !== null && (
        <p role="alert" className="mt-3 border-l-4 border-warning bg-plate p-3">
          The calculation of this list stopped ({headlines.trouble}). It is started again by itself; the rigs are all there and
          open as ever.
        </p>
      )}
      {data?.length === 0 && (
        <p className="mt-8 text-dim">
          {which === 'live' ? 'No rig yet. Start with a new capacitor bank, or import a rig file.' : 'No rig is archived.'}
        </p>
      )}
      {data && data.length > 0 && (
        <div className="relative mt-2 overflow-x-auto">
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
                <Row key={rig.id} rig={rig} headlines={headlines} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </main>
  );
}
