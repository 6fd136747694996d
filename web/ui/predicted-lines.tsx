import { printQuantity } from '@vast-surge/core/quantity';
import type { Rig } from '@vast-surge/core/rig';
import type { Predicted } from '@vast-surge/core/study';
import { usePredictedShot } from '../workers/studies.ts';

/**
 * Peak current, its time and the output as predicted, each with its range and the closed form beside it, and why that is another.
 *
 * @param numbers false where they stand elsewhere on the page
 */
export function PredictedLines({ rig, numbers = true }: { rig: Rig; numbers?: boolean }) {
  const known = usePredictedShot(rig);
  if (!known && !numbers) return null;
  if (!known) return <p className="mt-1 text-14 text-dim">Solving the shot …</p>;
  const { answer, isCurrent } = known;
  if (!answer.ok) return <p className="mt-1 text-14">No shot is predicted: {answer.reason}</p>;
  const { current, time, output, law, starts } = answer.value;
  const rows: readonly (readonly [string, Predicted | null, 'A' | 's' | 'V'])[] = [
    ['Peak current', current, 'A'],
    ['Time to peak', time, 's'],
    ['Output, peak', output, 'V'],
  ];
  const had = rows.filter((row): row is [string, Predicted, 'A' | 's' | 'V'] => row[1] !== null);
  const because = current?.because[0] ?? time?.because[0];
  const other = starts.flatMap(({ from, time: at }) =>
    at === null ? [] : [`${printQuantity(from, 'Ω')}: ${printQuantity(at, 's')}`],
  );
  return (
    <section aria-label="Predicted shot" aria-busy={!isCurrent} className={`mt-2 ${isCurrent ? '' : 'opacity-60'}`}>
      {numbers && (
        <>
          <h2 className="font-bold">Predicted shot, by the solver{isCurrent ? '' : ' …'}</h2>
          <table className="text-15 [&_td+td]:pl-5">
            <tbody>
              {had.map(([title, one, unit]) => (
                <tr key={title} className="border-t border-rule">
                  <th scope="row" className="pr-4 text-left font-normal">
                    {title}
                  </th>
                  <td className="figure text-right text-18 font-bold">{printQuantity(one.value, unit)}</td>
                  <td className="figure whitespace-nowrap">
                    {printQuantity(one.low, unit)} to {printQuantity(one.high, unit)}
                  </td>
                  <td className="text-dim">{one.closed === null ? '' : `closed form ${printQuantity(one.closed, unit)}`}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {because !== undefined && <p className="max-w-[70ch] text-14 text-dim">The closed form leaves out {because}.</p>}
      {law !== null && (
        <p className="max-w-[70ch] text-14 text-dim">
          {law} {other.length > 0 && `Time to peak, counted from another start: ${other.join(', ')}.`}
        </p>
      )}
    </section>
  );
}
