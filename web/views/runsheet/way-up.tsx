import { printQuantity } from '@vast-surge/core/quantity';
import { rungPrint, rungSays, type Rung, type RungNumber } from '@vast-surge/core/runsheet';
import { useErects } from '../../workers/studies.ts';
import { WorkedNumber } from '../../ui/worked-number.tsx';

/** A number of a rung with its working, and its worst corner under it. */
function Cell({ title, rung, of }: { title: string; rung: Rung; of: RungNumber | null }) {
  if (of === null) return <td className="py-1 pr-4 text-right">not known</td>;
  return (
    <td className="figure py-1 pr-4 text-right whitespace-nowrap">
      <WorkedNumber
        title={`${title} at ${printQuantity(rung.voltage, 'V')}`}
        printed={rungPrint(of.worked, of.worked.value)}
        worked={of.worked}
        rig={rung.rig}
        className="!text-right"
      />
      <span className="block text-13 text-dim">{rungPrint(of.worked, of.worst)}</span>
    </td>
  );
}

/** The voltages to stop at with a new or changed rig, and what is calculated for each. */
export function WayUp({ rungs }: { rungs: readonly Rung[] }) {
  const erects = useErects(rungs);
  const current = rungs[0]?.currentTitle ?? 'Peak current';
  const titles = ['Stop at', 'Stored', 'Charged after', current, 'Stick on for', 'The switch'];
  return (
    <section className="mt-5 break-inside-avoid">
      <h2 className="text-17 font-bold">The way up, on a new or changed rig</h2>
      <p className="text-dim">
        Stop at each voltage, fire or bleed, compare with what stands here, change one thing at a time. A number that is far off
        means a rig that is not the one calculated: do not go higher. Below each number is its worst case: leave the stick on for
        that long.
      </p>
      <div className="overflow-x-auto">
        <table className="mt-1 w-full text-left print:text-[10pt]">
          <thead className="text-13 text-dim">
            <tr>
              {titles.map((title, i) => (
                <th key={title} scope="col" className={`py-1 pr-4 font-normal ${i < 5 ? 'text-right' : ''}`}>
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rungs.map((r, i) => (
              <tr key={r.share} className="border-t border-rule align-top">
                <th scope="row" className="figure py-1.5 pr-4 text-right font-bold whitespace-nowrap">
                  {printQuantity(r.voltage, 'V')}
                </th>
                <Cell title="Stored" rung={r} of={r.energy} />
                <Cell title="Charged after" rung={r} of={r.chargeTime} />
                {r.fires ? (
                  <Cell title={current} rung={r} of={r.peakCurrent} />
                ) : (
                  <td className="py-1.5 pr-4 text-right">none</td>
                )}
                <Cell title="Stick on for" rung={r} of={r.toolTime} />
                <td className="py-1.5">{rungSays(r, erects[i] ?? null)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
