import type { ReactNode } from 'react';
import { printOutput, type Output, type Spread } from '@vast-surge/core/study';
import { Select } from '../../ui/select.tsx';
import { Histogram } from './histogram.tsx';
import { digitsFor } from './scale.ts';

/** What shares of the samples lie below, each with its confidence. */
function Percentiles({ output, spread }: { output: Output; spread: Spread }) {
  const digits = digitsFor(spread.mean, spread.deviation);
  return (
    <table className="text-15 [&_td]:pl-4">
      <caption className="sr-only">Percentiles of {output.title}</caption>
      <thead className="text-14 text-dim">
        <tr>
          <th scope="col" className="text-left font-normal">
            of samples below
          </th>
          <th scope="col" className="pl-4 text-right font-normal">
            value
          </th>
          <th scope="col" className="pl-4 text-right font-normal">
            95 % confidence
          </th>
        </tr>
      </thead>
      <tbody>
        {spread.percentiles.map(({ share, value, low, high }) => (
          <tr key={share} className="border-t border-rule">
            <th scope="row" className="figure text-left font-normal">
              {Math.round(100 * share)} %
            </th>
            <td className="figure text-right font-bold">{printOutput(value, output, digits)}</td>
            <td className="figure text-right">
              {printOutput(low, output, digits)} to {printOutput(high, output, digits)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Which of several figures is shown. */
export function FigureShown({
  titles,
  value,
  onChange,
}: {
  titles: readonly string[];
  value: number;
  onChange: (k: number) => void;
}) {
  if (titles.length < 2) return null;
  return (
    <Select className="mb-2" aria-label="Figure shown" value={value} onChange={(event) => onChange(Number(event.target.value))}>
      {titles.map((title, k) => (
        <option key={title} value={k}>
          {title}
        </option>
      ))}
    </Select>
  );
}

/** How the samples of an output lie: mean, histogram and percentiles. */
export function SpreadShown({
  id,
  output,
  spread,
  note,
  below,
  beside,
}: {
  id: string;
  output: Output;
  spread: Spread;
  /** Behind the deviation. */
  note: string;
  below?: ReactNode;
  beside?: ReactNode;
}) {
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
      <div className="min-w-0">
        <p className="text-17">
          {output.title}: mean{' '}
          <b className="figure whitespace-nowrap">{printOutput(spread.mean, output, digitsFor(spread.mean, spread.deviation))}</b>
          , standard deviation <b className="figure whitespace-nowrap">{printOutput(spread.deviation, output)}</b>
          {note}
        </p>
        <Histogram id={id} output={output} spread={spread} />
        {below}
      </div>
      <div className="min-w-0">
        <Percentiles output={output} spread={spread} />
        {beside}
      </div>
    </div>
  );
}
