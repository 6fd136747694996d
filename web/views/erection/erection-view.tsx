import { useMemo } from 'react';
import { printPercent, printQuantity, printFixed } from '@vast-surge/core/quantity';
import { blockIn, type Rig, type RigDocument } from '@vast-surge/core/rig';
import type { ErectionStudy, FiredGap, Shot } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import type { PlotSpec, PlottedTrace } from '../../plot/option.ts';
import { Button } from '../../ui/button.tsx';
import { PredictedLines } from '../../ui/predicted-lines.tsx';
import { useErectionStudy } from '../../workers/erection.ts';
import { useOvervoltages, useShot, type Running } from '../../workers/studies.ts';
import { RigDesk } from '../rig-desk.tsx';

const shots = 200;
const noGap: FiredGap = { tower: 1, stage: 0, at: null, seen: NaN };
const volts = (V: number) => printQuantity(V, 'V');

/** How a gap is called: by its stage, and of two towers by the sign of its tower. */
const gapName = ({ stage, tower }: FiredGap, signs: readonly [string, string] | null): string =>
  signs ? `${stage} ${signs[tower - 1] ?? ''}` : String(stage);

/** When the last gap fired, s. */
const lastFiring = ({ gaps }: Shot): number => Math.max(...gaps.map(({ at }) => at ?? 0));

/** Signs of two towers, the first one's before; null with one. */
function signsOf(rig: Rig): readonly [string, string] | null {
  const { fields } = blockIn(rig, 'store');
  if (fields['towers'] !== 'two') return null;
  return fields['polarity'] === 'negative' ? ['−', '+'] : ['+', '−'];
}

function topsPlot(shot: Shot, signs: readonly [string, string] | null): PlotSpec {
  const all = shot.tops.map((top, i) => {
    const gap = shot.gaps[i] ?? noGap;
    return { top, name: gapName(gap, signs), tower: gap.tower };
  });
  const drawn = all.length > 14 ? all.filter((_, i) => i % Math.ceil(all.length / 14) === 0) : all;
  const ended = lastFiring(shot);
  const span = shot.tops[0]?.t.at(-1) ?? 0;
  return {
    window: { from: 0, to: shot.erects ? Math.min(span, ended * 2.5 || span) : span },
    // Each tower in its colour, from the first stage in grey to the last in full.
    traces: drawn.map(({ top, name, tower }, i): PlottedTrace => {
      const own = drawn.filter((one) => one.tower === tower);
      const at = own.findIndex((one) => one.name === name);
      return {
        trace: { id: `top-${i}`, title: `top of stage ${name}`, unit: 'V', ...top },
        axis: 'left',
        ink: tower === 2 ? 'current' : 'select',
        shade: own.length < 2 ? 1 : at / (own.length - 1),
        ...(at === 0 || at === own.length - 1 ? { end: name } : {}),
      };
    }),
    levels: [],
    points: [],
    events: shot.gaps.flatMap((gap) =>
      gap.at === null || gap.tower === 2 ? [] : [{ t: gap.at, text: `gap ${gapName(gap, signs)}` }],
    ),
    units: { left: 'V' },
  };
}

function ratesPlot({ rates, setting, charged }: ErectionStudy): PlotSpec {
  const t = Float64Array.from(rates.map((rate) => rate.ratio * setting));
  const trace = (id: string, title: string, of: (rate: ErectionStudy['rates'][number]) => number) => ({
    id,
    title,
    unit: '1' as const,
    t,
    y: Float64Array.from(rates.map(of)),
  });
  return {
    along: { unit: 'V', symbol: 'charged to' },
    window: { from: t[0] ?? 0, to: t.at(-1) ?? 1 },
    traces: [
      { trace: trace('misfire', 'misfires', (r) => r.misfire), axis: 'left', ink: 'current' },
      { trace: trace('prefire', 'pre-fires', (r) => r.prefire), axis: 'left', ink: 'over', dash: true },
    ],
    levels: [],
    points: [{ axis: 'left', t: charged, y: 0, text: 'as set', ink: 'ink' }],
    units: { left: '1' },
  };
}

interface MapPlaces {
  readonly left: number;
  readonly width: number;
  readonly height: number;
  readonly prefires: readonly [number, number];
  readonly misfires: readonly [number, number];
}

const MapWords = ({ at }: { at: MapPlaces }) => (
  <>
    <text x={at.width - 10} y={at.height - 4} textAnchor="end" fontSize={12.5} fill="var(--ink)">
      charged to
    </text>
    <text x={at.left + 4} y={22} fontSize={12.5} fill="var(--ink)">
      gaps set to
    </text>
    <text x={at.prefires[0]} y={at.prefires[1]} textAnchor="middle" fontSize={14} fontWeight="bold" fill="var(--ink)">
      pre-fires
    </text>
    <text x={at.misfires[0]} y={at.misfires[1]} textAnchor="middle" fontSize={14} fontWeight="bold" fill="var(--ink)">
      does not erect
    </text>
  </>
);

interface MapScaleProps {
  readonly vMax: number;
  readonly x: (V: number) => number;
  readonly y: (Vg: number) => number;
  readonly left: number;
  readonly foot: number;
}

const MapScale = ({ vMax, x, y, left, foot }: MapScaleProps) => (
  <>
    {[0.25, 0.5, 0.75, 1].map((share) => (
      <g key={share} fontSize={12} fill="var(--dim)" className="figure">
        <text x={x(share * vMax)} y={foot + 15} textAnchor="middle">
          {printQuantity(share * vMax, 'V', { digits: 2 })}
        </text>
        <text x={left - 6} y={y(share * vMax) + 4} textAnchor="end">
          {printQuantity(share * vMax, 'V', { digits: 2 })}
        </text>
      </g>
    ))}
  </>
);

/** What is known nearest to a ratio of charge voltage to setting. */
function rateAt(rates: ErectionStudy['rates'], ratio: number): { readonly misfire: number; readonly prefire: number } | null {
  const [first, last] = [rates[0], rates.at(-1)];
  if (!first || !last) return null;
  if (ratio > last.ratio) return last;
  if (ratio < first.ratio) return { misfire: 1, prefire: 0 };
  return rates.reduce((best, rate) => (Math.abs(rate.ratio - ratio) < Math.abs(best.ratio - ratio) ? rate : best));
}

/** Rates over gap setting and charge voltage: they depend on the ratio of the two alone. */
function RateMap({ study }: { study: ErectionStudy }) {
  const { rates, setting, charged } = study;
  const [columns, rows] = [40, 24];
  const [width, height, left, bottom] = [600, 300, 74, 34];
  const vMax = Math.max(charged, setting) * 1.5;
  const cell = (c: number, r: number) => rateAt(rates, (c + 0.5) / columns / ((r + 0.5) / rows));
  const x = (V: number) => left + (V / vMax) * (width - left - 10);
  const y = (Vg: number) => height - bottom - (Vg / vMax) * (height - bottom - 10);
  const [w, h] = [(width - left - 10) / columns, (height - bottom - 10) / rows];
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Map of misfires and pre-fires; the operating point is ${volts(charged)} with gaps at ${volts(setting)}`}
      className="w-full max-w-[760px]"
      shapeRendering="crispEdges"
    >
      {Array.from({ length: columns * rows }, (_, i) => {
        const [c, r] = [i % columns, Math.floor(i / columns)];
        const rate = cell(c, r);
        if (!rate) return null;
        const bad = Math.max(rate.misfire, rate.prefire);
        return (
          <rect
            key={i}
            x={left + c * w}
            y={height - bottom - (r + 1) * h}
            width={w}
            height={h}
            fill={rate.prefire >= rate.misfire ? 'var(--over)' : 'var(--current)'}
            opacity={bad * 0.4}
          />
        );
      })}
      <path d={`M${left} 10V${height - bottom}H${width - 10}`} fill="none" stroke="var(--ink)" />
      <MapScale vMax={vMax} x={x} y={y} left={left} foot={height - bottom} />
      <MapWords
        at={{ left, width, height, prefires: [x(vMax * 0.75), y(vMax * 0.28)], misfires: [x(vMax * 0.2), y(vMax * 0.8)] }}
      />
      <circle cx={x(charged)} cy={y(setting)} r={6} fill="var(--plate)" stroke="var(--ink)" strokeWidth={3} />
    </svg>
  );
}

function StudyPart({
  rig,
  running,
  onStart,
  onCancel,
}: {
  rig: Rig;
  running: Running<ErectionStudy>;
  onStart: () => void;
  onCancel: () => void;
}) {
  if (running.state === 'running')
    return (
      <div className="flex items-center gap-3">
        <progress className="h-3 w-64" value={running.share} max={1} aria-label="Shots done" />
        <span className="figure">
          {Math.round(running.share * shots)} of {shots} shots
        </span>
        <Button onClick={onCancel}>Cancel</Button>
      </div>
    );
  const again = (
    <Button look="primary" onClick={onStart}>
      Fire {shots} shots
    </Button>
  );
  if (running.state === 'idle')
    return (
      <div>
        {again}
        <p className="mt-1 text-13 text-dim">
          Each shot scatters the gaps anew; together they give the charge voltages at which it neither misfires nor pre-fires.
        </p>
      </div>
    );
  if (!running.answer.ok)
    return (
      <div>
        <p role="alert" className="border-l-4 border-over bg-plate p-3">
          No study: {running.answer.reason}
        </p>
        <div className="mt-2">{again}</div>
      </div>
    );
  const study = running.answer.value;
  const { window: found, charged, setting } = study;
  const inside = found && charged >= found.low && charged <= found.high;
  return (
    <div>
      {running.rig !== rig && <p className="font-bold">The rig has changed since: fire again. {again}</p>}
      {found ? (
        <p className="text-18">
          Works from{' '}
          <b className="figure text-30">
            {volts(found.low)} to {volts(found.high)}
          </b>{' '}
          with the gaps at {volts(setting)}. At {volts(charged)} it stands {inside ? 'inside.' : 'outside:'}{' '}
          {!inside && (charged < found.low ? 'charge higher, or close the gaps.' : 'charge lower, or open the gaps.')}
        </p>
      ) : (
        <p role="alert" className="border-l-4 border-over bg-plate p-3 text-16">
          There is no voltage at which it neither misfires nor pre-fires: the scatter of so many gaps is too large.
        </p>
      )}
      <p className="text-13 text-dim">
        Fewer than one shot in a hundred misfires or pre-fires within it; {study.shots} seeded shots. Calculated: the field
        enhancement of the gaps and the strays as entered, arcs by Toepler’s law.
      </p>
      <div className="mt-2 grid gap-5 xl:grid-cols-2">
        <div>
          <h3 className="font-bold">Share of shots against the charge voltage</h3>
          <p className="text-13">
            <span style={{ color: 'var(--current)' }}>misfires</span>, <span className="text-over">pre-fires (dashed)</span>
          </p>
          <div className="h-[240px]">
            <Chart spec={ratesPlot(study)} label="misfires and pre-fires against the charge voltage" />
          </div>
        </div>
        <div>
          <h3 className="font-bold">Gap setting and charge voltage, the first gap in proportion</h3>
          <RateMap study={study} />
        </div>
      </div>
    </div>
  );
}

type Signs = readonly [string, string] | null;

function Outcome({ shot, failed, signs }: { shot: Shot; failed: Shot['gaps'][number] | undefined; signs: Signs }) {
  return (
    <p className="text-18">
      {failed ? (
        <>
          <b>Does not erect</b> as set: gap {gapName(failed, signs)} sees at most{' '}
          <b className="figure text-24">{printPercent(failed.seen, 2)}</b> of what it needs. Close the gap, or charge higher.
        </>
      ) : (
        <>
          <b>Erects</b> as set: last gap <b className="figure text-24">{printQuantity(lastFiring(shot), 's')}</b> after the first.
        </>
      )}
    </p>
  );
}

interface GapsProps {
  readonly shot: Shot;
  readonly isFailed: boolean;
  readonly overvolted: ReturnType<typeof useOvervoltages>;
  readonly signs: Signs;
}

function Gaps({ shot, isFailed, overvolted, signs }: GapsProps) {
  return (
    <table className="w-full text-14 [&_td+td]:pl-3 [&_th+th]:pl-3">
      <thead>
        <tr className="text-left align-bottom text-dim">
          <th className="font-normal">Gap</th>
          <th className="text-right font-normal">fires at</th>
          <th className="text-right font-normal" title="Voltage it would see had it not fired, over its self-break">
            {isFailed ? 'sees, of its need' : 'overvolted'}
          </th>
          <th className="text-right font-normal">stage keeps</th>
        </tr>
      </thead>
      <tbody>
        {shot.gaps.map((gap, i) => {
          const over = overvolted?.ok ? (overvolted.value[i] ?? null) : null;
          return (
            <tr key={i} className="border-t border-rule">
              <td>
                {gapName(gap, signs)}
                {gap.stage === 1 ? ', fired' : ''}
              </td>
              <td className="figure text-right">
                {gap.at === null ? <b className="text-over">not at all</b> : printQuantity(gap.at, 's')}
              </td>
              <td className="figure text-right">
                {gap.at === null ? printPercent(gap.seen, 2) : over === null ? '' : `× ${printFixed(over, 2)}`}
              </td>
              <td className="figure text-right">{printQuantity(shot.left.each[i] ?? NaN, 'J')}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function OneShot({ rig, shot, spec, signs }: { rig: Rig; shot: Shot; spec: PlotSpec; signs: Signs }) {
  const overvolted = useOvervoltages(rig, shot.gaps.length);
  const failed = shot.gaps.find(({ at }) => at === null);
  return (
    <section aria-label="One shot" className="mt-2 grid gap-5 lg:grid-cols-[minmax(0,1fr)_400px]">
      <div className="min-w-0">
        <Outcome shot={shot} failed={failed} signs={signs} />
        <p className="text-15">
          After the shot <b className="figure text-18">{printQuantity(shot.left.all, 'J')}</b> remains in the stages
          {failed ? ': treat all of them as charged.' : '.'}
        </p>
        {!failed && <PredictedLines rig={rig} />}
        <h2 className="mt-1 font-bold">Voltage to earth at the top of each stage</h2>
        <div className="h-[270px]">
          <Chart spec={spec} label="voltage to earth of the top of each stage over time" />
        </div>
      </div>
      <div className="max-h-[420px] self-start overflow-y-auto">
        <Gaps shot={shot} isFailed={failed !== undefined} overvolted={overvolted} signs={signs} />
        {!failed && (
          <p className="mt-1 text-13 text-dim">
            Overvolted: what the gap would see had it not fired, over its self-break. Below about × 1.2 it fires late or not.
          </p>
        )}
      </div>
    </section>
  );
}

function Erection({ document }: { document: RigDocument }) {
  const { rig } = document;
  const isMarx = blockIn(rig, 'store').kind === 'marx';
  const answer = useShot(rig);
  const { running, start, cancel } = useErectionStudy();
  const signs = useMemo(() => signsOf(rig), [rig]);
  const spec = useMemo(() => (answer?.ok ? topsPlot(answer.value, signs) : null), [answer, signs]);
  if (!isMarx)
    return (
      <p role="alert" className="mt-4 border-l-4 border-over bg-plate p-4">
        {document.name} has no Marx generator as its store: there is nothing to erect.
      </p>
    );
  return (
    <>
      <h1 className="text-20 font-bold">Erection of {document.name}</h1>
      {answer && !answer.ok && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          It cannot be run: {answer.reason}
        </p>
      )}
      {answer?.ok && spec && <OneShot rig={rig} shot={answer.value} spec={spec} signs={signs} />}
      <section aria-label="Many shots" className="mt-5 border-t border-rule pt-3">
        <StudyPart rig={rig} running={running} onStart={() => start(rig, shots)} onCancel={cancel} />
      </section>
    </>
  );
}

/** Whether a Marx erects, gap by gap, and between which charge voltages it does so reliably. */
export function ErectionView() {
  return <RigDesk width="max-w-[1500px]">{(document) => <Erection document={document} />}</RigDesk>;
}
