import { useId, useState } from 'react';
import { isProofOf, pinCheck, pinPattern, pinProof, type PinCheck } from '@vast-surge/core/run';
import { Button } from '../../ui/button.tsx';
import { sendForm } from '../../ui/send-form.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const formId = 'hold-pin';

/** Sends what stands in the field of the hold: the one action of a step that a second person answers. */
export const submitPin = (): void => sendForm(formId);

/** A salt by chance, as hexadecimal digits. */
const newSalt = (): string =>
  [...crypto.getRandomValues(new Uint8Array(16))].map((byte) => byte.toString(16).padStart(2, '0')).join('');

export const newPin = (pin: string): PinCheck => pinCheck(newSalt(), pin);

const rule = 'four to eight digits';

/** A field for a PIN: digits alone, never shown. */
export function PinField({
  label,
  value,
  bad,
  autoFocus = false,
  onChange,
}: {
  label: string;
  value: string;
  bad: boolean;
  autoFocus?: boolean;
  onChange: (text: string) => void;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-19">
        {label}
      </label>
      <input
        id={id}
        type="password"
        inputMode="numeric"
        autoComplete="off"
        autoFocus={autoFocus}
        maxLength={8}
        aria-invalid={bad}
        className={`figure mt-1 block w-44 border-2 bg-plate px-3 py-2 text-26 ${bad ? 'border-over' : 'border-ink'}`}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </div>
  );
}

/** A PIN that was forgotten is set anew by its person, and the record says so: a hold must not lock a charged store away. */
function NewPin({ reads, onSet, onClose }: { reads: string; onSet: (pin: PinCheck) => void; onClose: () => void }) {
  const [pin, setPin] = useState('');
  const [isBad, setBad] = useState(false);
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (pinPattern.test(pin)) onSet(newPin(pin));
        else setBad(true);
      }}
    >
      <PinField label={`New PIN of ${reads}`} value={pin} bad={isBad} autoFocus onChange={setPin} />
      <Button type="submit" className="min-h-[44px]">
        Set PIN
      </Button>
      <Button className="min-h-[44px]" onClick={onClose}>
        Cancel
      </Button>
      <p className={`w-full text-16 ${isBad ? 'font-bold text-over' : ''}`} role={isBad ? 'alert' : undefined}>
        PIN must be {rule}. The record of the run says that it was set anew.
      </p>
    </form>
  );
}

interface HoldPinProps {
  readonly reads: string;
  readonly pin: PinCheck;
  /** The second person may have a device of their own to answer on. */
  readonly isElsewhere?: boolean;
  readonly onProof: (proof: string) => void;
  readonly onSet: (pin: PinCheck) => void;
}

/** A hold that the second person answers with their own PIN. */
export function HoldPin({ reads, pin, isElsewhere = false, onProof, onSet }: HoldPinProps) {
  const [text, setText] = useState('');
  const [isWrong, setWrong] = useState(false);
  const [isForgotten, setForgotten] = useState(false);
  if (isForgotten)
    return (
      <NewPin
        reads={reads}
        onSet={(set) => {
          onSet(set);
          setForgotten(false);
          setWrong(false);
        }}
        onClose={() => setForgotten(false)}
      />
    );
  return (
    <form
      id={formId}
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        const proof = pinProof(pin.salt, text);
        setText('');
        if (isProofOf(pin, proof)) onProof(proof);
        else setWrong(true);
      }}
    >
      <PinField label={`${reads}, your PIN`} value={text} bad={isWrong} autoFocus onChange={setText} />
      <Button look="quiet" className="min-h-[44px] text-16" onClick={() => setForgotten(true)}>
        PIN forgotten
      </Button>
      {isElsewhere && (
        <p className="w-full text-16 text-dim">Or {reads} answers on a device of their own: then no PIN is asked.</p>
      )}
      {isWrong && (
        <TroubleLine look="words" className="w-full text-18">
          That is not the PIN of {reads}. The hold stands.
        </TroubleLine>
      )}
    </form>
  );
}

export const pinIssue = (pin: string): string | null => (pinPattern.test(pin) ? null : `PIN must be ${rule}.`);
