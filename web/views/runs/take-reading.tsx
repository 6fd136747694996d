import { useId, useState } from 'react';
import { printQuantity } from '@vast-surge/core/quantity';
import { isFarFrom, type PlanStep, type RunPlan } from '@vast-surge/core/run';
import { askedFor } from '../../ui/ask.tsx';
import { Button } from '../../ui/button.tsx';
import { sendForm } from '../../ui/send-form.ts';
import { readTyped } from '../../ui/typed.ts';

const field = askedFor('Reading', 'V', 1e7, null, { min: -1e7, open: false });

const formId = 'take-reading';

/** Takes what stands in the field, or what the instrument shows: the one action of a step with a reading. */
export const takeReading = (): void => sendForm(formId);

interface Props {
  readonly plan: RunPlan;
  readonly step: PlanStep;
  /** What the instrument shows now, V; null without one, or above its range. */
  readonly shown: number | null;
  readonly instrument: string | null;
  readonly onRead: (value: number, source: string, confirmed: boolean) => void;
}

/** A reading that is far from what was expected: it is asked about before it counts. */
function FarOff({
  value,
  expected,
  onAgain,
  onCorrect,
}: {
  value: number;
  expected: number | null;
  onAgain: () => void;
  onCorrect: () => void;
}) {
  return (
    <div role="alert" className="border-4 border-over p-3 text-20">
      <p className="font-bold">
        {printQuantity(value, 'V')} is far from{' '}
        {expected === null ? 'any voltage possible here' : `the ${printQuantity(expected, 'V')} expected`}.
      </p>
      <p>Another range, a slip of the hand, or a rig that is not as planned? Read it again.</p>
      <div className="mt-2 flex flex-wrap gap-3">
        <Button look="primary" className="text-18" autoFocus onClick={onAgain}>
          Read again
        </Button>
        <Button className="text-18" onClick={onCorrect}>
          Correct: record and flag
        </Button>
      </div>
    </div>
  );
}

/** Takes a reading: as it is typed, or as the instrument shows it. One that is far from what is expected is asked back. */
export function TakeReading({ plan, step, shown, instrument, onRead }: Props) {
  const [text, setText] = useState('');
  const [reason, setReason] = useState<string | null>(null);
  const [far, setFar] = useState<{ value: number; source: string } | null>(null);
  const id = useId();
  const take = (value: number, source: string) => {
    setReason(null);
    if (isFarFrom(plan, step, value)) setFar({ value, source });
    else onRead(value, source, false);
  };
  const typed = () => {
    if (text.trim() === '' && shown !== null && instrument !== null) return take(shown, instrument);
    const read = readTyped(field, text);
    if (!read.ok || read.value === null) return setReason(read.ok ? 'is needed' : read.reason);
    take(read.value.value, 'typed');
  };
  if (far)
    return (
      <FarOff
        value={far.value}
        expected={step.reading?.expected ?? null}
        onAgain={() => {
          setFar(null);
          setText('');
        }}
        onCorrect={() => {
          onRead(far.value, far.source, true);
          setFar(null);
        }}
      />
    );
  return (
    <form
      id={formId}
      className="flex flex-wrap items-center gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        typed();
      }}
    >
      <label htmlFor={id} className="text-20">
        Reading
      </label>
      <input
        id={id}
        autoFocus
        autoComplete="off"
        className={`figure w-44 border-2 bg-plate px-3 py-2 text-26 ${reason === null ? 'border-ink' : 'border-over'}`}
        placeholder={shown === null ? 'such as 3.2 V' : printQuantity(shown, 'V')}
        aria-invalid={reason !== null}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          // A pedal that sends a space takes the reading; nobody types one before a number.
          if (event.key !== ' ' || text.trim() !== '') return;
          event.preventDefault();
          if (!event.repeat) typed();
        }}
      />
      {reason !== null && (
        <span role="alert" className="w-full font-bold text-over">
          Reading {reason}.
        </span>
      )}
    </form>
  );
}
