import { printDuration, printPercent, printQuantity, type UnitId } from '@vast-surge/core/quantity';
import type { LaunchStage, LaunchStudy } from '@vast-surge/core/study';
import { timingWords } from './launch-plots.ts';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);
/** A share of the whole; what is next to nothing is not written out. */
const share = (part: number): string => (part !== 0 && Math.abs(part) < 1e-4 ? '< 0.01 %' : printPercent(part, 2));

/** Where each joule went. */
export function Energy({ study }: { study: LaunchStudy }) {
  const { stored, left, field, kinetic, lifted, heat, armature, friction } = study.energy;
  const { kind } = study.projectile.body;
  const rows: readonly (readonly [string, number])[] = [
    [`motion of the ${kind}`, kinetic],
    ...(lifted === 0 ? [] : [['lifting', lifted] as const]),
    [`heat in coil${study.coils.length > 1 ? 's' : ''}, store and switch`, heat],
    ...(armature === 0 ? [] : [[`heat in the ${kind}`, armature] as const]),
    ['friction', friction],
    ['left on the store', left],
    ['left in the field', field],
  ];
  return (
    <table className="w-full text-15 [&_td+td]:pl-3 [&_td+td]:whitespace-nowrap">
      <caption className="text-left font-bold">
        Energy budget, {print(stored, 'J')}
        {study.muzzle.x === null ? '' : ', at the muzzle'}
      </caption>
      <tbody>
        {rows.map(([what, E]) => (
          <tr key={what} className="border-t border-rule">
            <td>{what}</td>
            <td className="figure text-right">{print(E, 'J')}</td>
            <td className="figure text-right">{share(E / stored)}</td>
          </tr>
        ))}
        <tr className="border-t border-rule text-dim">
          <td>unaccounted for</td>
          <td colSpan={2} className="figure text-right">
            {study.run.closure < 1e-4 ? 'below 0.01 %' : printPercent(study.run.closure, 2)}
          </td>
        </tr>
      </tbody>
    </table>
  );
}

const rows: readonly { readonly title: string; of(stage: LaunchStage, study: LaunchStudy, k: number): string }[] = [
  { title: 'fires after', of: ({ fired }) => (fired ? print(fired.t, 's') : 'never') },
  { title: 'slug position', of: ({ fired }) => (fired ? print(fired.x, 'm') : '–') },
  { title: 'peak current', of: ({ peakCurrent }) => print(peakCurrent, 'A') },
  { title: 'speed before', of: ({ fired, before }) => (fired ? print(before, 'm/s') : '–') },
  { title: 'speed after', of: ({ fired, after }) => (fired ? print(after, 'm/s') : '–') },
  { title: 'taken from the store', of: ({ taken }) => print(taken, 'J') },
  { title: 'efficiency', of: ({ fired, efficiency }) => (fired ? printPercent(efficiency, 2) : '–') },
  { title: 'current ends after', of: ({ fired, ends }) => (fired && ends !== null ? print(ends - fired.t, 's') : '–') },
  {
    title: 'slug centred at',
    of: ({ fired, passes }) => (fired && passes !== null ? print(passes - fired.t, 's') : '–'),
  },
  { title: 'capacitor voltage left', of: ({ reversal }, { coils }, k) => print(reversal * (coils[k]?.V0 ?? NaN), 'V') },
  { title: 'temperature rise', of: ({ warmer }) => (warmer < 1e4 ? print(warmer, 'K') : 'it bursts') },
];

/** What each coil did, one to a column. */
export function Stages({ study }: { study: LaunchStudy }) {
  const { stages, coils, recharge, timing } = study;
  return (
    <section aria-label="Coil by coil" className="mt-4">
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Table, coil by coil">
        <table className="w-full text-15 [&_td]:pl-2 [&_td]:whitespace-nowrap">
          <caption className="text-left font-bold">{stages.length > 1 ? 'Coil by coil' : 'The coil'}</caption>
          {stages.length > 1 && (
            <thead>
              <tr>
                <td />
                {stages.map((_, k) => (
                  <th key={k} scope="col" className="text-right">
                    {k + 1}
                  </th>
                ))}
              </tr>
            </thead>
          )}
          <tbody>
            {rows.map(({ title, of }) => (
              <tr key={title} className="border-t border-rule">
                <th scope="row" className="text-left font-normal whitespace-nowrap">
                  {title}
                </th>
                {stages.map((stage, k) => (
                  <td key={k} className="figure text-right">
                    {of(stage, study, k)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {timing &&
        coils.slice(1).map((_, k) => (
          <p key={k} className="mt-1 text-14">
            Coil {k + 2}: {timingWords(study, k + 1)} at the exit.
          </p>
        ))}
      {recharge !== null && (
        <p className="mt-1 text-14">
          Charged again after <b className="figure">{printDuration(recharge)}</b>
          {coils.length > 1 ? `, its ${coils.length} stores one after the other from this supply` : ''}.
        </p>
      )}
    </section>
  );
}
