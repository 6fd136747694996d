import { format } from 'date-fns';
import type { StoredShot } from '@vast-surge/contract';
import { printFixed, printPercent, printQuantity } from '@vast-surge/core/quantity';
import type { Rig } from '@vast-surge/core/rig';
import { calibratedTitle, calibrationsOf, causeOf, measures, ratesOf, type Calibration, type Rate } from '@vast-surge/core/shot';
import { FieldsLearnt } from './fields-learnt.tsx';
import { mostPooled, usePool } from './use-pool.ts';

const share = (rate: Rate): string =>
  `${rate.came} of ${rate.of} (90 %: ${printPercent(rate.low, 2)} to ${printPercent(rate.high, 2)})`;

function Row({ found, calculated }: { found: Calibration; calculated: number | undefined }) {
  const { unit, title } = measures[found.measure];
  const { bias, next, scatter, scored } = found;
  const print = (value: number) => printQuantity(value, unit);
  const inside = scored.filter(({ isInside }) => isInside).length;
  return (
    <tr className="border-t border-rule align-baseline">
      <th scope="row" className="py-1 pr-4 text-left font-normal">
        {title}
      </th>
      <td className="pr-4">
        {calculated === undefined ? (
          '–'
        ) : (
          <>
            <b className="figure text-19 whitespace-nowrap">{print(calculated * next.middle)}</b>{' '}
            <span className="figure whitespace-nowrap text-dim">
              {print(calculated * next.low)} to {print(calculated * next.high)}
            </span>
          </>
        )}
      </td>
      <td className="figure pr-4 whitespace-nowrap">{calculated === undefined ? '–' : print(calculated)}</td>
      <td className="figure pr-4 whitespace-nowrap">
        {printFixed(bias.middle, 3)}{' '}
        <span className="text-dim">{`${printFixed(bias.low, 3)} to ${printFixed(bias.high, 3)}`}</span>
      </td>
      <td className="figure pr-4 whitespace-nowrap">{printPercent(scatter, 2)}</td>
      <td className="figure whitespace-nowrap">
        {inside} of {scored.length}
      </td>
    </tr>
  );
}

/** What the next shot is expected to be, from the calculation and from how far it was off in the shots before. */
export function Learned({ rigId, rig, shots }: { rigId: string; rig: Rig; shots: readonly StoredShot[] }) {
  const pool = usePool(rig, shots);
  if (pool === null) return null;
  const { shots: pooled, calculated, now, reason } = pool;
  const rates = ratesOf(pooled.map(({ shot }) => shot));
  const left = shots.length - pooled.length;
  const found = calculated ? calibrationsOf(pooled.map(({ shot }, i) => ({ shot, predicted: calculated[i] ?? {} }))) : [];
  const drifting = found.flatMap(({ measure, drift }) => (drift ? [{ measure, drift }] : []));
  const cause = causeOf(found);
  const aside = found.flatMap(({ measure, misread }) => misread.map((one) => ({ measure, ...one })));
  return (
    <section aria-label="Expected of the next shot" className="mt-2">
      {found.length > 0 && (
        <div className="overflow-x-auto">
          <table className="text-15">
            <caption className="text-left font-bold">The next shot, as this rig is set</caption>
            <thead>
              <tr className="text-left text-13 text-dim">
                <th scope="col" className="pr-4 font-normal">
                  <span className="sr-only">Measure</span>
                </th>
                <th scope="col" className="pr-4 font-normal">
                  Expected, and 90 % band
                </th>
                <th scope="col" className="pr-4 font-normal">
                  Calculated
                </th>
                <th scope="col" className="pr-4 font-normal">
                  Measured over calculated, 90 %
                </th>
                <th scope="col" className="pr-4 font-normal">
                  Scatter
                </th>
                <th scope="col" className="font-normal">
                  Inside the band told before
                </th>
              </tr>
            </thead>
            <tbody>
              {found.map((one) => (
                <Row key={one.measure} found={one} calculated={now?.[one.measure]} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {calculated === null && reason === null && <p className="text-dim">Calculating the shots as they were set …</p>}
      {reason !== null && <p>Nothing is learned from the shots: {reason}.</p>}
      {drifting.length > 0 && (
        <p role="alert" className="mt-1 border-l-4 border-warning pl-2">
          <b>The rig has changed.</b>{' '}
          {drifting
            .map(
              ({ measure, drift }) =>
                `The last ${drift.shots} shots have ${printFixed(drift.factor, 2)} times the ${calibratedTitle(measure)} that the ones before lead to expect`,
            )
            .join('; ')}
          .{' '}
          {cause !== null &&
            `Likely: ${cause.charAt(0).toLowerCase()}${cause.slice(1)} Common practice, no source: look, with the strap on.`}
        </p>
      )}
      {aside.length > 0 && (
        <p className="mt-1">
          Not counted, far from all others:{' '}
          {aside
            .map(
              ({ measure, at, measured }) =>
                `${printQuantity(measured, measures[measure].unit)} on ${format(new Date(at), 'd MMM, HH:mm')}`,
            )
            .join('; ')}
          . Read again what was written down.
        </p>
      )}
      {rates && (
        <p className="mt-1">
          Misfires: <span className="figure">{share(rates.misfire)}</span>; pre-fires:{' '}
          <span className="figure">{share(rates.preFire)}</span>.
        </p>
      )}
      <FieldsLearnt rigId={rigId} rig={rig} found={found} />
      {left > 0 && (
        <p className="text-14 text-dim">
          {left} {left === 1 ? 'shot is' : 'shots are'} not counted here: since then more than settings and measured values has
          changed in what carries the shot{left > shots.length - mostPooled ? '' : `, or they lie before the last ${mostPooled}`}.
        </p>
      )}
    </section>
  );
}
