import { Link } from 'react-router';
import type { RigDocument } from '@vast-surge/core/rig';
import { printFirst, printOutput, printSpan, printTotal, shotsNote, type Matters, type Output } from '@vast-surge/core/study';
import { useMatters } from '../../workers/rig-study.ts';
import { StudyProgress } from './progress.tsx';
import { digitsFor } from './scale.ts';

/** From where to where a number goes, as a bar about its nominal value. */
function Swing({ low, high, from, to, nominal }: { low: number; high: number; from: number; to: number; nominal: number }) {
  const at = (value: number) => (to > from ? (100 * (value - from)) / (to - from) : 50);
  return (
    <svg viewBox="0 0 100 20" preserveAspectRatio="none" aria-hidden className="h-5 w-full">
      <rect x={at(low)} y={3} width={Math.max(0.6, at(high) - at(low))} height={14} fill="var(--select)" />
      <path d={`M${at(nominal)} 0V20`} stroke="var(--ink)" strokeWidth={2} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}

function Heads({ of }: { of: string }) {
  return (
    <thead className="text-14 text-dim">
      <tr className="border-b-2 border-ink">
        <th scope="col" className="py-1 text-left font-normal">
          Field or scatter, and over what
        </th>
        <th scope="col" className="w-[34%] pl-3 text-left font-normal max-sm:hidden">
          Swing of {of}
        </th>
        <th scope="col" className="pl-3 text-right font-normal">
          low end
        </th>
        <th scope="col" className="pl-3 text-right font-normal">
          high end
        </th>
        <th scope="col" className="pl-3 text-right font-normal">
          share of variance
        </th>
        <th scope="col" className="pl-3 text-right font-normal max-md:hidden">
          with interactions
        </th>
      </tr>
    </thead>
  );
}

/** Shares of variance from fewer rows say nothing. */
const leastRows = 16;

function Table({
  document: { rig },
  output,
  matters,
  isSure,
}: {
  document: RigDocument;
  output: Output;
  matters: Matters;
  isSure: boolean;
}) {
  const { swings, shares, nominal } = matters;
  const ends = swings.flatMap(({ atLow, atHigh }) => [atLow, atHigh]).filter(Number.isFinite);
  const [from, to] = [Math.min(nominal, ...ends), Math.max(nominal, ...ends)];
  const digits = digitsFor(nominal, (to - from) / 2);
  return (
    <table className="mt-3 w-full border-collapse text-15 [&_td]:py-1 [&_td]:pl-3">
      <caption className="sr-only">What {output.title} depends on, the widest swing first</caption>
      <Heads of={output.title.charAt(0).toLowerCase() + output.title.slice(1)} />
      <tbody>
        {swings.map(({ index, cause, atLow, atHigh }) => {
          const share = shares[index];
          return (
            <tr key={index} className="border-b border-rule">
              <th scope="row" className="py-1 text-left font-normal">
                {cause.title}
                <span className="figure block text-13 text-dim">{printSpan(rig, cause)}</span>
              </th>
              <td className="max-sm:hidden">
                <Swing low={Math.min(atLow, atHigh)} high={Math.max(atLow, atHigh)} from={from} to={to} nominal={nominal} />
              </td>
              <td className="figure text-right whitespace-nowrap">{printOutput(atLow, output, digits)}</td>
              <td className="figure text-right whitespace-nowrap">{printOutput(atHigh, output, digits)}</td>
              <td className="figure text-right font-bold whitespace-nowrap">{isSure ? printFirst(share) : '…'}</td>
              <td className="figure text-right whitespace-nowrap max-md:hidden">{isSure ? printTotal(share) : '…'}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** What a number depends on: which tolerance to buy tighter. */
export function WhatMatters({ document, output, rigAddress }: { document: RigDocument; output: Output; rigAddress: string }) {
  const soFar = useMatters(document.rig, output.id);
  if (!soFar?.matters) return <StudyProgress progress={soFar?.trouble ? soFar : null} what="rows" />;
  const { matters, done } = soFar;
  const { swings, nominal, mean, deviation } = matters;
  const [most] = swings;
  if (!most)
    return (
      <p role="status" className="border-l-4 border-warning bg-plate p-3">
        No field that {output.title} depends on has a tolerance. Enter one behind a value, such as “5.6 mF ±10 %”, on{' '}
        <Link className="text-select underline" to={rigAddress}>
          the rig page
        </Link>
        .
      </p>
    );
  return (
    <>
      <p className="text-17">
        {output.title} is <b className="figure">{printOutput(nominal, output)}</b>
        {shotsNote(matters) === null ? '' : ' in a shot at the mean'}. <b>{most.cause.title}</b> matters most: over its{' '}
        {most.cause.of === 'field' ? 'tolerance' : 'scatter from shot to shot'} it goes from{' '}
        <b className="figure">{printOutput(Math.min(most.atLow, most.atHigh), output)}</b> to{' '}
        <b className="figure">{printOutput(Math.max(most.atLow, most.atHigh), output)}</b>.
      </p>
      <StudyProgress progress={soFar} what="rows" />
      <Table document={document} output={output} matters={matters} isSure={done > leastRows} />
      <p className="mt-3 max-w-[80ch] text-14 text-dim">
        Swing: one of them at an end, all others nominal. Share of variance: all of them together, each field even within its
        tolerance, by Sobol’s method from {done} rows, with its standard error.{' '}
        {done > leastRows &&
          `The number then has a mean of ${printOutput(mean, output)} and a standard deviation of ${printOutput(deviation, output)}. `}
        Where “with interactions” is well above the share, it acts together with others. {shotsNote(matters)}
      </p>
    </>
  );
}
