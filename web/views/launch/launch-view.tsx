import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { traceAt } from '@vast-surge/core/circuit';
import { printPercent, printQuantity, type UnitId } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import type { LaunchStudy } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import { saveDrawing, tracesCsv } from '../../plot/export.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { useLaunch } from '../../workers/studies.ts';
import { RigDesk } from '../rig-desk.tsx';
import { EnergyFlow } from './energy-flow.tsx';
import { flightPlot, spanOf, timingPlot, tracesOf } from './launch-plots.ts';
import { LaunchSection } from './launch-section.tsx';
import { Energy, Stages } from './launch-tables.tsx';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);

const basis = {
  slug: 'magnetised evenly, with saturation and its own demagnetising field; eddy currents in a solid slug cost speed, and the range beside it includes an estimate of them',
  sleeve:
    'one current along its length and through its wall; its heating is not followed, and current crowding at its edges is left out',
} as const;

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function Headline({ study }: { study: LaunchStudy }) {
  return (
    <p className="text-18">
      {study.muzzle.verdict === 'leaves' ? '' : <b>{sentence(study.muzzle.verdict)}. </b>}
      Muzzle speed <b className="figure text-30">{print(study.exit, 'm/s')}</b>
      {study.exit > 0 && ` (${print(study.range.low, 'm/s')} to ${print(study.range.high, 'm/s')})`}
      {study.muzzle.x !== null &&
        (study.barrel === null
          ? `, ${print(study.muzzle.x, 'm')} from the centre of the first coil, where the force has died away`
          : '')}
      , efficiency <b className="figure">{printPercent(study.efficiency, 2)}</b>
      {study.rises === null ? '' : ', rises another '}
      {study.rises !== null && <b className="figure">{print(study.rises, 'm')}</b>}, peak current{' '}
      <b className="figure">{print(study.peakCurrent, 'A')}</b>.
    </p>
  );
}

function Flight({ study, name }: { study: LaunchStudy; name: string }) {
  const span = useMemo(() => spanOf(study), [study]);
  const [share, setShare] = useState(0.35);
  const now = share * span;
  const traces = useMemo(() => tracesOf(study), [study]);
  const [force, speed] = useMemo(
    () => [flightPlot(study, 'force', span, now), flightPlot(study, 'speed', span, now)],
    [study, span, now],
  );
  const timing = useMemo(() => timingPlot(study), [study]);
  const then = (trace: { readonly t: Float64Array; readonly y: Float64Array }) => traceAt(trace, now);
  const currents = traces.currents.map(then);
  const all = [...traces.currents, traces.force, traces.speed, traces.place, ...traces.stores];
  return (
    <div className="mt-2 grid grid-cols-1 gap-6 lg:grid-cols-[minmax(0,1fr)_410px]">
      <section aria-label="The flight" className="min-w-0">
        <Headline study={study} />
        {study.said.map((text) => (
          <p key={text} role="alert" className="mt-1 border-l-4 border-warning bg-plate p-2 text-15">
            {text}
          </p>
        ))}
        <LaunchSection study={study} x={then(traces.place)} live={currents.map((i) => Math.abs(i) > 1e-3)} />
        <label className="flex items-center gap-3 text-15">
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
        <p className="text-14">
          <span style={{ color: 'var(--current)' }}>current {currents.map((i) => print(i, 'A')).join(', ')}</span>,{' '}
          <span style={{ color: 'var(--select)' }}>force {print(then(traces.force), 'N')}</span>, speed{' '}
          <span className="figure">{print(then(traces.speed), 'm/s')}</span>
        </p>
        <div className="h-[180px]">
          <Chart cursor="launch" spec={force} label="current and force over time" />
        </div>
        <h2 className="font-bold">Speed</h2>
        <div className="h-[140px]">
          <Chart cursor="launch" spec={speed} label="speed over time" />
        </div>
        {timing && (
          <>
            <h2 className="font-bold">Muzzle speed if a coil fires early or late</h2>
            <div className="h-[150px]">
              <Chart spec={timing} label="muzzle speed over the timing error" />
            </div>
          </>
        )}
        <p className="flex gap-2">
          <Button onClick={() => download(`${name}.csv`, tracesCsv(all))}>CSV</Button>
          <Button onClick={() => saveDrawing('launch-section', name)}>Section as SVG</Button>
        </p>
      </section>
      <div className="self-start">
        <section aria-label="Energy budget">
          <EnergyFlow study={study} />
          <Energy study={study} />
        </section>
        <Stages study={study} />
        <p className="mt-3 text-14 text-dim">
          {study.projectile.body.kind === 'slug' ? 'Slug' : 'Sleeve'} of {print(study.projectile.mass, 'kg')},{' '}
          {basis[study.projectile.body.kind]}. Calculated: shoot from outside the guard, into a trap, and measure.
        </p>
      </div>
    </div>
  );
}

function Launch({ id, document }: { id: string; document: RigDocument }) {
  const answer = useLaunch(document.rig);
  const study = answer?.ok ? answer.value : null;
  return (
    <>
      <h1 className="text-20 font-bold">Launch of {document.name}</h1>
      {answer && !study && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          {answer.ok ? `${document.name} has no coilgun stage as its load.` : `It cannot be worked out: ${answer.reason}.`}
        </p>
      )}
      {study && <Flight study={study} name={`${fileName(document.name)}-launch`} />}
      <p className="mt-4 flex flex-wrap gap-x-6">
        {study && (
          <Link className="text-select underline" to={`/rigs/${id}/better`}>
            Find better coils
          </Link>
        )}
      </p>
    </>
  );
}

/** The launch of a slug or sleeve through its coils, instant by instant, and where each joule went. */
export function LaunchView() {
  return (
    <RigDesk whole width="max-w-[1500px]">
      {(document, id) => <Launch id={id} document={document} />}
    </RigDesk>
  );
}
