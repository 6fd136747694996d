import { useState } from 'react';
import { Link } from 'react-router';
import type { StoredPart } from '@vast-surge/contract';
import { measuredOf, partKind, readingIssue, verifiedBelow, type Measure } from '@vast-surge/core/part';
import { midSentence } from '@vast-surge/core/rig';
import { Button } from '../../ui/button.tsx';
import { addReading, type Held } from './bench-hand.ts';
import { Entry, HandFields, knownOf, unitOf } from './reading-entry.tsx';
import { short, signedPercent } from './words.tsx';

/** One measure of many parts in a row, once every one of them is discharged and verified. */
export function InARow({ parts, measure, held }: { parts: readonly StoredPart[]; measure: Measure; held: Held }) {
  const [at, setAt] = useState(0);
  const [highest, setHighest] = useState<number | null>(null);
  const charge = parts.some((p) => partKind(p.part.kind).holdsCharge);
  const stored = parts[at];
  if (charge && highest === null)
    return (
      <div className="mt-4 max-w-[44rem]">
        <h2 className="text-28 leading-tight font-bold">First all {parts.length}: discharge, then verify</h2>
        <p className="mt-1 text-18">
          Each one through a soft discharge stick, terminal by terminal and to the case, then a strap. Strap off one at a time, a
          meter rated for its voltage between every two terminals and to the case. Type the highest reading of all; each must stay
          below {short(verifiedBelow, 'V')}.
        </p>
        <Entry
          label="Highest voltage found"
          unit="V"
          unitHint={held.units['verify'] ?? ''}
          onUnit={(unit) => held.setUnit('verify', unit)}
          onValue={(volts) => {
            if (Math.abs(volts) >= verifiedBelow)
              return `${short(volts, 'V')} is still on one of them, and it must be below ${short(verifiedBelow, 'V')}: discharge it, find out why, and verify all of them again`;
            setHighest(volts);
            return null;
          }}
        />
      </div>
    );
  if (!stored)
    return (
      <div className="mt-4">
        <h2 className="text-28 font-bold">All {parts.length} are read</h2>
        {charge && <p className="text-18">Strap each before you put it away.</p>}
        <Link className="mt-3 inline-block border border-ink bg-ink px-4 py-2 font-bold text-plate" to="/parts">
          Back to the shelf
        </Link>
      </div>
    );
  const last = measuredOf(stored.part, measure.id);
  return (
    <div className="mt-4">
      <h2 className="text-28 leading-tight font-bold">
        <span className="figure">{stored.part.tag}</span>: {midSentence(measure.title)}
      </h2>
      <p className="text-18">
        {at + 1} of {parts.length}. {stored.part.name}
        {last && `, so far ${short(last.mean, measure.unit)}`}
      </p>
      <Entry
        key={at}
        label={`${measure.title} of ${stored.part.tag}`}
        unit={measure.unit}
        unitHint={held.units[measure.id] ?? unitOf(knownOf(stored, measure), measure.unit)}
        onUnit={(unit) => held.setUnit(measure.id, unit)}
        onValue={(value) => {
          const issue = readingIssue(stored.part.kind, measure.id, value);
          if (issue !== null) return issue;
          const refused = addReading(stored, measure, 1, value, held);
          if (refused === null) setAt(at + 1);
          return refused;
        }}
      />
      <HandFields measure={measure} held={held} />
      <div className="mt-3 flex gap-2">
        <Button disabled={at === 0} onClick={() => setAt(at - 1)}>
          Back to {parts[at - 1]?.part.tag ?? 'the one before'}
        </Button>
        <Button onClick={() => setAt(at + 1)}>Leave {stored.part.tag} out</Button>
      </div>
      <ol className="mt-4 flex flex-wrap gap-1 text-13">
        {parts.map((p, i) => {
          const m = measuredOf(p.part, measure.id);
          return (
            <li
              key={p.id}
              className={`border px-2 py-0.5 ${i === at ? 'border-ink bg-ink text-plate' : 'border-rule'}`}
              aria-current={i === at ? 'step' : undefined}
            >
              <b className="figure">{p.part.tag}</b>
              {m && (
                <>
                  {' '}
                  <span className="figure">{short(m.mean, measure.unit)}</span>
                  {m.fromLabel !== null && ` ${signedPercent(m.fromLabel)}`}
                </>
              )}
            </li>
          );
        })}
      </ol>
    </div>
  );
}
