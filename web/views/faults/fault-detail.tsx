import { useState } from 'react';
import { FileDown } from 'lucide-react';
import { Link } from 'react-router';
import { slotTitles } from '@vast-surge/core/kind';
import { printDuration, printPercent, printQuantity } from '@vast-surge/core/quantity';
import type { Rig } from '@vast-surge/core/rig';
import { contained, faultLevels, type Fault, type Remedy } from '@vast-surge/core/study';
import { rigReplaced } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Chart } from '../../plot/chart.tsx';
import type { Ink, PlotSpec } from '../../plot/option.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';

/** Voltage on the left, the current of what failed on the right. */
function plotOf({ traces }: Fault): PlotSpec | null {
  if (traces.length === 0) return null;
  const hasVoltage = traces.some(({ unit }) => unit === 'V');
  const hasCurrent = traces.some(({ unit }) => unit === 'A');
  const axis = (unit: string) => (unit === 'V' || !hasVoltage ? 'left' : 'right') as 'left' | 'right';
  return {
    traces: traces.map((trace) => ({ trace, axis: axis(trace.unit), ink: (trace.unit === 'V' ? 'select' : 'current') as Ink })),
    levels: [],
    points: [],
    units: hasVoltage ? { left: 'V', ...(hasCurrent ? { right: 'A' } : {}) } : { left: 'A' },
  };
}

function Trace({ fault }: { fault: Fault }) {
  const spec = plotOf(fault);
  if (!spec) return null;
  return (
    <>
      <div className="h-[190px]">
        <Chart spec={spec} label={`${fault.title}: ${fault.traces.map(({ title }) => title).join(', ')} over time`} />
      </div>
      <p className="flex flex-wrap gap-x-5 text-13">
        {spec.traces.map(({ trace, ink, axis }) => (
          <span key={trace.id} className="flex items-center gap-2" style={{ color: `var(--${ink})` }}>
            <span aria-hidden className="w-5 border-t-[3px]" style={{ borderColor: `var(--${ink})` }} />
            {trace.title}
            {spec.units.right ? ` (${axis})` : ''}
          </span>
        ))}
      </p>
    </>
  );
}

/** What goes into it against what its case contains. */
function Into({ fault }: { fault: Fault }) {
  const { into, withstands, isPerson, strained } = fault;
  return (
    <dl className="mt-2 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-4 text-15">
      {into && (
        <>
          <dt>{isPerson ? 'Through a person' : 'Into what failed'}</dt>
          <dd>
            <b className="figure text-19">
              {printQuantity(into.low, 'J') === printQuantity(into.high, 'J')
                ? printQuantity(into.high, 'J')
                : `${printQuantity(into.low, 'J')} to ${printQuantity(into.high, 'J')}`}
            </b>
            {withstands === null && ', its case is not rated'}
            {typeof withstands === 'number' && (
              <>
                , its case contains <span className="figure">{printQuantity(withstands, 'J')}</span>
              </>
            )}
          </dd>
        </>
      )}
      {strained && (
        <>
          <dt>{strained.title}</dt>
          <dd>
            <b className="figure">{printQuantity(strained.V, 'V')}</b>
            {strained.rating === null ? ', not rated' : ` of ${printQuantity(strained.rating, 'V', { trim: true })}`}
          </dd>
        </>
      )}
      <dt>Store, most</dt>
      <dd className="figure">
        {printQuantity(fault.top, 'V')}
        {fault.reversal > 0.005 && `, reversed by ${printPercent(fault.reversal)}`}
      </dd>
    </dl>
  );
}

const share = (of: number | null): string => (of === null ? 'not rated' : `${printPercent(of)} of its rating`);

function Carried({ fault }: { fault: Fault }) {
  if (fault.carried.length === 0) return null;
  return (
    <table className="mt-3 w-full text-14">
      <caption className="text-left font-bold">What the others carry, each</caption>
      <thead>
        <tr className="text-13 text-dim">
          <th scope="col" className="text-left font-normal">
            most of its block
          </th>
          <th scope="col" className="text-right font-normal">
            peak
          </th>
          <th scope="col" className="text-right font-normal">
            action
          </th>
        </tr>
      </thead>
      <tbody>
        {fault.carried.map(({ slot, says, peak, action, ofPeak, ofAction }) => (
          <tr key={slot} className="border-t border-rule align-top">
            <th scope="row" className="pr-2 text-left font-normal">
              {slotTitles[slot]}: {says}
            </th>
            <td className="pl-3 text-right">
              <span className="figure">{printQuantity(peak, 'A')}</span>
              {ofPeak !== null && <span className="block text-13 text-dim">{share(ofPeak)}</span>}
            </td>
            <td className="pl-3 text-right">
              <span className="figure">{action < 1e-3 ? '–' : printQuantity(action, 'A²s')}</span>
              {ofAction !== null && <span className="block text-13 text-dim">{share(ofAction)}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Left({ fault }: { fault: Fault }) {
  if (fault.left.length === 0) return null;
  return (
    <section aria-label="What a person would meet" className="mt-3">
      <h3 className="font-bold">What a person would meet</h3>
      <ul className="text-15">
        {fault.left.map(({ title, V, E, gone, hazard, headline }) => (
          <li key={title} className="border-t border-rule py-1">
            {title}: <b className="figure">{printQuantity(V, 'V')}</b>
            {E !== null && (
              <>
                , <b className="figure">{printQuantity(E, 'J')}</b>
              </>
            )}
            ; {hazard === 'below' ? headline : `it ${headline}`}.{' '}
            {gone === null
              ? 'Nothing known takes it down: stick, meter, strap.'
              : `Calculated below the goal after ${printDuration(gone)}, worst case: stick, meter, strap all the same.`}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Offer({ remedy, rig }: { remedy: Remedy; rig: Rig }) {
  const dispatch = useAppDispatch();
  const [isIn, setIn] = useState(false);
  const { title, says, not, leaves, costs, sets, kind } = remedy;
  return (
    <li className="border-t border-rule py-1.5">
      <b>{title}.</b> {says} {not !== null && <b>Not here: {not}.</b>}
      {leaves !== null && not === null && (
        <>
          {' '}
          With it at most <b className="figure">{printQuantity(leaves, 'J')}</b> get into what failed.
        </>
      )}
      {costs !== null && not === null && <span className="text-dim"> Costs: {costs}.</span>}
      {(sets.length > 0 || kind) && not === null && (
        <span className="mt-1 flex items-center gap-3">
          <Button
            disabled={isIn}
            onClick={() => {
              dispatch(rigReplaced(contained(rig, remedy)));
              setIn(true);
            }}
          >
            Put it into the rig
          </Button>
          {isIn && <span role="status">It is in the rig; undo takes it out.</span>}
        </span>
      )}
    </li>
  );
}

/** What may come at any moment of a charge: what is left by how far it had come. */
function Moments({ fault }: { fault: Fault }) {
  if (fault.moments.length === 0) return null;
  return (
    <table className="mt-3 w-full text-14">
      <caption className="text-left font-bold">At any moment of the charge</caption>
      <thead>
        <tr className="text-13 text-dim">
          <th scope="col" className="text-left font-normal">
            charged to
          </th>
          {['left', 'stored', 'below the goal, worst case'].map((title) => (
            <th key={title} scope="col" className="pl-3 text-right font-normal">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {fault.moments.map(({ share, V, E, gone, headline }) => (
          <tr key={share} className="border-t border-rule align-top">
            <th scope="row" className="text-left font-normal">
              {printPercent(share)}
              <span className="block text-13 text-dim">{headline}</span>
            </th>
            <td className="figure pl-3 text-right">{printQuantity(V, 'V')}</td>
            <td className="figure pl-3 text-right">{printQuantity(E, 'J')}</td>
            <td className="figure pl-3 text-right">
              {gone === null ? 'never by itself' : gone === 0 ? 'at once' : printDuration(gone)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** One fault with its numbers, its trace, its circuit, and what would contain it. */
export function FaultDetail({ fault, rig, id, name }: { fault: Fault; rig: Rig; id: string; name: string }) {
  return (
    <article aria-label={fault.title}>
      <h2 className="text-18 font-bold max-lg:sr-only">{fault.title}</h2>
      <p className="text-15">
        <b>{faultLevels[fault.level]}.</b> {fault.because}
      </p>
      <p className="text-15">{fault.says}</p>
      <Into fault={fault} />
      <Trace fault={fault} />
      <Left fault={fault} />
      <Moments fault={fault} />
      <Carried fault={fault} />
      <section aria-label="What would contain it" className="mt-3">
        <h3 className="font-bold">What would contain it</h3>
        {fault.remedies.length === 0 ? (
          <p className="text-15">
            Nothing that this program sizes. The{' '}
            <Link to={`/rigs/${id}/run-sheet`} className="underline">
              run sheet
            </Link>{' '}
            has what is done when it happens.
          </p>
        ) : (
          <ul className="text-15">
            {fault.remedies.map((remedy) => (
              <Offer key={`${fault.id} ${remedy.title}`} remedy={remedy} rig={rig} />
            ))}
          </ul>
        )}
      </section>
      <details className="mt-3 text-14">
        <summary className="cursor-pointer font-bold">The circuit with the fault in it</summary>
        <pre className="mt-1 max-h-[260px] overflow-auto border border-rule p-2 text-12" tabIndex={0}>
          {fault.deck}
        </pre>
        <Button onClick={() => download(`${fileName(name)}-${fileName(fault.title)}.cir`, fault.deck)}>
          <FileDown size={16} aria-hidden /> Circuit as text
        </Button>{' '}
        <span className="text-13 text-dim">
          {fault.steps} steps, the energy closes to {fault.closure.toExponential(0)}.
        </span>
      </details>
    </article>
  );
}
