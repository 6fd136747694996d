import { useMemo } from 'react';
import { pointsOfCampaign, type Answered, type Kept } from '@vast-surge/core/campaign';
import { quantityAt, type RigDocument } from '@vast-surge/core/rig';
import { axisOf, calibratedTitle, causeOf, controlChart, measures, ratesOf, type Calibration } from '@vast-surge/core/shot';
import { printFixed, printPercent } from '@vast-surge/core/quantity';
import { Chart } from '../../plot/chart.tsx';
import type { PlotSpec } from '../../plot/option.ts';
import { niceStep } from '../../plot/ticks.ts';

const samples = 81;

/** The answer over the first field that is varied, the others in the middle of theirs, with every shot that counts. */
function curveOf(kept: Kept, document: RigDocument, { answer }: Answered): PlotSpec | null {
  const [first] = kept.campaign.settings[0]?.values ?? [];
  const at = first && quantityAt(document.rig, first.path);
  const [factor] = answer.factors;
  if (!at || !factor || factor.levels.length < 2) return null;
  const middle = answer.factors.map(({ low, high }) => (low + high) / 2);
  const t = Float64Array.from({ length: samples }, (_, i) => factor.low + ((factor.high - factor.low) * i) / (samples - 1));
  const found = [...t].map((x) => answer.at([x, ...middle.slice(1)]));
  const { answers } = kept.campaign;
  const unit = 'measure' in answers ? measures[answers.measure].unit : '1';
  const trace = (id: string, title: string, y: readonly number[]) => ({ id, title, unit, t, y: Float64Array.from(y) });
  const step = niceStep(factor.high - factor.low);
  const from = Math.floor((factor.low - step / 4) / step) * step;
  return {
    isClose: true,
    along: { unit: at.field.unit, symbol: first.title },
    window: { from, to: Math.ceil((factor.high + step / 4) / step) * step },
    traces: [
      {
        trace: trace(
          'mean',
          'curve through the shots',
          found.map(({ value }) => value),
        ),
        axis: 'left',
        ink: 'select',
      },
      {
        trace: trace(
          'low',
          'at least, 95 %',
          found.map(({ value, margin }) => value - margin),
        ),
        axis: 'left',
        ink: 'select',
        dash: true,
      },
      {
        trace: trace(
          'high',
          'at most, 95 %',
          found.map(({ value, margin }) => value + margin),
        ),
        axis: 'left',
        ink: 'select',
        dash: true,
      },
    ],
    levels: [],
    points: pointsOfCampaign(kept).map(({ levels, y }) => ({
      axis: 'left' as const,
      t: levels[0] ?? NaN,
      y,
      text: '',
      ink: 'current' as const,
    })),
    units: { left: unit },
  };
}

/** Measured over calculated, shot by shot, with its limits: what changes in the rig shows here before it shows in the answer. */
function Control({ learnt }: { learnt: Calibration }) {
  const ratios = learnt.scored.map(({ measured, calculated }) => measured / calculated);
  const chart = controlChart(ratios);
  if (!chart) return null;
  const [width, height, left] = [720, 130, 46];
  const [low, high] = [Math.min(chart.low, ...ratios), Math.max(chart.high, ...ratios)];
  const X = (i: number) => left + ((i + 0.5) / ratios.length) * (width - left - 10);
  const Y = (v: number) => 10 + ((high - v) / (high - low || 1)) * (height - 20);
  const line = (v: number, dashed: boolean) => (
    <g key={v}>
      <line x1={left} x2={width - 10} y1={Y(v)} y2={Y(v)} stroke="var(--select)" strokeDasharray={dashed ? '5 4' : undefined} />
      <text x={left - 4} y={Y(v) + 4} textAnchor="end" className="figure fill-dim text-12">
        {printFixed(v, 2)}
      </text>
    </g>
  );
  const out = chart.beyond.map((i) => i + 1);
  return (
    <>
      <h3 className="mt-4 font-bold">Measured over calculated, shot by shot</h3>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="mt-1 w-full max-w-[46rem]"
        role="img"
        aria-label="Control chart of measured over calculated"
      >
        {line(chart.high, true)}
        {line(chart.centre, false)}
        {line(chart.low, true)}
        {ratios.map((v, i) => (
          <circle key={i} cx={X(i)} cy={Y(v)} r={4} fill={chart.beyond.includes(i) ? 'var(--over)' : 'var(--current)'} />
        ))}
      </svg>
      <p className="text-15">
        {out.length === 0
          ? 'None beyond its limits (three deviations, from the ranges between neighbours).'
          : `Beyond the limits: ${out.length === 1 ? 'reading' : 'readings'} ${out.join(', ')}.`}
        {chart.shift !== null && ` Nine in a row on one side, up to reading ${chart.shift + 1}: something has shifted.`}
      </p>
    </>
  );
}

/** What the shots of a campaign answer so far, and what they say of the rig. */
export function AnswerPanel({ kept, document, found }: { kept: Kept; document: RigDocument; found: Answered | null }) {
  const spec = useMemo(() => found && curveOf(kept, document, found), [kept, document, found]);
  const { learnt } = kept;
  const axis = axisOf(kept.campaign.answers);
  const rates = ratesOf(kept.shots.map(({ shot }) => shot));
  const inside = learnt?.scored.filter(({ isInside }) => isInside).length ?? 0;
  return (
    <section aria-label="Answer so far" className="mt-6">
      <h2 className="text-17 font-bold">{kept.progress.closed ? 'Answer' : 'Answer so far'}</h2>
      <p className="mt-1 max-w-[60rem] text-17">
        {found ? found.says : 'The shots so far do not determine one: it takes more of them than two settings have.'}
      </p>
      {found?.next != null && !kept.progress.closed && (
        <p className="mt-1">One more shot would teach the most at {found.next}.</p>
      )}
      {spec && (
        <p className="mt-2 text-14 text-dim">
          {axis.title} over {spec.along?.symbol}: the curve through the shots with its band (95 %), and every shot that counts
        </p>
      )}
      {spec && (
        <div className="h-72 max-w-[56rem]">
          <Chart spec={spec} label={`${axis.name} over ${spec.along?.symbol ?? ''}, with every shot that counts`} />
        </div>
      )}
      {rates && (
        <p className="mt-2">
          Misfires: {rates.misfire.came} of {rates.misfire.of} (90 %: {printPercent(rates.misfire.low, 2)} to{' '}
          {printPercent(rates.misfire.high, 2)}). Pre-fires: {rates.preFire.came} of {rates.preFire.of} (90 %:{' '}
          {printPercent(rates.preFire.low, 2)} to {printPercent(rates.preFire.high, 2)}).
        </p>
      )}
      {learnt && (
        <>
          <p className="mt-1">
            Readings inside the band told before each shot: {inside} of {learnt.scored.length} (nine of ten are meant to be). Of{' '}
            {calibratedTitle(learnt.measure)}, measured over calculated is {printFixed(learnt.bias.middle, 3)}, 90 %:{' '}
            {printFixed(learnt.bias.low, 3)} to {printFixed(learnt.bias.high, 3)}.
          </p>
          {learnt.drift && (
            <p role="alert" className="mt-1 border-l-4 border-warning pl-2">
              <b>The last {learnt.drift.shots} shots lie apart from those before them</b>, by a factor of{' '}
              {printFixed(learnt.drift.factor, 2)}. {causeOf([learnt])}
            </p>
          )}
          <Control learnt={learnt} />
        </>
      )}
    </section>
  );
}
