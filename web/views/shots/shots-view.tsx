import { useDeferredValue, useState } from 'react';
import { format } from 'date-fns';
import { FileDown, Plus, Printer } from 'lucide-react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import type { ShotRig, StoredShot } from '@vast-surge/contract';
import { outcomes, outcomeWords } from '@vast-surge/core/run';
import { ownAxes, measures, settable, settingTitle, type MeasureId } from '@vast-surge/core/shot';
import { failureOf, useGetRigQuery, useShotRigsQuery, type ShotList } from '../../app/api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { download } from '../../ui/download.ts';
import { MoreRows } from '../../ui/more-rows.tsx';
import { useRigPage } from '../rig-shell/use-rig-page.ts';
import { measuresIn, printMeasure, shotsCsv, shotsJson, shotsMarkdown } from './export.ts';
import { NewShot } from './new-shot.tsx';
import { Series } from './series.tsx';
import { Teaching } from './teaching.tsx';
import { useEveryShot, useShots } from './use-shots.ts';
import { Select } from '../../ui/select.tsx';

function TableHeads({
  set,
  ids,
  own,
}: {
  set: readonly MeasureId[];
  ids: readonly MeasureId[];
  own: ReturnType<typeof ownAxes>;
}) {
  return (
    <thead className="text-13 text-dim">
      <tr>
        <th className="py-1 pr-3 font-normal">When</th>
        <th className="py-1 pr-3 font-normal">Rig</th>
        <th className="py-1 pr-3 font-normal">Outcome</th>
        {set.map((id) => (
          <th key={id} className="py-1 pr-3 text-right font-normal">
            {settingTitle(id)}
          </th>
        ))}
        {ids.map((id) => (
          <th key={id} className="py-1 pr-3 text-right font-normal">
            {measures[id].title}
            <br />
            measured · predicted
          </th>
        ))}
        {own.map(({ key, title }) => (
          <th key={key} className="py-1 pr-3 text-right font-normal">
            {title}
          </th>
        ))}
        <th className="py-1 font-normal">Remarks</th>
      </tr>
    </thead>
  );
}

function ShotRow({
  shot: s,
  set,
  ids,
  own,
}: {
  shot: StoredShot;
  set: readonly MeasureId[];
  ids: readonly MeasureId[];
  own: ReturnType<typeof ownAxes>;
}) {
  return (
    <tr className="break-inside-avoid border-t border-rule align-top">
      <td className="py-1.5 pr-3 whitespace-nowrap">
        <Link className="text-select underline" to={`/shots/${s.id}`}>
          {format(new Date(s.shot.at), 'd MMM yyyy, HH:mm')}
        </Link>
      </td>
      <td className="py-1.5 pr-3 whitespace-nowrap">
        <b>{s.rigName}</b> <span className="text-dim">rev {s.revision}</span>
      </td>
      <td className={`py-1.5 pr-3 whitespace-nowrap ${s.shot.outcome === 'fired' ? '' : 'font-bold'}`}>{s.shot.outcome}</td>
      {set.map((id) => (
        <td key={id} className="figure py-1.5 pr-3 text-right whitespace-nowrap">
          {printMeasure(id, s.shot.set)}
        </td>
      ))}
      {ids.map((id) => (
        <td key={id} className="figure py-1.5 pr-3 text-right whitespace-nowrap">
          <b>{printMeasure(id, s.shot.measured)}</b> <span className="text-dim">· {printMeasure(id, s.predicted)}</span>
        </td>
      ))}
      {own.map(({ key, of, print }) => {
        const value = of(s.shot);
        return (
          <td key={key} className="figure py-1.5 pr-3 text-right whitespace-nowrap">
            {value === undefined ? '–' : print(value)}
          </td>
        );
      })}
      <td className="max-w-[16rem] py-1.5">
        {[s.shot.sound, s.shot.remarks].filter(Boolean).join('; ')}
        {s.files.length > 0 && <span className="text-dim"> ({s.files.length} files)</span>}
      </td>
    </tr>
  );
}

function Table({ shots }: { shots: readonly StoredShot[] }) {
  const ids = measuresIn(shots).filter((id) => shots.some((s) => s.shot.measured[id] !== undefined));
  const set = settable.filter((id) => shots.some((s) => s.shot.set[id] !== undefined));
  const own = ownAxes(shots.map(({ shot }) => shot));
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left print:text-[9pt]">
        <TableHeads set={set} ids={ids} own={own} />
        <tbody>
          {shots.map((s) => (
            <ShotRow key={s.id} shot={s} set={set} ids={ids} own={own} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface Save {
  readonly words: string;
  readonly name: string;
  readonly type: string;
  text(title: string, shots: readonly StoredShot[]): string;
}
const saves: readonly Save[] = [
  { words: 'CSV', name: 'shots.csv', type: 'text/csv;charset=utf-8', text: (_t, shots) => shotsCsv(shots) },
  { words: 'JSON', name: 'shots.json', type: 'application/json', text: (_t, shots) => shotsJson(shots) },
  { words: 'Markdown', name: 'shots.md', type: 'text/markdown;charset=utf-8', text: shotsMarkdown },
];

function Pick({
  label,
  all,
  value,
  options,
  onPick,
}: {
  label: string;
  /** What stands for no choice. */
  all: string;
  value: string;
  options: readonly (readonly [value: string, words: string])[];
  onPick: (value: string) => void;
}) {
  return (
    <Select aria-label={label} value={value} onChange={(event) => onPick(event.target.value)}>
      <option value="">{all}</option>
      {options.map(([option, words]) => (
        <option key={option} value={option}>
          {words}
        </option>
      ))}
    </Select>
  );
}

interface NarrowingProps {
  readonly filter: ShotList;
  readonly setFilter: (filter: ShotList) => void;
  readonly rigs: readonly ShotRig[] | null;
  readonly isSeries: boolean;
  readonly setSeries: (isSeries: boolean) => void;
  readonly total: number;
  readonly all: number;
}

/** Which shots are shown, and how. */
function Narrowing({ filter, setFilter, rigs, isSeries, setSeries, total, all }: NarrowingProps) {
  return (
    <div className="no-print mt-3 flex flex-wrap items-center gap-3">
      <input
        type="search"
        aria-label="Search the shots"
        placeholder="Search"
        className="w-56 border border-rule bg-plate px-2 py-1"
        value={filter.q}
        onChange={(event) => setFilter({ ...filter, q: event.target.value })}
      />
      {rigs && (
        <Pick
          label="Rig"
          all="all rigs"
          value={filter.rig}
          options={rigs.map((r) => [r.id, r.name])}
          onPick={(rig) => setFilter({ ...filter, rig })}
        />
      )}
      <Pick
        label="Outcome"
        all="all outcomes"
        value={filter.outcome}
        options={outcomes.map((o) => [o, outcomeWords[o]])}
        onPick={(outcome) => setFilter({ ...filter, outcome })}
      />
      <Button aria-pressed={isSeries} onClick={() => setSeries(!isSeries)}>
        {isSeries ? 'Show as a list' : 'Compare as a series'}
      </Button>
      <span className="text-dim">
        <span className="figure">{total}</span> of <span className="figure">{all}</span>
      </span>
    </div>
  );
}

/** What can be done with the shots that are shown. */
function Acts({ isEmpty, onSave, onNew }: { isEmpty: boolean; onSave: (save: Save) => void; onNew: () => void }) {
  return (
    <span className="no-print flex flex-wrap items-center gap-2">
      {saves.map((save) => (
        <Button key={save.words} disabled={isEmpty} onClick={() => onSave(save)}>
          <FileDown size={16} aria-hidden /> {save.words}
        </Button>
      ))}
      <Button disabled={isEmpty} onClick={() => window.print()}>
        <Printer size={16} aria-hidden /> Report
      </Button>
      <Button look="primary" onClick={onNew}>
        <Plus size={16} aria-hidden /> Log a shot
      </Button>
    </span>
  );
}

/** The shot log: what was set, predicted and measured, shot by shot and over a setting; of all rigs, or of one. */
function ShotLog({ ofRig }: { ofRig: { readonly id: string; readonly name: string; readonly version: number | null } | null }) {
  const [filter, setFilter] = useState<ShotList>({ q: '', rig: ofRig?.id ?? '', outcome: '' });
  const [isMaking, setMaking] = useState(false);
  const [isSeries, setSeries] = useState(false);
  const asked = useDeferredValue(filter);
  // What the shots of one rig say together is said of all of them.
  const { data: rigs = [] } = useShotRigsQuery(undefined, { refetchOnMountOrArgChange: true });
  const oneRig = asked.rig || (rigs.length === 1 ? (rigs[0]?.id ?? '') : '');
  const teaches = oneRig !== '' && asked.q === '' && asked.outcome === '';
  const { shots, total, data, error, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useShots(
    asked,
    isSeries || teaches,
  );
  const everyShot = useEveryShot();
  if (error && !data) return <Failure error={error} onRetry={() => void refetch()} />;
  if (!shots) return <p className="p-6 text-dim">Fetching the shots …</p>;
  const here = ofRig ? rigs.filter(({ id }) => id === ofRig.id) : rigs;
  const isEmpty = shots.length === 0 && here.length === 0;
  const title = ofRig?.name ?? rigs.find((r) => r.id === filter.rig)?.name ?? 'all rigs';
  const all = here.reduce((sum, r) => sum + r.shots, 0);
  const saveAs = async ({ name, type, text }: Save) => {
    try {
      download(name, text(title, await everyShot(filter)), type);
    } catch (failure) {
      toast.error(failureOf(failure).message);
    }
  };
  return (
    <main className="mx-auto w-full max-w-[1280px] p-5 print:max-w-none print:p-0">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className={`mr-auto font-bold ${ofRig ? 'text-20' : 'text-2xl'}`}>
          {ofRig ? `Shots of ${ofRig.name}` : 'Shots'}
          <span className="hidden print:inline">
            : {title}, {format(new Date(), 'd MMM yyyy')}
          </span>
        </h1>
        <Acts isEmpty={shots.length === 0} onSave={(save) => void saveAs(save)} onNew={() => setMaking(true)} />
      </div>
      {isEmpty ? (
        <p className="mt-4 max-w-[44rem]">
          No shot yet. Write down what was set and what was read; what is calculated for it is written beside it. Oscilloscope
          traces are laid over the prediction and fitted; the result becomes a measured value of the rig.
        </p>
      ) : (
        <>
          <Narrowing
            filter={filter}
            setFilter={setFilter}
            rigs={ofRig ? null : rigs}
            isSeries={isSeries}
            setSeries={setSeries}
            total={total}
            all={all}
          />
          {teaches && !hasNextPage && <Teaching rigId={oneRig} shots={shots} />}
          <div className="mt-3">{isSeries ? <Series shots={shots} /> : <Table shots={shots} />}</div>
          {!isSeries && (
            <MoreRows
              shown={shots.length}
              total={total}
              noun="shots"
              isLoading={isFetchingNextPage}
              onMore={hasNextPage ? () => void fetchNextPage() : null}
            />
          )}
          {isSeries && (
            <div className="hidden print:block">
              <Table shots={shots} />
            </div>
          )}
        </>
      )}
      {isMaking && <NewShot ofRig={ofRig} onClose={() => setMaking(false)} />}
    </main>
  );
}

export const ShotsView = () => <ShotLog ofRig={null} />;

/** Shots of one rig, within its shell. */
export function RigShotsView() {
  const { id, document } = useRigPage();
  const { data } = useGetRigQuery(id);
  return <ShotLog key={id} ofRig={{ id, name: document.name, version: data?.version ?? null }} />;
}
