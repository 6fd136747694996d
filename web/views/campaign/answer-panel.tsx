import { useMemo, useState } from 'react';
import { settingRows, type Answered, type Kept } from '@vast-surge/core/campaign';
import { printFixed, printPercent } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import { axisOf, calibratedTitle, causeOf, controlChart, ratesOf, type Calibration } from '@vast-surge/core/shot';
import { Chart } from '../../plot/chart.tsx';
import { Select } from '../../ui/select.tsx';
import { answerPlot } from './answer-curve.ts';

/** The answer drawn over one of the fields that are varied, which the reader picks where there are several. */
function Curve({ kept, document, found }: { kept: Kept; document: RigDocument; found: Answered }) {
  const [over, setOver] = useState(0);
  const spec = useMemo(() => answerPlot(kept, document, found, over), [kept, document, found, over]);
  const values = kept.campaign.settings[0]?.values ?? [];
  const axis = axisOf(kept.campaign.answers);
  if (!spec) return null;
  return (
    <>
      <p className="mt-2 text-14 text-dim">
        {values.length > 1 ? (
          <label>
            {axis.title} over{' '}
            <Select value={String(over)} onChange={(event) => setOver(Number(event.target.value))}>
              {values.map(({ path, title }, i) => (
                <option key={path} value={i}>
                  {title}
                </option>
              ))}
            </Select>{' '}
            at each level of the next field, darkest the highest; every shot that counts
          </label>
        ) : (
          `${axis.title} over ${spec.along?.symbol ?? ''}: the curve through the shots with its band (95 %), and every shot that counts`
        )}
      </p>
      <div className="h-72 max-w-[56rem]">
        <Chart spec={spec} label={`${axis.name} over ${spec.along?.symbol ?? ''}, with every shot that counts`} />
      </div>
    </>
  );
}

/** Every setting with how often it was fired, what was read at it, and what the curve says there. */
function SettingTable({ kept, found }: { kept: Kept; found: Answered | null }) {
  const axis = axisOf(kept.campaign.answers);
  const rows = settingRows(kept, found);
  if (rows.every(({ read }) => read.length === 0)) return null;
  const head = (text: string) => (
    <th scope="col" className="pr-4 font-normal">
      {text}
    </th>
  );
  return (
    <div className="overflow-x-auto">
      <table className="mt-2 text-15" aria-label="Settings and what they came to">
        <thead>
          <tr className="text-left text-13 text-dim">
            {head('Setting')}
            {head('Shots')}
            {head('Mean of what was read')}
            {head('By the curve, 95 %')}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ title, read, mean, fitted }) => (
            <tr key={title} className="border-t border-rule">
              <td className="py-0.5 pr-4">{title}</td>
              <td className="figure pr-4">{read.length}</td>
              <td className="figure pr-4">{mean === null ? '' : axis.print(mean)}</td>
              <td className="figure">{fitted === null ? '' : axis.printMargin(fitted.value, fitted.margin)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
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
  const { learnt } = kept;
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
      {found && <Curve kept={kept} document={document} found={found} />}
      <SettingTable kept={kept} found={found} />
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
