import { TriangleAlert } from 'lucide-react';
import type { StoredRun } from '@vast-surge/contract';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';
import type { Deviation, Expected, PlanStep } from '@vast-surge/core/run';
import { RunCurve } from './run-curve.tsx';
import type { Shown } from './use-meter.ts';
import type { Running } from './use-run.ts';

interface Cell {
  readonly label: string;
  readonly value: string;
  /** Under the number, in small. */
  readonly beside?: string;
  readonly isBoxed?: boolean;
}

/** A number as large as its cell lets it be, and never cut off. */
function Big({ label, value, beside, isBoxed = false }: Cell) {
  return (
    <div className="@container min-w-0">
      <dt className="truncate text-15 text-dim lg:text-17">{label}</dt>
      <dd className={isBoxed ? 'border-2 border-select bg-plate px-1 lg:px-2' : ''}>
        <span
          className="figure block leading-[1.15] font-bold tracking-tight whitespace-nowrap"
          style={{ fontSize: `min(4rem, ${(150 / Math.max(5, value.length)).toFixed(1)}cqi)` }}
        >
          {value}
        </span>
        {beside !== undefined && <span className="block text-15 text-dim lg:text-17">{beside}</span>}
      </dd>
    </div>
  );
}

const volts = (value: number): string => printQuantity(value, 'V');

/** What is expected now, and the same at its worst beside it. */
function expectedCell(step: PlanStep, along: Expected | null): Cell | null {
  if (along) {
    const since = printDuration(Math.floor(along.seconds));
    // What a shot left is less: as if it had not discharged the store, which nobody knows before a reading.
    const full = along.hasFired ? 'from full charge, ' : '';
    return {
      label: `Expected after ${since}`,
      value: volts(along.volts),
      ...(along.worst === null ? {} : { beside: `${full}worst case ${volts(along.worst)}` }),
    };
  }
  const { below, expected } = step.reading ?? { below: null, expected: null };
  if (below) return { label: 'Expected', value: `< ${printQuantity(below, 'V', { trim: true })}` };
  return expected ? { label: 'Expected', value: volts(expected) } : null;
}

function cellsOf(step: PlanStep, running: Running, shown: Shown, along: Expected | null, left: number): Cell[] {
  const { reading, reads, acts } = running.state;
  const expected = expectedCell(step, along);
  const meter = shown.isOver ? 'above range' : shown.value === null ? null : volts(shown.value);
  return [
    ...(expected ? [expected] : []),
    ...(meter === null ? [] : [{ label: 'Meter shows', value: meter }]),
    ...(reading ? [{ label: `Read by ${reads ?? acts}`, value: volts(reading.value), isBoxed: true }] : []),
    ...(step.wait === undefined
      ? []
      : [{ label: left > 0 ? 'Still to wait' : 'Waited', value: printDuration(left > 0 ? Math.ceil(left) : step.wait) }]),
  ];
}

/** What is wrong, where the eye is: between the numbers and the curve. */
function DeviationBand({ deviation }: { deviation: Deviation }) {
  return (
    <p role="alert" className="mt-2 flex items-start gap-3 bg-warning px-3 py-2 text-18 leading-snug text-on-warning lg:text-24">
      <TriangleAlert size={28} className="mt-0.5 shrink-0" aria-hidden />
      <span>
        <b>{deviation.what}</b> {deviation.act}
      </span>
    </p>
  );
}

interface Props {
  readonly run: StoredRun;
  readonly step: PlanStep;
  readonly running: Running;
  readonly shown: Shown;
  readonly along: Expected | null;
  readonly deviation: Deviation | null;
  /** s still to wait. */
  readonly left: number;
}

/** The numbers of a step: expected, shown, taken, and how long still to wait; what they say, and the curve they lie on. */
export function RunNumbers({ run, step, running, shown, along, deviation, left }: Props) {
  const cells = cellsOf(step, running, shown, along, left);
  return (
    <>
      {cells.length > 0 && (
        <dl className="mt-3 grid grid-cols-2 gap-x-4 gap-y-2 border-t-2 border-ink pt-2 lg:grid-cols-[repeat(auto-fit,minmax(15rem,1fr))] lg:gap-x-8">
          {cells.map((cell) => (
            <Big key={cell.label} {...cell} />
          ))}
        </dl>
      )}
      {deviation && <DeviationBand deviation={deviation} />}
      {shown.trouble !== null && <p className="mt-1 font-bold">The meter is not read: {shown.trouble} Read it yourself.</p>}
      {along && <RunCurve along={along} goal={run.plan.numbers} read={shown.value ?? running.state.reading?.value ?? null} />}
    </>
  );
}
