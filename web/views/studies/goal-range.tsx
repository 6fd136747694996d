import type { Goal, Output } from '@vast-surge/core/study';
import { askedFor } from '../../ui/ask.tsx';
import { readTyped } from '../../ui/typed.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** The ends of a goal as they are typed. */
export type GoalTexts = readonly [from: string, to: string];
export const noGoal: GoalTexts = ['', ''];

export type ReadGoal =
  { readonly ok: true; readonly goal: Goal | null } | { readonly ok: false; readonly at: 0 | 1; readonly reason: string };

/** What is wanted of an output; nothing where both ends are empty. */
export function readGoal({ title, unit }: Output, texts: GoalTexts): ReadGoal {
  const field = askedFor(title, unit, 1e15, null, { optional: true, min: -1e15, open: false });
  const [from, to] = [readTyped(field, texts[0]), readTyped(field, texts[1])];
  if (!from.ok) return { ok: false, at: 0, reason: from.reason };
  if (!to.ok) return { ok: false, at: 1, reason: to.reason };
  const goal = { from: from.value?.value ?? null, to: to.value?.value ?? null };
  if (goal.from !== null && goal.to !== null && goal.from > goal.to)
    return { ok: false, at: 1, reason: `must not be below ${texts[0].trim()}, the other end` };
  return { ok: true, goal: goal.from === null && goal.to === null ? null : goal };
}

/** From where to where a figure is wanted; an end that is left empty holds nothing. */
export function GoalRange({
  title,
  texts,
  read,
  onTexts,
}: {
  title: string;
  texts: GoalTexts;
  read: ReadGoal;
  onTexts: (texts: GoalTexts) => void;
}) {
  return (
    <div>
      <p className="flex flex-wrap items-baseline gap-2">
        {title} from
        {([0, 1] as const).map((k) => (
          <span key={k} className="contents">
            {k === 1 && 'to'}
            <input
              aria-label={`${title}, ${k === 0 ? 'from' : 'to'}`}
              className={`figure w-28 border bg-plate px-2 py-1 ${!read.ok && read.at === k ? 'border-over' : 'border-rule'}`}
              placeholder="any"
              value={texts[k]}
              aria-invalid={!read.ok && read.at === k}
              onChange={(event) => onTexts(k === 0 ? [event.target.value, texts[1]] : [texts[0], event.target.value])}
            />
          </span>
        ))}
      </p>
      {!read.ok && (
        <TroubleLine look="words" className="text-14">
          {title}, {read.at === 0 ? 'from' : 'to'}: {read.reason}.
        </TroubleLine>
      )}
    </div>
  );
}
