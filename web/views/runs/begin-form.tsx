import { useState } from 'react';
import { TriangleAlert } from 'lucide-react';
import { initialsSchema, type PinCheck, type RunPlan } from '@vast-surge/core/run';
import { newPin, PinField, pinIssue } from './hold-pin.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** One field for the letters of a person. */
function Initials({
  label,
  value,
  bad,
  onChange,
}: {
  label: string;
  value: string;
  bad: boolean;
  onChange: (text: string) => void;
}) {
  return (
    <label className="block text-19">
      {label}
      <input
        className={`figure mt-1 block w-36 border-2 bg-plate px-3 py-2 text-26 uppercase ${bad ? 'border-over' : 'border-ink'}`}
        maxLength={4}
        autoComplete="off"
        aria-invalid={bad}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

interface Props {
  readonly plan: RunPlan;
  readonly onBegin: (who: { acts: string; reads: string | null; pin?: PinCheck }) => void;
}

function WhatItIs({ plan }: { plan: RunPlan }) {
  return (
    <>
      <ul className="mt-3 border-2 border-ink p-3 text-18">
        {plan.summary.map((line, i) => (
          <li key={line} className={i === 0 ? 'text-20 font-bold' : ''}>
            {line}
          </li>
        ))}
      </ul>
      {plan.stops.length > 0 && (
        <p role="alert" className="mt-3 flex gap-2 border-2 border-over p-3 text-18">
          <TriangleAlert aria-hidden className="shrink-0" /> To be rehearsed only: {plan.stops.join(' ')}
        </p>
      )}
    </>
  );
}

/** Before a run begins: what the rig can do to a person, and who runs it. */
export function BeginForm({ plan, onBegin }: Props) {
  const [acts, setActs] = useState('');
  const [reads, setReads] = useState('');
  const [pin, setPin] = useState('');
  const [tried, setTried] = useState(false);
  const isTwo = plan.people === 'two';
  const badActs = !initialsSchema.safeParse(acts).success;
  const badReads =
    isTwo && (!initialsSchema.safeParse(reads).success || reads.trim().toUpperCase() === acts.trim().toUpperCase());
  const badPin = isTwo ? pinIssue(pin) : null;
  const begin = () => {
    setTried(true);
    if (badActs || badReads || badPin !== null) return;
    const first = acts.trim().toUpperCase();
    onBegin(isTwo ? { acts: first, reads: reads.trim().toUpperCase(), pin: newPin(pin) } : { acts: first, reads: null });
  };
  return (
    <form
      className="max-w-[60rem]"
      onSubmit={(event) => {
        event.preventDefault();
        begin();
      }}
    >
      <h1 className="text-40 leading-tight font-bold">Run of {plan.rigName}</h1>
      <WhatItIs plan={plan} />
      <div className="mt-4 flex flex-wrap gap-6">
        <Initials label={isTwo ? 'Key holder, who acts' : 'Who runs it'} value={acts} bad={tried && badActs} onChange={setActs} />
        {isTwo && <Initials label="Reader" value={reads} bad={tried && badReads} onChange={setReads} />}
        {isTwo && <PinField label="PIN of the reader" value={pin} bad={tried && badPin !== null} onChange={setPin} />}
      </div>
      {isTwo && (
        <p className="mt-1 max-w-[44rem] text-16 text-dim">
          The reader chooses the PIN, keeps it from the key holder, and types it at every hold point.
        </p>
      )}
      <TroubleLine look="words" className="mt-2 text-18">
        {tried && (badActs || badReads)
          ? `One to four letters or digits each${isTwo ? ', and two different people' : ''}.`
          : null}
      </TroubleLine>
      <TroubleLine look="words" className="mt-2 text-18">
        {tried ? badPin : null}
      </TroubleLine>
      <button type="submit" className="mt-5 border-[3px] border-ink bg-ink px-8 py-3 text-24 font-bold text-plate">
        Begin
      </button>
    </form>
  );
}
