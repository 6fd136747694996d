import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { evaluateRig, figureIn, type Evaluation } from '@vast-surge/core/evaluation';
import { printPercent, printQuantity, printFixed } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import type { TankStudy, Tuning } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import { saveDrawing } from '../../plot/export.ts';
import type { PlotSpec } from '../../plot/option.ts';
import { Button } from '../../ui/button.tsx';
import { fileName } from '../../ui/download.ts';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { useSolvedBreaks, useTank } from '../../workers/studies.ts';
import { RigDesk } from '../rig-desk.tsx';
import { RunningChart } from './running-chart.tsx';
import { TankDrawingView } from './tank-drawing.tsx';
import type { FigureId } from '@vast-surge/core/block';

const verdictWords = { runs: '✓ runs', doubtful: '? may stay lit', holds: '✗ holds an arc' } as const;

const shownFigures = [
  'break-energy',
  'tank-power',
  'supply-power',
  'doubler-sag',
  'doubler-ripple',
  'path-power',
  'gap-power',
  'quench-rate',
  'gap-run-time',
  'charging-resistor-run-time',
  'primary-inductance',
  'primary-wheeler',
  'primary-resonance',
  'tuning-tap',
  'secondary-inductance',
  'secondary-wheeler',
  'secondary-self-capacitance',
  'top-capacitance',
  'secondary-resonance',
  'coupling',
  'transfer-time',
  'secondary-energy-voltage',
  'tank-peak-current',
  'tank-rms',
  'tank-slope',
  'tank-capacitor-heat',
  'primary-heat',
  'secondary-heat',
  'primary-turn-voltage',
  'secondary-turn-voltage',
  'primary-secondary-voltage',
  'secondary-wire',
] as const;

function Figure({ evaluation, id, className }: { evaluation: Evaluation; id: FigureId; className?: string }) {
  const figure = figureIn(evaluation, id);
  if (!figure) return <>unknown</>;
  const { title, worked } = figure;
  const printed = printQuantity(worked.value, worked.unit);
  return (
    <WorkedNumber title={title} printed={printed} worked={worked} rig={evaluation.rig} {...(className ? { className } : {})} />
  );
}

function NeverFires({ study }: { study: TankStudy }) {
  const asSet = study.variants.find(({ id }) => id === 'as-set');
  return (
    <p className="text-22 font-bold text-over">
      The gap never fires at this supply
      {asSet?.turnedIn != null && `: closed to ${printQuantity(asSet.turnedIn, 'V')} it would`}.
    </p>
  );
}

function Headline({ evaluation, study }: { evaluation: Evaluation; study: TankStudy }) {
  const asSet = study.variants.find(({ id }) => id === 'as-set');
  const verdict = asSet?.verdict ?? null;
  return (
    <p className="text-18">
      {verdict === 'runs' ? 'Runs at ' : verdict === 'doubtful' ? 'May run, at ' : 'Does not run: it would, at '}
      <Figure evaluation={evaluation} id="break-rate" className="text-30 font-bold" />
      {study.pace && study.pace.spread > 0 && <> with a spread of {printPercent(study.pace.spread, 2)}</>}. Follow current{' '}
      <Figure evaluation={evaluation} id="left-current" className="text-22 font-bold" />; a gap like this re-opens below about{' '}
      {printQuantity(study.holding, 'A')} (rule of thumb).{' '}
      {figureIn(evaluation, 'secondary-peak') && (
        <>
          Peak secondary voltage <Figure evaluation={evaluation} id="secondary-peak" className="text-22 font-bold" />; sparks
          about <Figure evaluation={evaluation} id="spark-length-short" className="font-bold" /> to{' '}
          <Figure evaluation={evaluation} id="spark-length-long" className="font-bold" />.
        </>
      )}
    </p>
  );
}

function Variants({ study }: { study: TankStudy }) {
  return (
    <section aria-label="Charged in other ways">
      <h2 className="font-bold">The same tank, charged in other ways</h2>
      <ul className="text-15">
        {study.variants.map(({ id, title, rate, left, power, verdict, turnedIn, reason }) => (
          <li key={id} className="border-t border-rule py-1">
            <span className="flex justify-between gap-3">
              <b>{title}</b>
              <b className={`whitespace-nowrap ${verdict === 'holds' ? 'text-over' : ''}`}>
                {verdict ? verdictWords[verdict] : 'not known'}
              </b>
            </span>
            {left !== null && (
              <span className="figure text-14">
                {printQuantity(left, 'A')} left
                {verdict !== 'holds' &&
                  rate !== null &&
                  power !== null &&
                  `, ${printQuantity(rate, 'Hz')}, ${printQuantity(power, 'W')}`}
              </span>
            )}
            {turnedIn !== null && (
              <span className="block text-14 text-dim">
                With the gap closed to {printQuantity(turnedIn, 'V')}: as it is it never fires.
              </span>
            )}
            {verdict === null && reason !== null && <span className="block text-14 text-dim">{reason}.</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

function tuningPlot(tuning: Tuning): PlotSpec {
  const trace = (id: string, title: string, y: Float64Array) => ({ id, title, unit: 'Hz' as const, t: tuning.taps, y });
  const flat = tuning.taps.map(() => tuning.secondary);
  return {
    along: { unit: '1', symbol: 'n' },
    window: { from: tuning.taps[0] ?? 0, to: tuning.taps.at(-1) ?? 1 },
    traces: [
      { trace: trace('tank', 'tank alone', tuning.tank), axis: 'left', ink: 'select' },
      { trace: trace('secondary', 'secondary alone', flat), axis: 'left', ink: 'current' },
      { trace: trace('low', 'both together, lower', tuning.low), axis: 'left', ink: 'dim', dash: true },
      { trace: trace('high', 'both together, higher', tuning.high), axis: 'left', ink: 'dim', dash: true },
    ],
    levels: [],
    points: [],
    events: [
      { t: tuning.tap, text: 'tap' },
      ...(tuning.best !== null && Math.abs(tuning.best - tuning.tap) > 0.05 ? [{ t: tuning.best, text: 'in tune' }] : []),
    ],
    units: { left: 'Hz' },
  };
}

function Tank({ study, evaluation, name }: { study: TankStudy; evaluation: Evaluation; name: string }) {
  const solved = useSolvedBreaks(evaluation.rig);
  const tuning = useMemo(() => study.tuning && tuningPlot(study.tuning), [study.tuning]);
  return (
    <>
      {study.row ? <Headline evaluation={evaluation} study={study} /> : <NeverFires study={study} />}
      <div className="mt-2 grid gap-6 lg:grid-cols-[minmax(0,1fr)_400px]">
        <div className="min-w-0">
          {study.row && <RunningChart row={study.row} study={study} name={name} />}
          <p className="mt-2 border-l-4 border-rule pl-3 text-15">
            By the solver:{' '}
            {solved === null
              ? 'working …'
              : solved.ok
                ? `${printQuantity(solved.value.rate, 'Hz')}, ${printQuantity(solved.value.atBreak, 'A')} at the break, ${printQuantity(solved.value.top, 'V')} at the top, after ${solved.value.breaks} breaks from rest; its energy closes to ${solved.value.closure < 1e-4 ? 'better than 0.01 %' : printPercent(solved.value.closure, 2)}.`
                : `${solved.reason}.`}
          </p>
          {tuning && study.tuning && (
            <section aria-label="Tuning" className="mt-4">
              <h2 className="font-bold">
                Tuning: both resonances against the tap
                {study.tuning.best !== null && (
                  <span className="font-normal">
                    , in tune at <b className="figure">{printFixed(study.tuning.best, 2)}</b> turns
                  </span>
                )}
              </h2>
              <div className="h-[230px]">
                <Chart spec={tuning} label="resonances against the tap" />
              </div>
              <p className="text-14">
                <span style={{ color: 'var(--select)' }}>— tank alone</span>{' '}
                <span style={{ color: 'var(--current)' }}>— secondary alone</span>{' '}
                <span className="text-dim">– – both together: they never meet</span>
              </p>
            </section>
          )}
        </div>
        <div className="self-start">
          <Variants study={study} />
          {study.drawing && (
            <section aria-label="Drawn to scale" className="mt-4">
              <div className="flex items-center justify-between">
                <h2 className="font-bold">To scale</h2>
                <Button onClick={() => saveDrawing('tank-drawing', `${name}-drawing`)}>SVG</Button>
              </div>
              <TankDrawingView drawing={study.drawing} tap={`${study.drawing.tapped} turns`} />
            </section>
          )}
          <dl className="mt-4 text-15">
            {shownFigures.map((id) => {
              const figure = figureIn(evaluation, id);
              return (
                figure && (
                  <div key={id} className="flex items-baseline justify-between gap-3 border-b border-rule py-0.5">
                    <dt>{figure.title}</dt>
                    <dd className="whitespace-nowrap">
                      <Figure evaluation={evaluation} id={id} className="text-17 font-semibold" />
                      {figure.band.high > figure.band.low && (
                        <span className="figure block text-right text-12 text-dim">
                          {printQuantity(figure.band.low, figure.worked.unit)} to{' '}
                          {printQuantity(figure.band.high, figure.worked.unit)}
                        </span>
                      )}
                    </dd>
                  </div>
                )
              );
            })}
          </dl>
        </div>
      </div>
    </>
  );
}

function Desk({ id, document }: { id: string; document: RigDocument }) {
  const { rig } = document;
  const [seed, setSeed] = useState(1);
  const answer = useTank(rig, seed);
  const evaluation = useMemo(() => evaluateRig(rig), [rig]);
  const said = evaluation.problems.filter((p) => p.severity === 'error' && ['switch', 'load', 'store'].includes(p.slot));
  return (
    <>
      <h1 className="text-20 font-bold">{document.name}: running</h1>
      {said.map(({ text }) => (
        <p key={text} role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          {text}
        </p>
      ))}
      {answer === null && <p className="mt-2 text-dim">Working out its breaks …</p>}
      {answer && !answer.ok && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          It cannot be worked out: {answer.reason}.
        </p>
      )}
      {answer?.ok && <Tank study={answer.value} evaluation={evaluation} name={`${fileName(document.name)}-tank`} />}
      <p className="mt-4 flex flex-wrap items-center gap-6">
        <Link className="text-select underline" to={`/rigs/${id}/bleed`}>
          Bleed-down, capacitor by capacitor
        </Link>
        <Button onClick={() => setSeed(seed + 1)}>New random scatter</Button>
      </p>
      <p className="mt-2 text-14 text-dim">
        Calculated from what was entered; it protects nobody. Verify with instruments rated for it. What may be radiated, and who
        may work on it, is for local codes and licensed practice.
      </p>
    </>
  );
}

/** A resonant-charged tank and its secondary while it runs. */
export function TankView() {
  return <RigDesk width="max-w-[1500px]">{(document, id) => <Desk id={id} document={document} />}</RigDesk>;
}
