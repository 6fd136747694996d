import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import type { ShotFileHead, StoredShot } from '@vast-surge/contract';
import { ifKnown, reasonOf, RigReading } from '@vast-surge/core/figure';
import { between, fitCharge, fitDecay, fitRing, NoFit, type Estimate } from '@vast-surge/core/fit';
import { printMargin, type UnitId } from '@vast-surge/core/quantity';
import type { Rig } from '@vast-surge/core/rig';
import { fieldsOfFit, rigAsSet, withMeasured, type TraceFit } from '@vast-surge/core/shot';
import { bleedTraces, chargeTraces, dischargeTraces, type Trace } from '@vast-surge/core/simulate';
import { failureOf, useGetShotFileQuery, useRemoveShotFileMutation } from '../../app/api.ts';
import { Chart } from '../../plot/chart.tsx';
import type { PlotSpec } from '../../plot/option.ts';
import { Button } from '../../ui/button.tsx';
import { MeasuredFields } from './measured-fields.tsx';
import { acceptIntoRig } from './accept-into-rig.ts';
import { fromBase64 } from '../../app/base64.ts';
import { Select } from '../../ui/select.tsx';

type Kind = TraceFit['kind'];
const kindTitles: { readonly [K in Kind]: string } = { ring: 'a discharge', bleed: 'a bleed-down', charge: 'a charge' };

const kinds = Object.keys(kindTitles) as Kind[];

/** What was calculated for such a trace; null where it cannot be. */
const predictedTrace = (rig: Rig, kind: Kind, quantity: 'voltage' | 'current'): Trace | null =>
  ifKnown(() => {
    const id = kind === 'bleed' ? 'bleeder' : quantity === 'current' && kind === 'ring' ? 'current' : 'store-voltage';
    const { traces } = kind === 'ring' ? dischargeTraces(rig) : kind === 'bleed' ? bleedTraces(rig) : chargeTraces(rig);
    return traces.find((t) => t.id === id) ?? null;
  });

/** The fit of a trace, or why there is none. */
function fitted(rig: Rig, kind: Kind, measured: { t: Float64Array; y: Float64Array }): TraceFit | string {
  try {
    const reading = new RigReading(rig);
    if (kind === 'bleed') return { kind, fit: fitDecay(measured) };
    if (kind === 'charge')
      return {
        kind,
        fit: fitCharge(measured, { C: reading.figure('bank-capacitance').value, Vs: reading.offer('sourceVoltage').value }),
      };
    return {
      kind,
      fit: fitRing(measured, { C: reading.figure('loop-capacitance').value, V: reading.figure('discharge-voltage').value }),
    };
  } catch (error) {
    const reason = error instanceof NoFit ? error.message : reasonOf(error)?.reason;
    if (reason === undefined) throw error;
    return reason;
  }
}

const said = (title: string, e: Estimate | null, unit: UnitId): string | null =>
  e === null ? null : `${title} ${printMargin(e.value, e.margin, unit)}`;

const fitWords = ({ kind, fit }: TraceFit): string =>
  (kind === 'bleed'
    ? [said('RC', fit.tau, 's'), said('from', fit.start, 'V'), said('to', fit.rest, 'V')]
    : kind === 'charge'
      ? [
          said('R', fit.R, 'Ω'),
          said('comes to', fit.reach, 'V'),
          fit.leakage ? said('leakage', fit.leakage, 'Ω') : 'no measurable leakage',
        ]
      : [said('R', fit.R, 'Ω'), said('L', fit.L, 'H'), said('C', fit.C, 'F')]
  )
    .filter((w) => w !== null)
    .join(', ');

function Fit({ shot, rig, fit }: { shot: StoredShot; rig: Rig; fit: TraceFit | string }) {
  const [done, setDone] = useState<string | null>(null);
  if (typeof fit === 'string') return <p className="mt-1">No fit: {fit}.</p>;
  const fields = fieldsOfFit(rig, fit);
  const good = fields.filter((f) => f.refused === null);
  const accept = async () => {
    try {
      setDone(
        await acceptIntoRig(shot.rigId, (now) => withMeasured(now, good), `measured: shot of ${shot.shot.at.slice(0, 10)}`),
      );
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  return (
    <div className="mt-1">
      <p>
        <b>Fit, 95 %:</b> <span className="figure">{fitWords(fit)}</span>
        {fit.fit.clipped > 0 && `; ${fit.fit.clipped} clipped samples were left out`}
      </p>
      <MeasuredFields rig={rig} fields={fields} />
      {done !== null ? (
        <p role="status" className="font-bold">
          {done}
        </p>
      ) : (
        good.length > 0 && (
          <Button className="mt-1" onClick={() => void accept()}>
            Use as measured, in a new revision
          </Button>
        )
      )}
    </div>
  );
}

/** One oscilloscope trace over what was calculated, and what fits it. */
export function TracePanel({ shot, rig, file }: { shot: StoredShot; rig: Rig | null; file: ShotFileHead }) {
  const { data, error } = useGetShotFileQuery(file.id);
  const [remove] = useRemoveShotFileMutation();
  const [picked, setPicked] = useState(0);
  const [kindPick, setKind] = useState<Kind | null>(null);
  const [span, setSpan] = useState<{ from: number; to: number } | null>(null);
  const asSet = useMemo(() => (rig ? rigAsSet(rig, shot.shot.set) : null), [rig, shot.shot.set]);
  const content = data?.kind === 'trace' ? data.content : null;
  const channel = content?.channels[picked] ?? content?.channels[0];
  const decoded = useMemo(
    () =>
      channel && {
        drawn: { t: fromBase64(channel.t), y: fromBase64(channel.y) },
        mean: { t: fromBase64(channel.meanT), y: fromBase64(channel.meanY) },
      },
    [channel],
  );
  const kind: Kind = kindPick ?? (channel?.quantity === 'current' ? 'ring' : 'bleed');
  const measured = useMemo(() => decoded && (span ? between(decoded.mean, span.from, span.to) : decoded.mean), [decoded, span]);
  const fit = useMemo(() => (asSet && measured ? fitted(asSet, kind, measured) : null), [asSet, kind, measured]);
  if (error) return <p role="alert">{failureOf(error).message}</p>;
  if (!content || !channel || !decoded || !measured) return <p className="text-dim">Fetching {file.name} …</p>;
  const unit: UnitId = channel.quantity === 'current' ? 'A' : 'V';
  const calculated = asSet ? predictedTrace(asSet, kind, channel.quantity) : null;
  // The scope begins before the shot: what is calculated is laid where the fit finds its beginning.
  const begins = fit !== null && typeof fit !== 'string' && fit.kind === 'ring' ? fit.fit.begins : 0;
  const predicted = calculated && { ...calculated, t: calculated.t.map((x) => x + begins) };
  const trace: Trace = { id: 'measured', title: channel.name, unit, ...decoded.drawn };
  const spec: PlotSpec = {
    traces: [
      { trace, axis: 'left', ink: 'select' },
      ...(predicted
        ? [
            {
              trace: { ...predicted, id: 'predicted', title: 'calculated' },
              axis: 'left' as const,
              ink: 'ink' as const,
              dash: true,
            },
          ]
        : []),
    ],
    levels: [],
    points: [],
    units: { left: unit },
    ...(span ? { window: span } : {}),
  };
  return (
    <section aria-label={file.name} className="mt-4 border-t-2 border-ink pt-2">
      <div className="flex flex-wrap items-center gap-3">
        <h3 className="mr-auto font-bold">
          {file.name} <span className="font-normal text-dim">{content.samples.toLocaleString('en-GB')} samples</span>
        </h3>
        {content.channels.length > 1 && (
          <Select aria-label="Channel" value={picked} onChange={(e) => setPicked(Number(e.target.value))}>
            {content.channels.map((c, i) => (
              <option key={`${i} ${c.name}`} value={i}>
                {c.name}
              </option>
            ))}
          </Select>
        )}
        <label className="flex items-center gap-2">
          It shows
          <Select value={kind} onChange={(e) => setKind(kinds.find((k) => k === e.target.value) ?? kind)}>
            {kinds.map((k) => (
              <option key={k} value={k}>
                {kindTitles[k]}
              </option>
            ))}
          </Select>
        </label>
        {span && <Button onClick={() => setSpan(null)}>All of it</Button>}
        <Button look="quiet" onClick={() => void remove(file.id)}>
          Remove
        </Button>
      </div>
      {content.said.map((s) => (
        <p key={s} className="mt-1 border-l-4 border-warning pl-2">
          {s}
        </p>
      ))}
      <div className="mt-1 h-[260px]">
        <Chart
          spec={spec}
          label={`${file.name} over what was calculated`}
          onWindow={(from, to) => to > from && setSpan({ from, to })}
        />
      </div>
      <p className="text-14 text-dim">
        — {channel.name} {predicted && '· – – calculated'} · drag over a stretch to fit it alone
      </p>
      {asSet && fit !== null && <Fit shot={shot} rig={asSet} fit={fit} />}
    </section>
  );
}
