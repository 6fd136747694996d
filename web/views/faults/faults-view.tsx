import { useState } from 'react';
import { slotTitles } from '@vast-surge/core/kind';
import { printQuantity } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import { faultLevels, type Fault, type FaultStudy } from '@vast-surge/core/study';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { useRowKeys } from '../../ui/use-row-keys.ts';
import { useWide } from '../../ui/use-wide.ts';
import { useFaults } from '../../workers/studies.ts';
import { RigDesk } from '../rig-desk.tsx';
import { FaultDetail } from './fault-detail.tsx';
import { faultsCsv } from './faults-csv.ts';

/** J into what failed, as the table has it. */
const intoWords = ({ into }: Fault): string => {
  if (!into) return '';
  const [low, high] = [printQuantity(into.low, 'J'), printQuantity(into.high, 'J')];
  return low === high ? high : `${low} to ${high}`;
};

function Row({ fault, isShown, onShow }: { fault: Fault; isShown: boolean; onShow: () => void }) {
  return (
    <tr className={`border-t border-rule align-top ${isShown ? 'bg-plate' : ''}`}>
      <th scope="row" className="py-1.5 pr-3 pl-2 text-left font-normal">
        <button type="button" aria-expanded={isShown} className="text-left" onClick={onShow}>
          <span className={isShown ? 'font-bold' : 'underline decoration-rule underline-offset-4 hover:decoration-ink'}>
            {fault.title}
          </span>
        </button>
        <span className="block text-13 text-dim">
          {slotTitles[fault.slot]}, {fault.moment}
        </span>
        <span className="block text-14">{fault.because}</span>
      </th>
      <td className="figure py-1.5 pr-2 text-right whitespace-nowrap max-sm:hidden">{intoWords(fault)}</td>
    </tr>
  );
}

const Detail = ({ children }: { children: React.ReactNode }) => (
  <tr>
    <td colSpan={2} className="bg-plate px-2 pb-4">
      {children}
    </td>
  </tr>
);

function Table({
  study,
  shown,
  onShow,
  detail,
}: {
  study: FaultStudy;
  shown: Fault | undefined;
  onShow: (id: string) => void;
  detail: React.ReactNode;
}) {
  const rowKeys = useRowKeys();
  const levels = (Object.keys(faultLevels) as (keyof typeof faultLevels)[]).filter((level) =>
    study.faults.some((fault) => fault.level === level),
  );
  return (
    <table className="w-full border-collapse text-15">
      <caption className="sr-only">Faults, the worst first</caption>
      <thead className="sr-only">
        <tr>
          <th scope="col">What fails, and what comes of it</th>
          <th scope="col">Energy into it</th>
        </tr>
      </thead>
      <tbody {...rowKeys}>
        {levels.flatMap((level) => {
          const faults = study.faults.filter((fault) => fault.level === level);
          return [
            <tr key={level}>
              <th scope="rowgroup" colSpan={2} className="border-b-2 border-ink pt-4 pb-0.5 pl-2 text-left">
                {faultLevels[level]} <span className="font-normal text-dim">{faults.length}</span>
              </th>
            </tr>,
            ...faults.flatMap((fault) => [
              <Row key={fault.id} fault={fault} isShown={fault === shown} onShow={() => onShow(fault.id)} />,
              ...(fault === shown && detail !== null ? [<Detail key={`${fault.id} detail`}>{detail}</Detail>] : []),
            ]),
          ];
        })}
      </tbody>
    </table>
  );
}

function Blind({ study }: { study: FaultStudy }) {
  if (study.blind.length === 0) return null;
  return (
    <section aria-label="Not worked out" className="mt-5 border-l-4 border-warning bg-plate p-2 text-14">
      <h2 className="font-bold">Not worked out: treat each as the worst that it could be</h2>
      <ul>
        {study.blind.map(({ id, title, reason }) => (
          <li key={id}>
            {title}: {reason}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Desk({ document, id }: { document: RigDocument; id: string }) {
  const { rig, name } = document;
  const answer = useFaults(rig, name);
  const [chosen, setChosen] = useState<string | null>(null);
  const isWide = useWide();
  const study = answer?.ok ? answer.value : null;
  // A phone shows what is asked for alone; beside the table there is room for the worst at once.
  const shown = study?.faults.find((fault) => fault.id === chosen) ?? (isWide ? study?.faults[0] : undefined);
  const detail = shown ? <FaultDetail fault={shown} rig={rig} id={id} name={name} /> : null;
  const kills = study?.faults.filter(({ level }) => level === 'kills').length ?? 0;
  return (
    <>
      <h1 className="text-20 font-bold">When something fails: {name}</h1>
      {answer === null && <p role="status">Every part is failing in turn …</p>}
      {answer?.ok === false && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          It cannot be worked out: {answer.reason}. Treat every part as one that fails the worst way.
        </p>
      )}
      {study && (
        <>
          <p className="mt-1 flex flex-wrap items-baseline gap-x-4 text-16">
            <span>
              <b className="figure text-30">{study.faults.length}</b> faults through the solver, <b className="figure">{kills}</b>{' '}
              of them can kill.
            </span>
            <Button onClick={() => download(`${fileName(name)}-faults.csv`, faultsCsv(study), 'text/csv')}>CSV</Button>
          </p>
          <div className="mt-2 grid gap-x-8 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]">
            <div className="min-w-0">
              <Table
                study={study}
                shown={shown}
                onShow={(next) => setChosen(next === chosen ? null : next)}
                detail={isWide ? null : detail}
              />
              <Blind study={study} />
            </div>
            {isWide && detail && <div className="min-w-0 self-start lg:sticky lg:top-4">{detail}</div>}
          </div>
          <p className="mt-5 max-w-[75ch] text-14 text-dim">
            Nominal values, one fault at a time. A short has a resistance that nobody knows: what depends on it is told from 1 mΩ
            to 0.1 Ω. What is calculated here is what the circuit would do; it says nothing about what was actually built. Local
            codes and licensed practice come first.
          </p>
        </>
      )}
    </>
  );
}

/** Every part of a rig failing, one at a time. */
export function FaultsView() {
  return <RigDesk width="max-w-[1500px]">{(document, id) => <Desk document={document} id={id} />}</RigDesk>;
}
