import type { Asked } from '@vast-surge/core/block';
import type { OutOfReach } from '@vast-surge/core/evaluation';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';

interface FieldProps {
  readonly id: string;
  readonly asked: Asked;
  readonly text: string;
  readonly issue: OutOfReach | undefined;
  readonly onText: (text: string) => void;
}

/** Why a wish cannot be had, and the nearest that can. */
function Issue({ id, issue, onText }: Pick<FieldProps, 'id' | 'onText'> & { issue: OutOfReach }) {
  const { reason, nearest } = issue;
  return (
    <p id={`${id}-issue`} role="alert" className="border-l-4 border-over pl-2 text-14">
      {nearest === null ? (
        reason
      ) : (
        <>
          <b>Out of reach.</b> {reason} With the other wishes as they are, the nearest is <b className="figure">{nearest}</b>.{' '}
          <Button look="quiet" onClick={() => onText(nearest)}>
            Use {nearest}
          </Button>
        </>
      )}
    </p>
  );
}

/** What is asked of a person, as it is typed, with why it cannot be had. */
export function WishField({ id, asked, text, issue, onText }: FieldProps) {
  const common = {
    id,
    'aria-invalid': issue !== undefined,
    'aria-describedby': issue ? `${id}-issue` : undefined,
    className: `figure w-full border bg-plate px-2 py-1.5 ${issue ? 'border-over' : 'border-rule'}`,
  };
  return (
    <div className="grid gap-1">
      <label htmlFor={id}>{asked.title}</label>
      {asked.type === 'choice' ? (
        <Select {...common} value={text} onChange={(event) => onText(event.target.value)}>
          {asked.options.map(({ value, title }) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
        </Select>
      ) : (
        <input
          {...common}
          value={text}
          placeholder={asked.optional ? 'any' : ''}
          autoComplete="off"
          spellCheck={false}
          onChange={(event) => onText(event.target.value)}
        />
      )}
      {asked.type === 'quantity' && asked.help !== undefined && <span className="text-14 text-dim">{asked.help}</span>}
      {issue && <Issue id={id} issue={issue} onText={onText} />}
    </div>
  );
}
