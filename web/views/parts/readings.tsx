import { useState } from 'react';
import { format } from 'date-fns';
import type { StoredPart } from '@vast-surge/contract';
import {
  elementsOf,
  elementTitle,
  elementValues,
  measuredOf,
  partKind,
  underUnits,
  type Measure,
  type MeterReading,
} from '@vast-surge/core/part';
import { printQuantity } from '@vast-surge/core/quantity';
import { writeBench } from '../../app/bench.ts';
import { short, signedPercent } from './words.tsx';

function underWords(measure: Measure, reading: MeterReading): string {
  if (reading.under === null || measure.at === undefined) return '';
  return ` at ${short(reading.under, underUnits[measure.at])}`;
}

function ReadingLine({ stored, measure, index }: { stored: StoredPart; measure: Measure; index: number }) {
  const reading = stored.part.readings[index];
  if (!reading) return null;
  const struck = reading.struck === true;
  const between = elementTitle(stored.part, reading.element);
  const element = elementsOf(stored.part) > 1 ? (between ?? `element ${reading.element}`) : null;
  return (
    <li className="flex items-baseline gap-2 text-13">
      <span className={`figure w-[76px] shrink-0 ${struck ? 'text-dim line-through' : ''}`}>
        {short(reading.value, measure.unit)}
      </span>
      <span className="min-w-0 flex-1 text-dim">
        {element && `${element}, `}
        {format(new Date(reading.at), 'd MMM yyyy HH:mm')}
        {underWords(measure, reading)}
        {reading.instrument && `, ${reading.instrument}`}
        {reading.by && `, ${reading.by}`}
      </span>
      <button
        type="button"
        className="shrink-0 text-select underline"
        aria-label={`${struck ? 'Count again' : 'Strike out'} the reading ${short(reading.value, measure.unit)} of ${measure.title}`}
        onClick={() => writeBench({ do: 'strike', id: stored.id, index, struck: !struck })}
      >
        {struck ? 'count' : 'strike'}
      </button>
    </li>
  );
}

function MeasureBlock({ stored, measure }: { stored: StoredPart; measure: Measure }) {
  const [open, setOpen] = useState(false);
  const { part } = stored;
  const found = measuredOf(part, measure.id);
  const indices = part.readings.flatMap((r, i) => (r.measure === measure.id ? [i] : []));
  if (indices.length === 0) return null;
  const elements = measure.perElement && elementsOf(part) > 1 ? elementValues(part, measure.id) : [];
  return (
    <li className="border-b border-rule py-1.5">
      <button
        type="button"
        className="grid w-full grid-cols-[132px_minmax(0,1fr)] gap-2 text-left"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span className="leading-tight">{measure.title}</span>
        <span>
          {found ? (
            <>
              <b className="figure text-17">{short(found.mean, measure.unit)}</b>
              {found.fromLabel !== null && <span className="ml-2">{signedPercent(found.fromLabel)} from label</span>}
              <span className="block text-13 text-dim">
                mean of {found.count === 1 ? '1 reading' : `${found.count} readings`}
                {found.count > 1 &&
                  `, standard deviation ${printQuantity(found.spread, measure.unit, { digits: 2, trim: true })}`}
              </span>
            </>
          ) : (
            <span className="text-dim">all readings are struck out</span>
          )}
          {elements.length > 1 && (
            <span className="figure block text-13 text-dim">
              elements {elements.map((v) => short(v, measure.unit)).join(' · ')}
            </span>
          )}
        </span>
      </button>
      {open && (
        <ul className="mt-1 space-y-0.5 border-l-2 border-rule pl-2">
          {indices.map((index) => (
            <ReadingLine key={index} stored={stored} measure={measure} index={index} />
          ))}
        </ul>
      )}
    </li>
  );
}

/** What was measured on a part: mean, spread and difference from the label, and behind a click every reading. */
export function Readings({ stored }: { stored: StoredPart }) {
  const { measures } = partKind(stored.part.kind);
  if (stored.part.readings.length === 0) return <p className="border-b border-rule py-1.5 text-dim">Nothing measured yet.</p>;
  return (
    <ul>
      {measures.map((measure) => (
        <MeasureBlock key={measure.id} stored={stored} measure={measure} />
      ))}
    </ul>
  );
}
