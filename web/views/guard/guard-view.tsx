import { useMemo } from 'react';
import { Link } from 'react-router';
import type { FigureId } from '@vast-surge/core/block';
import { evaluateRig, figureIn, type Evaluation } from '@vast-surge/core/evaluation';
import { limitState } from '@vast-surge/core/limit';
import { printPercent, printQuantity } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import { buildSheet, interlockStudy } from '@vast-surge/core/study';
import { kindChosen } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { saveDrawing } from '../../plot/export.ts';
import { Button } from '../../ui/button.tsx';
import { fileName } from '../../ui/download.ts';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { RigDesk } from '../rig-desk.tsx';
import { BuildSheetView } from './build-sheet.tsx';
import { GuardPlan, planOf } from './guard-plan.tsx';
import { Interlock } from './interlock.tsx';
import { RoomPlan } from './room-plan.tsx';

/** Decibels over 20 µPa. */
const decibels = (pascal: number): string => `${(20 * Math.log10(pascal / 20e-6)).toFixed(0)} dB`;

interface Reached {
  readonly id: FigureId;
  readonly title: string;
  /** The line it is held against, by the limit. */
  readonly limit?: string;
  readonly line?: string;
  readonly says?: string;
  /** A published line where no limit of the rig is made of it. */
  readonly beside?: string;
  /** A share of the air, told in millionths. */
  readonly ppm?: true;
}

const reached: readonly Reached[] = [
  { id: 'sound-pressure', title: 'Peak sound at people, bare ears' },
  { id: 'sound-at-ear', title: 'Peak sound at the ear, protected', limit: 'sound-at-ear', line: '140 dB' },
  { id: 'flashover-reach', title: 'Flashover distance', limit: 'flashover-reach', line: 'their distance' },
  { id: 'burn-reach', title: 'Flash burn distance, bare skin', limit: 'burn-reach', line: 'their distance' },
  { id: 'fragment-speed', title: 'Fragment speed, upper bound', says: 'fragment mass' },
  { id: 'shield-needed', title: 'Perforation thickness', limit: 'shield', line: 'the shield', says: 'fragment width' },
  { id: 'box-pressure', title: 'Enclosure pressure rise', says: 'enclosure volume' },
  {
    id: 'nox-share',
    title: 'Nitrogen oxides in the room',
    says: 'room volume',
    ppm: true,
    beside: 'if all of it were sparks; 0.5 ppm of the dioxide is the line for eight hours (Directive (EU) 2017/164; from memory)',
  },
  {
    id: 'ozone-share',
    title: 'Ozone in the room, upper bound',
    says: 'share of the energy in corona, or room volume',
    ppm: true,
    beside: '0.1 ppm is the line for eight hours (29 CFR 1910.1000; from memory)',
  },
  {
    id: 'induced-voltage',
    title: 'Induced in a lead at the people, rough',
    says: 'area of the discharge loop',
    beside: 'in a loop of 30 cm each way; instruments are read from a distance, on batteries or isolated',
  },
];

const printed = ({ id, ppm }: Reached, value: number, unit: Parameters<typeof printQuantity>[1]): string =>
  ppm
    ? `${printQuantity(value * 1e6, '1', { digits: 2 })} ppm`
    : unit === 'Pa' && id !== 'box-pressure'
      ? decibels(value)
      : printQuantity(value, unit, { digits: 2 });

function Row({ row, evaluation }: { row: Reached; evaluation: Evaluation }) {
  const figure = figureIn(evaluation, row.id);
  const limit = evaluation.ladder.limits.find(({ id }) => id === row.limit);
  const isOver = limit !== undefined && limitState(limit) === 'over';
  if (!figure)
    return (
      <tr className="border-t border-rule align-top">
        <th scope="row" className="py-1 pr-3 text-left font-normal">
          {row.title}
        </th>
        <td colSpan={2} className="py-1 text-dim">
          not known: {row.says ?? 'something'} is not entered
        </td>
      </tr>
    );
  const { worked, band } = figure;
  return (
    <tr className="border-t border-rule align-top">
      <th scope="row" className="py-1 pr-3 text-left font-normal">
        {row.title}
      </th>
      <td className="figure py-1 pr-3 text-right whitespace-nowrap">
        <b className="text-17">
          <WorkedNumber
            title={row.title}
            printed={printed(row, band.high, worked.unit)}
            worked={worked}
            rig={evaluation.rig}
            atWorst
          />
        </b>
      </td>
      <td className={`py-1 text-14 ${isOver ? 'font-bold text-over' : 'text-dim'}`}>
        {row.beside}
        {worked.unit === 'Pa' && row.id !== 'box-pressure' && `${printQuantity(band.high, 'Pa', { digits: 2 })} `}
        {limit && limit.worst !== null
          ? `${isOver ? 'over: ' : ''}${printPercent(limit.worst)} of ${row.line ?? 'its line'}`
          : ''}
      </td>
    </tr>
  );
}

function Reach({ evaluation }: { evaluation: Evaluation }) {
  return (
    <section aria-label="What reaches a person">
      <table className="w-full text-15">
        <caption className="text-left text-17 font-bold">What reaches a person, worst case</caption>
        <tbody>
          {reached.map((row) => (
            <Row key={row.id} row={row} evaluation={evaluation} />
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-14 text-dim">
        Bounds and rules of thumb, two figures at most: all of the stored energy in one arc, one fragment, one flash. X-rays come
        from parts in vacuum above some 15 kV, and from nothing in air. Radio noise of a spark comes besides what is induced, and
        reaches every instrument that is not screened.
      </p>
    </section>
  );
}

function Desk({ document, id }: { document: RigDocument; id: string }) {
  const { rig, name } = document;
  const dispatch = useAppDispatch();
  const evaluation = useMemo(() => evaluateRig(rig), [rig]);
  const interlock = useMemo(() => interlockStudy(evaluation), [evaluation]);
  const sheet = useMemo(() => (evaluation.hazard ? buildSheet(name, evaluation) : null), [name, evaluation]);
  const plan = useMemo(() => planOf(evaluation), [evaluation]);
  return (
    <>
      <h1 className="text-20 font-bold">Guard of {name}</h1>
      {interlock === null ? (
        <div className="mt-2 border-l-4 border-warning bg-plate p-3">
          <p className="text-17">
            <b>No guard is entered.</b> How far the people are, what stands before them, what covers their ears and what holds the
            dump is not known: nothing here says that it is enough.
          </p>
          <p className="mt-2">
            <Button look="primary" onClick={() => dispatch(kindChosen({ slot: 'guard', kind: 'guarded' }))}>
              Enter a guard
            </Button>
          </p>
        </div>
      ) : (
        <div className="mt-2 grid gap-x-8 gap-y-6 lg:grid-cols-2">
          <Reach evaluation={evaluation} />
          {plan && (
            <section aria-label="Plan of the guard">
              <h2 className="text-17 font-bold">Plan, to scale</h2>
              <GuardPlan plan={plan} name={name} />
              <p className="text-15">
                Its fields stand in the block{' '}
                <Link to={`/rigs/${id}`} className="underline">
                  Guard of the rig
                </Link>
                .
              </p>
              <Button onClick={() => saveDrawing('guard-plan', `${fileName(name)}-guard-plan`)}>Drawing as SVG</Button>
            </section>
          )}
          <Interlock study={interlock} />
        </div>
      )}
      <RoomPlan document={document} evaluation={evaluation} />
      {sheet && <BuildSheetView sheet={sheet} name={name} />}
      <p className="mt-5 text-14 text-dim">
        Calculated from what was entered; it protects nobody. Local codes and licensed practice come first.
      </p>
    </>
  );
}

/** What stands between a rig and its people. */
export function GuardView() {
  return <RigDesk width="max-w-[1500px]">{(document, id) => <Desk document={document} id={id} />}</RigDesk>;
}
