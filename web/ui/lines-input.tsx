import { useState } from 'react';
import { linesLimit, type LinesField } from '@vast-surge/core/field';
import { newBurst } from './burst.ts';

interface Props {
  readonly id: string;
  readonly field: LinesField;
  readonly value: string;
  readonly onValue: (value: string, burst: string) => void;
}

/** Lines of text that are kept once they can be read; until then they stay as typed, with the reason. */
export function LinesInput({ id, field, value, onValue }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [burst, setBurst] = useState(newBurst);
  const text = typed ?? value;
  const reason = field.check(text);
  return (
    <div>
      <textarea
        id={id}
        className={`figure h-28 w-full border bg-plate p-2 text-14 ${reason === null ? 'border-rule' : 'border-over'}`}
        maxLength={linesLimit}
        value={text}
        aria-invalid={reason !== null}
        aria-describedby={reason === null ? undefined : `${id}-reason`}
        onFocus={() => setBurst(newBurst())}
        onChange={(event) => {
          const next = event.target.value;
          const good = field.check(next) === null;
          setTyped(good ? null : next);
          if (good) onValue(next, burst);
        }}
      />
      {reason !== null && (
        <p id={`${id}-reason`} role="alert" className="text-13 font-bold text-over">
          {field.title}: {reason}.
        </p>
      )}
      {field.help && <p className="text-12 text-dim">{field.help}</p>}
    </div>
  );
}
