import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { traceAt } from '@vast-surge/core/circuit';
import { printPercent, printQuantity, type UnitId } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import type { LaunchStudy } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import { tracesCsv } from '../../plot/export.ts';
import type { PlotSpec } from '../../plot/option.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { useLaunch } from '../../workers/erection.ts';
import { RigDesk } from '../rig-desk.tsx';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);

/** How long is shown, s: until the slug is well out, or the run is over. */
function spanOf({ run, winding, slug }: LaunchStudy): number {
  const out = winding.length / 2 + slug.length;
  const k = run.x.findIndex((x) => x > out);
  const end = run.t.at(-1) ?? 0;
  return k > 0 ? Math.min(end, (run.t[k] ?? end) * 1.1) : end;
}

const tracesOf = ({ run }: LaunchStudy) =>
  ({
    current: { id: 'current', title: 'current', unit: 'A', t: run.t, y: run.i[0] ?? new Float64Array() },
    force: { id: 'force', title: 'force', unit: 'N', t: run.t, y: run.F },
    speed: { id: 'speed', title: 'speed', unit: 'm/s', t: run.t, y: run.v },
    place: { id: 'place', title: 'middle of the slug', unit: 'm', t: run.t, y: run.x },
    store: { id: 'store', title: 'voltage of the store', unit: 'V', t: run.t, y: run.V[0] ?? new Float64Array() },
  }) as const;

/** The slug in the coil in section, to scale, where it is at an instant. */
function Section({ study, x }: { study: LaunchStudy; x: number }) {
  const { winding, slug, run } = study;
  const [width, height] = [760, 150];
  const first = Math.min(run.x[0] ?? 0, -winding.length / 2) - slug.length * 0.7;
  const last = winding.length / 2 + slug.length * 1.6;
  const scale = Math.min(width / (last - first), (height - 8) / winding.outer);
  const [cx, cy] = [width / 2 - ((first + last) / 2) * scale, height / 2];
  const at = (z: number) => cx + z * scale;
  const half = (winding.outer - winding.inner) / 2;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Coil and slug in section, to scale; the middle of the slug is ${print(x, 'm')} from that of the coil`}
      className="w-full"
    >
      {[-1, 1].map((side) => (
        <rect
          key={side}
          x={at(-winding.length / 2)}
          y={side < 0 ? cy - (winding.outer / 2) * scale : cy + (winding.inner / 2) * scale}
          width={winding.length * scale}
          height={half * scale}
          fill="var(--third)"
        />
      ))}
      <path
        d={[-1, 1].map((side) => `M0 ${cy + (side * winding.inner * scale) / 2}H${width}`).join('')}
        stroke="var(--rule)"
        fill="none"
      />
      <path d={`M0 ${cy}H${width}`} stroke="var(--ink)" strokeDasharray="14 4 3 4" fill="none" />
      <rect
        x={at(x - slug.length / 2)}
        y={cy - (slug.diameter / 2) * scale}
        width={slug.length * scale}
        height={slug.diameter * scale}
        fill="var(--ink)"
        opacity={0.82}
      />
    </svg>
  );
}

function plot(study: LaunchStudy, of: 'force' | 'speed', span: number, now: number): PlotSpec {
  const traces = tracesOf(study);
  return {
    window: { from: 0, to: span },
    traces:
      of === 'force'
        ? [
            { trace: traces.current, axis: 'left', ink: 'current' },
            { trace: traces.force, axis: 'right', ink: 'select' },
          ]
        : [{ trace: traces.speed, axis: 'left', ink: 'select' }],
    levels: [],
    points: [],
    events: [{ t: now, text: '' }],
    units: of === 'force' ? { left: 'A', right: 'N' } : { left: 'm/s' },
  };
}

function Energy({ study }: { study: LaunchStudy }) {
  const { stored, left, field, kinetic, heat, friction } = study.run.energy;
  const rows: readonly (readonly [string, number])[] = [
    ['in the motion of the slug', kinetic],
    ['heat in coil, store and switch', heat],
    ['friction', friction],
    ['left on the store', left],
    ['left in the field', field],
  ];
  return (
    <table className="w-full text-[15px] [&_td+td]:pl-3 [&_td+td]:whitespace-nowrap">
      <caption className="text-left font-bold">Where the {print(stored, 'J')} went</caption>
      <tbody>
        {rows.map(([what, E]) => (
          <tr key={what} className="border-t border-rule">
            <td>{what}</td>
            <td className="figure text-right">{print(E, 'J')}</td>
            <td className="figure text-right">{printPercent(E / stored, 2)}</td>
          </tr>
        ))}
        <tr className="border-t border-rule text-dim">
          <td>not told</td>
          <td colSpan={2} className="figure text-right">
            {study.run.closure < 1e-4 ? 'below 0.01 %' : printPercent(study.run.closure, 2)}
          </td>
        </tr>
      </tbody>
    </table>
  );
}

function Flight({ study, name }: { study: LaunchStudy; name: string }) {
  const span = useMemo(() => spanOf(study), [study]);
  const [share, setShare] = useState(0.35);
  const now = share * span;
  const traces = useMemo(() => tracesOf(study), [study]);
  const [force, speed] = useMemo(() => [plot(study, 'force', span, now), plot(study, 'speed', span, now)], [study, span, now]);
  const then = (trace: { readonly t: Float64Array; readonly y: Float64Array }) => traceAt(trace, now);
  return (
    <div className="mt-2 grid gap-6 lg:grid-cols-[minmax(0,1fr)_340px]">
      <section aria-label="The flight" className="min-w-0">
        <p className="text-[18px]">
          It leaves with <b className="figure text-[30px]">{print(study.exit, 'm/s')}</b>,{' '}
          <b className="figure">{printPercent(study.efficiency, 2)}</b> of what was stored; the current comes to{' '}
          <b className="figure">{print(study.peakCurrent, 'A')}</b>.
        </p>
        {study.said.map((text) => (
          <p key={text} role="alert" className="mt-1 border-l-4 border-warning bg-plate p-2 text-[15px]">
            {text}
          </p>
        ))}
        <Section study={study} x={then(traces.place)} />
        <label className="flex items-center gap-3 text-[15px]">
          <span className="figure w-24">{print(now, 's')}</span>
          <input
            type="range"
            className="grow"
            min={0}
            max={1000}
            value={Math.round(share * 1000)}
            aria-label="Instant of the flight"
            aria-valuetext={print(now, 's')}
            onChange={(event) => setShare(Number(event.target.value) / 1000)}
          />
        </label>
        <p className="text-[14px]">
          <span style={{ color: 'var(--current)' }}>current {print(then(traces.current), 'A')}</span>,{' '}
          <span style={{ color: 'var(--select)' }}>force {print(then(traces.force), 'N')}</span>, speed{' '}
          <span className="figure">{print(then(traces.speed), 'm/s')}</span>
        </p>
        <div className="h-[180px]">
          <Chart spec={force} label="current and force over time" />
        </div>
        <h2 className="font-bold">Speed</h2>
        <div className="h-[140px]">
          <Chart spec={speed} label="speed of the slug over time" />
        </div>
        <Button onClick={() => download(`${name}.csv`, tracesCsv(Object.values(traces)))}>CSV</Button>
      </section>
      <section aria-label="Where the energy went" className="self-start">
        <Energy study={study} />
        <p className="mt-3 text-[14px] text-dim">
          Slug of {print(study.slug.mass, 'kg')}, magnetised evenly, with saturation and its own demagnetising field; eddy
          currents in it are left out and take some of the speed. Calculated: shoot from outside the guard, into a trap, and
          measure.
        </p>
      </section>
    </div>
  );
}

function Launch({ id, document }: { id: string; document: RigDocument }) {
  const answer = useLaunch(document.rig);
  const study = answer?.ok ? answer.value : null;
  return (
    <>
      <h1 className="text-[20px] font-bold">Launch of {document.name}</h1>
      {answer && !study && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          {answer.ok ? `${document.name} has no coilgun stage as its load.` : `It cannot be worked out: ${answer.reason}.`}
        </p>
      )}
      {study && <Flight study={study} name={`${fileName(document.name)}-launch`} />}
      <Link className="mt-4 inline-block text-select underline" to={`/rigs/${id}`}>
        Back to the rig
      </Link>
    </>
  );
}

/** The launch of a slug through its coil, instant by instant, and where each joule went. */
export function LaunchView() {
  return <RigDesk width="max-w-[1500px]">{(id, document) => <Launch id={id} document={document} />}</RigDesk>;
}
