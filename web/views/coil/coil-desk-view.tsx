import { useMemo } from 'react';
import { Unavailable } from '@vast-surge/core/block';
import { evaluateRig, figureIn, type Evaluation } from '@vast-surge/core/evaluation';
import { FormulaError } from '@vast-surge/core/formula';
import { printQuantity } from '@vast-surge/core/quantity';
import type { Rig, RigDocument } from '@vast-surge/core/rig';
import { coilStudy, type CoilStudy } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import { saveDrawing, tracesCsv } from '../../plot/export.ts';
import type { PlotSpec } from '../../plot/option.ts';
import { download, fileName } from '../../ui/download.ts';
import { Button } from '../../ui/button.tsx';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { RigDesk } from '../rig-desk.tsx';
import { CoilSection } from './coil-section.tsx';

const print = (value: number, unit: 'm') => printQuantity(value, unit);

const shown = [
  'coil-inductance',
  'coil-resistance',
  'coil-skin',
  'coil-field',
  'peak-current',
  'coil-turn-voltage',
  'coil-layer-voltage',
  'coil-pressure',
  'coil-stress',
  'coil-heating',
  'coil-steady',
  'coil-self-capacitance',
  'coil-self-resonance',
  'coil-wire',
  'coil-mass',
] as const;

const axisTrace = (study: CoilStudy) => ({
  id: 'axis',
  title: 'flux density on the axis',
  unit: 'T' as const,
  t: study.axis.z,
  y: study.axis.B,
});

function axisPlot(study: CoilStudy): PlotSpec {
  const { length } = study.winding;
  return {
    along: { unit: 'm', symbol: 'z' },
    window: { from: study.axis.z[0] ?? 0, to: study.axis.z.at(-1) ?? 1 },
    traces: [{ trace: axisTrace(study), axis: 'left', ink: 'select' }],
    levels: [],
    points: [],
    events: [
      { t: -length / 2, text: '' },
      { t: length / 2, text: '' },
    ],
    units: { left: 'T' },
  };
}

const inks = ['select', 'current', 'third', 'dim'] as const;

const forceTraces = ({ force }: CoilStudy) =>
  (force?.curves ?? []).map(({ I, F }) => ({
    id: `force-${I}`,
    title: `force at ${printQuantity(I, 'A')}`,
    unit: 'N' as const,
    t: force?.x ?? new Float64Array(),
    y: F,
  }));

function forcePlot(study: CoilStudy): PlotSpec | null {
  const { force } = study;
  if (!force) return null;
  return {
    along: { unit: 'm', symbol: 'x' },
    window: { from: force.x[0] ?? 0, to: force.x.at(-1) ?? 1 },
    traces: forceTraces(study).map((trace, k) => ({ trace, axis: 'left', ink: inks[k] ?? 'dim' })),
    levels: [],
    points: [],
    events: [
      { t: -study.winding.length / 2, text: '' },
      { t: study.winding.length / 2, text: '' },
    ],
    units: { left: 'N' },
  };
}

/** The study, or the reason why there is none. */
function studyOf(rig: Rig): { study: CoilStudy | null; reason: string | null } {
  try {
    const study = coilStudy(rig, print);
    return { study, reason: study ? null : 'its load is not a coil' };
  } catch (error) {
    if (error instanceof Unavailable || error instanceof FormulaError) return { study: null, reason: error.message };
    throw error;
  }
}

function Figures({ evaluation, rig }: { evaluation: Evaluation; rig: Rig }) {
  return (
    <dl className="text-15">
      {shown.map((id) => {
        const figure = figureIn(evaluation, id);
        if (!figure) return null;
        const { title, worked } = figure;
        const printed = printQuantity(worked.value, worked.unit);
        return (
          <div key={id} className="flex items-baseline justify-between gap-3 border-b border-rule py-0.5">
            <dt>{title}</dt>
            <dd className="whitespace-nowrap">
              <WorkedNumber title={title} printed={printed} worked={worked} rig={rig} className="text-17 font-semibold" />
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

function Desk({ document }: { document: RigDocument }) {
  const { rig } = document;
  const { study, reason } = useMemo(() => studyOf(rig), [rig]);
  const evaluation = useMemo(() => evaluateRig(rig), [rig]);
  const spec = useMemo(() => (study ? axisPlot(study) : null), [study]);
  const force = useMemo(() => (study ? forcePlot(study) : null), [study]);
  const name = `${fileName(document.name)}-coil`;
  const said = evaluation.problems.filter((p) => p.slot === 'load');
  return (
    <>
      <h1 className="text-20 font-bold">Coil of {document.name}</h1>
      {said.map(({ text }) => (
        <p key={text} role="alert" className="mt-2 border-l-4 border-warning bg-plate p-3">
          {text}
        </p>
      ))}
      {reason !== null && said.length === 0 && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          {document.name}: {reason}.
        </p>
      )}
      {study && spec && (
        <div className="mt-3 grid gap-6 lg:grid-cols-[minmax(0,1fr)_400px]">
          <div className="min-w-0">
            <section aria-label="In section">
              <h2 className="font-bold">
                In section, to scale, with the flux density at <span className="figure">{printQuantity(study.current, 'A')}</span>
                {study.isPeak ? ', the peak of the discharge' : ''}
              </h2>
              <CoilSection study={study} />
              <h2 className="mt-1 font-bold">Flux density on the axis, without iron</h2>
              <div className="h-[190px]">
                <Chart cursor="coil" spec={spec} label="flux density on the axis of the coil" />
              </div>
              {force && (
                <>
                  <h2 className="mt-1 font-bold">
                    Force on the slug against its position, at{' '}
                    <span className="figure">{(study.force?.curves ?? []).map(({ I }) => printQuantity(I, 'A')).join(', ')}</span>
                  </h2>
                  <div className="h-[190px]">
                    <Chart cursor="coil" spec={force} label="force on the slug over its place, at several currents" />
                  </div>
                </>
              )}
              <p className="flex flex-wrap gap-2">
                <Button onClick={() => saveDrawing('coil-section', name)}>Section as SVG</Button>
                <Button onClick={() => download(`${name}.csv`, tracesCsv([axisTrace(study)]))}>Field as CSV</Button>
                {force && (
                  <Button onClick={() => download(`${name}-force.csv`, tracesCsv(forceTraces(study)))}>Force as CSV</Button>
                )}
              </p>
            </section>
          </div>
          <div>
            <section aria-label="Figures of the coil">
              <Figures evaluation={evaluation} rig={rig} />
            </section>
            <section aria-label="Inductance by other means" className="mt-3">
              <h2 className="font-bold">Inductance by other means</h2>
              {study.inductances.map(({ by, L }) => (
                <p key={by} className="flex justify-between gap-3 border-b border-rule py-0.5 text-14">
                  {by} <b className="figure whitespace-nowrap">{printQuantity(L, 'H')}</b>
                </p>
              ))}
            </section>
            <section aria-label="Winding card" className="mt-3 border border-ink bg-plate p-3">
              <h2 className="font-bold">Winding card: {document.name}</h2>
              {study.card.map((line) => (
                <p key={line} className="text-14">
                  {line}
                </p>
              ))}
            </section>
          </div>
        </div>
      )}
    </>
  );
}

/** One screen for one coil: how it lies, what field it makes, what it bears, and how to wind it. */
export function CoilDeskView() {
  return <RigDesk width="max-w-[1500px]">{(document) => <Desk document={document} />}</RigDesk>;
}
