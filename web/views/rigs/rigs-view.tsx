import { useDeferredValue, useState } from 'react';
import { format } from 'date-fns';
import { Ellipsis, FileUp, Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { rigSorts, type RigHead, type RigSort } from '@vast-surge/contract';
import { limitState } from '@vast-surge/core/limit';
import { printQuantity } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import { verdictTitles, type Headline, type HeadlineFigure } from '@vast-surge/core/runsheet';
import { failureOf, useArchiveRigMutation, useListRigsInfiniteQuery } from '../../app/base-api.ts';
import { ExportLink } from '../../app/export-link.tsx';
import { usePolling } from '../../app/live.ts';
import { useMayNot } from '../../app/may.ts';
import { sessionStarted } from '../../app/session-start.ts';
import { Failure } from '../../app/trouble.tsx';
import { printFigure } from '@vast-surge/core/figure';
import { useRowKeys } from '../../ui/use-row-keys.ts';
import { MoreRows } from '../../ui/more-rows.tsx';
import { Button } from '../../ui/button.tsx';
import { later } from '../../ui/later.tsx';
import { NumberDialog } from '../../ui/number-dialog.tsx';
import { Bar, limitWords } from '../../ui/gauge.tsx';
import { BackupAge } from '../backups/backup-age.tsx';
import { VerdictSign } from '../rig-shell/verdict-sign.tsx';
import { Due } from './due.tsx';
import { Guide } from './guide.tsx';
import { Select } from '../../ui/select.tsx';

// The list is read as the server worked it out: what calculates comes once it is drawn, or when it is asked for.
const StartSomething = later(
  () => import('../start/pictures.tsx').then((script) => script.StartSomething),
  <div className="min-h-64" />,
);
const ImportButton = later(
  () => import('./import-dialog.tsx').then((script) => script.ImportButton),
  <Button disabled>
    <FileUp size={16} aria-hidden /> Import
  </Button>,
);
const ShareSheet = later(() =>
  sessionStarted()
    .then(() => import('../rig-shell/share.tsx'))
    .then((script) => script.ShareSheet),
);
const FetchedWorking = later(
  () => import('./fetched-working.tsx').then((script) => script.FetchedWorking),
  <p className="mt-2 text-dim">Fetching the rig …</p>,
);

function useSetArchived(rig: { id: string; name: string }) {
  const [archive] = useArchiveRigMutation();
  const setArchived = async (archived: boolean): Promise<void> => {
    try {
      await archive({ id: rig.id, archived }).unwrap();
      if (archived)
        toast(`${rig.name} is archived, with everything it was.`, {
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

function Restore({ name, onRestore }: { name: string; onRestore: () => void }) {
  return (
    <button
      type="button"
      className={`${action} text-14 text-select`}
      aria-label={`Restore ${name} to the list`}
      onClick={onRestore}
    >
      Restore
    </button>
  );
}

const item =
  'block w-full cursor-pointer px-3 py-1.5 text-left outline-none data-[highlighted]:bg-ground data-[highlighted]:font-bold';

function RigActions({ rig }: { rig: RigHead }) {
  const { id, name } = rig;
  const setArchived = useSetArchived(rig);
  const [shared, setShared] = useState<RigDocument | null>(null);
  if (rig.archivedAt !== null) return <Restore name={name} onRestore={() => void setArchived(false)} />;
  const fetched = () =>
    import('./whole-rig.ts').catch(() => {
      toast.error('The server does not answer.');
      return null;
    });
  const duplicate = async () => (await fetched())?.duplicateRig(id);
  const share = async () => setShared((await (await fetched())?.wholeRig(id))?.document ?? null);
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          className="p-2 text-dim hover:text-ink"
          aria-label={`Actions of ${name}`}
          title="Run sheet, revisions, duplicate, export, archive"
        >
          <Ellipsis size={20} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="z-40 min-w-44 border border-ink bg-plate py-1">
            <DropdownMenu.Item asChild>
              <Link className={item} to={`/rigs/${id}/run-sheet`}>
                Run sheet
              </Link>
            </DropdownMenu.Item>
            <DropdownMenu.Item asChild>
              <Link className={item} to={`/rigs/${id}/revisions`}>
                {rig.revision === null ? 'Revisions' : `Revisions (${rig.revision})`}
              </Link>
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void duplicate()}>
              Duplicate
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void share()}>
              Share
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void setArchived(true)}>
              Archive
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {shared && <ShareSheet id={id} document={shared} onClose={() => setShared(null)} />}
    </>
  );
}

interface NumberProps {
  readonly figure: HeadlineFigure | null;
  readonly rigId: string;
  /** The worst corner rather than the nominal value. */
  readonly worst?: boolean;
  readonly className?: string;
}

function FigureNumber({ figure, rigId, worst = false, className = '' }: NumberProps) {
  if (!figure) return <span>—</span>;
  const { id, title, unit, value, high, by } = figure;
  return (
    <NumberDialog
      title={worst ? `${title}, worst case` : title}
      printed={printFigure(id, worst ? high : value, unit)}
      atWorst={worst}
      className={className}
    >
      {by !== undefined && (
        <p className="mt-1 max-w-[70ch]">
          {by === 'launch'
            ? 'The launch, with what moves in the coils. Below stands the closed form of a coil in which nothing moves.'
            : 'The circuit of the whole rig, with its strays, its gaps one after another and their arcs. Below stands the closed form, which leaves these out; the erection page says what each of them does.'}
        </p>
      )}
      <FetchedWorking rigId={rigId} figureId={id} />
    </NumberDialog>
  );
}

function HeadlineCells({ rig, headline }: { rig: RigHead; headline: Headline }) {
  const { energy, peakCurrent, bleed, tightest, hazard, errors, does, verdict } = headline;
  const { id: rigId, lastShot } = rig;
  const cell = 'px-3 py-2.5 align-top max-md:block max-md:max-w-none max-md:min-w-0 max-md:px-0 max-md:py-1';
  return (
    <>
      <td role="cell" className={`${cell} whitespace-nowrap`}>
        {does && (
          <>
            <b className="figure text-17">{does.text}</b>
            <span className="block max-w-[14rem] truncate text-13 text-dim">{does.title}</span>
          </>
        )}
        <span className="block text-13 text-dim">
          <FigureNumber rigId={rigId} figure={peakCurrent} className={does ? '' : 'text-17 font-bold text-ink'} /> peak current
        </span>
      </td>
      <td role="cell" className={`${cell} max-w-[19rem] min-w-[11rem]`}>
        {verdict ? (
          <>
            <span className="flex items-center gap-2 font-bold">
              <VerdictSign word={verdict.word} /> {verdictTitles[verdict.word]} {verdict.upTo}
            </span>
            <Link
              to={`/rigs/${rigId}/run-sheet`}
              className="line-clamp-2 text-13 text-dim hover:underline"
              title={verdict.because}
              aria-label={`Why of ${rig.name}: ${verdict.because}`}
            >
              {verdict.because}
            </Link>
          </>
        ) : (
          <span className="text-dim">no run sheet can be made</span>
        )}
        {errors > 0 && (
          <span className="mt-1 block text-13 font-bold text-over">{errors === 1 ? '1 problem' : `${errors} problems`}</span>
        )}
      </td>
      <td role="cell" className={`${cell} min-w-[170px]`}>
        {tightest ? (
          <>
            <span className={`line-clamp-2 ${limitState(tightest) === 'over' ? 'font-bold text-over' : ''}`}>
              {tightest.title}: {limitWords(tightest)}
            </span>
            <Bar limit={tightest} className="mt-1.5 h-[7px]" />
          </>
        ) : (
          <span className="text-dim">no rating given</span>
        )}
      </td>
      <td role="cell" className={`${cell} whitespace-nowrap`}>
        <FigureNumber rigId={rigId} figure={energy} className="text-17 font-bold" />{' '}
        <span className="text-13 text-dim">
          at <span className="figure">{printQuantity(headline.chargedTo, 'V')}</span>
          {energy && (
            <>
              , worst case <span className="figure">{printFigure(energy.id, energy.high, energy.unit)}</span>
            </>
          )}
        </span>
        {hazard && hazard.class !== 'below' && (
          <span className="block">
            <span className="bg-warning px-1 text-13 whitespace-normal text-on-warning">
              ⚠ {hazard.by ? `${hazard.by} ` : ''}
              {hazard.headline}
            </span>
          </span>
        )}
        <span className="block text-13 text-dim">
          {bleed ? (
            <>
              below {headline.bleedTo} in <FigureNumber rigId={rigId} figure={bleed} worst />, worst case
            </>
          ) : (
            'no bleeder'
          )}
        </span>
        {lastShot && (
          <span className="block text-13 text-dim">
            last shot{' '}
            <Link className="underline" to={`/shots/${lastShot.id}`} aria-label={`Last shot of ${rig.name}`}>
              {format(new Date(lastShot.at), 'd MMM yyyy')}
            </Link>
            , {lastShot.outcome}
          </span>
        )}
      </td>
    </>
  );
}

// On a phone a rig is a block of lines: five columns would leave each a word wide. What is laid out so keeps its roles by name.
const stacked = 'max-md:relative max-md:block max-md:py-2';

function Row({ rig }: { rig: RigHead }) {
  if (rig.unreadable !== null) {
    return (
      <tr role="row" className={`border-b border-rule ${stacked}`}>
        <td role="cell" className="px-3 py-3 font-bold max-md:block max-md:px-0 max-md:py-1">
          {rig.name}
        </td>
        <td role="cell" colSpan={4} className="px-3 py-3 max-md:block max-md:px-0 max-md:py-1">
          This rig cannot be read, perhaps because a newer version wrote it. It is left as it is. {rig.unreadable}
        </td>
        <td role="cell" className="max-md:hidden" />
      </tr>
    );
  }
  return (
    <tr role="row" className={`border-b border-rule hover:bg-plate ${stacked}`} data-rig={rig.name}>
      <td
        role="cell"
        className="max-w-[16rem] px-3 py-3 align-top max-md:block max-md:max-w-none max-md:px-0 max-md:py-1 max-md:pr-12"
      >
        <Link className="text-19 font-bold underline decoration-1 underline-offset-3" to={`/rigs/${rig.id}`}>
          {rig.name}
        </Link>
        {rig.headline && <span className="block text-13">{rig.headline.kind}</span>}
        <span className="line-clamp-2 text-13 text-dim">{rig.note}</span>
      </td>
      {rig.headline ? (
        <HeadlineCells rig={rig} headline={rig.headline} />
      ) : (
        <td role="cell" colSpan={4} className="px-3 py-3 align-top text-dim max-md:block max-md:px-0 max-md:py-1">
          calculating …
        </td>
      )}
      <td role="cell" className="py-1.5 align-top max-md:absolute max-md:top-1 max-md:right-0">
        <RigActions rig={rig} />
      </td>
    </tr>
  );
}

const columns = ['Rig', 'What it does', 'May I fire it', 'Will it hold: tightest limit', 'What it can do to you', ''];

const sortTitles: { readonly [S in RigSort]: string } = {
  changed: 'last changed first',
  name: 'by name',
  energy: 'by stored energy',
};

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
    <div role="group" aria-label="Which rigs" className="flex">
      {tab('live', 'In use')}
      {tab('archived', 'Archived')}
    </div>
  );
}

/** Search and order of a list that is longer than a screen. */
function ListTools({
  words,
  sort,
  onWords,
  onSort,
}: {
  words: string;
  sort: RigSort;
  onWords: (words: string) => void;
  onSort: (sort: RigSort) => void;
}) {
  return (
    <>
      <input
        type="search"
        aria-label="Search the rigs"
        placeholder="Search name or note"
        className="w-56 border border-rule bg-plate px-2 py-1"
        value={words}
        onChange={(event) => onWords(event.target.value)}
      />
      <Select aria-label="Order of the rigs" value={sort} onChange={(event) => onSort(event.target.value as RigSort)}>
        {rigSorts.map((one) => (
          <option key={one} value={one}>
            {sortTitles[one]}
          </option>
        ))}
      </Select>
    </>
  );
}

export function RigsView() {
  const mayNotDesign = useMayNot('designs');
  const mayNotExport = useMayNot('administers');
  const rowKeys = useRowKeys();
  const [which, setWhich] = useState<Which>('live');
  const [words, setWords] = useState('');
  const [sort, setSort] = useState<RigSort>('changed');
  const asked = useDeferredValue(words.trim());
  const { data, error, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useListRigsInfiniteQuery(
    { archived: which === 'archived', q: asked, sort },
    { refetchOnMountOrArgChange: true, pollingInterval: usePolling(5000), skipPollingIfUnfocused: true },
  );
  const rigs = data?.pages.flatMap((page) => page.rows);
  const total = data?.pages[0]?.total ?? 0;
  return (
    <main className="mx-auto w-full max-w-[1500px] p-5">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-2xl font-bold">Rigs</h1>
        <BackupAge />
        {mayNotDesign === null && <ImportButton />}
        {mayNotExport === null && (
          <ExportLink may={['administers']} href="/api/archive">
            Export all
          </ExportLink>
        )}
        <Link
          className="inline-flex items-center gap-2 border border-ink bg-ink px-3 py-1.5 font-bold whitespace-nowrap text-plate"
          to="/start"
        >
          <Plus size={17} aria-hidden /> New rig
        </Link>
      </div>
      <Due rigs={rigs ?? []} />
      <Guide />
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <ListTabs which={which} onWhich={setWhich} />
        <ListTools words={words} sort={sort} onWords={setWords} onSort={setSort} />
      </div>
      {error && <Failure error={error} onRetry={() => void refetch()} />}
      {rigs?.length === 0 && (
        <p className="mt-8 text-dim">
          {asked !== ''
            ? 'No results.'
            : which === 'live'
              ? 'No rig yet: start one of these, or import a rig file.'
              : 'No rig is archived.'}
        </p>
      )}
      {rigs && rigs.length > 0 && (
        <div className="relative mt-2 overflow-x-auto">
          <table role="table" className="w-full border-t border-ink text-left max-md:block">
            <thead role="rowgroup" className="max-md:sr-only">
              <tr role="row" className="border-b border-rule text-13 text-dim">
                {columns.map((title) => (
                  <th key={title} role="columnheader" scope="col" className="px-3 py-1 font-normal">
                    {title || <span className="sr-only">Actions</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody role="rowgroup" className="max-md:block" {...rowKeys}>
              {rigs.map((rig) => (
                <Row key={rig.id} rig={rig} />
              ))}
            </tbody>
          </table>
          <MoreRows
            shown={rigs.length}
            total={total}
            noun="rigs"
            isLoading={isFetchingNextPage}
            onMore={hasNextPage ? () => void fetchNextPage() : null}
          />
        </div>
      )}
      {which === 'live' && asked === '' && rigs && (
        <section aria-label="Start something" className="mt-8">
          <h2 className="mb-2 text-19 font-bold">Start something</h2>
          <StartSomething large={rigs.length === 0} />
        </section>
      )}
    </main>
  );
}
