import { useState } from 'react';
import { X } from 'lucide-react';
import { Link } from 'react-router';
import type { Alone, SheetEdits } from '@vast-surge/core/rig';
import type { RunSheet } from '@vast-surge/core/runsheet';
import { blockSelected } from '../../app/editor.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import type { EditSheet } from './edited-phase.tsx';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

interface Answered {
  readonly by: string;
  readonly reason: string;
}

/** What is wrong with a name and a reason; null where nothing is. */
const wrongWith = ({ by, reason }: Answered): string | null =>
  by.trim().length < 2
    ? 'A name of at least two letters.'
    : reason.trim().length < 10
      ? 'A reason of at least ten letters: whoever reads it later has to understand it.'
      : null;

/** Who answers, and why. */
function AnswerForm({ says, onAnswer, more }: { says: string; onAnswer: (made: Answered) => void; more?: React.ReactNode }) {
  const [made, setMade] = useState<Answered>({ by: '', reason: '' });
  const [wrong, setWrong] = useState<string | null>(null);
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const found = wrongWith(made);
        setWrong(found);
        if (found === null) onAnswer({ by: made.by.trim(), reason: made.reason.trim() });
      }}
    >
      <label className="block">
        Name
        <input
          className="block w-44 border border-rule bg-plate px-2 py-1.5"
          maxLength={60}
          value={made.by}
          onChange={(event) => setMade({ ...made, by: event.target.value })}
        />
      </label>
      <label className="block min-w-60 flex-1">
        Reason
        <input
          className="block w-full border border-rule bg-plate px-2 py-1.5"
          maxLength={300}
          value={made.reason}
          onChange={(event) => setMade({ ...made, reason: event.target.value })}
        />
      </label>
      {more}
      <Button type="submit">{says}</Button>
      <TroubleLine look="words" className="basis-full">
        {wrong}
      </TroubleLine>
    </form>
  );
}

const callTimes = [5, 10, 15, 20, 30, 45, 60, 120] as const;

function AloneForm({ onAnswer }: { onAnswer: (alone: Alone) => void }) {
  const [callIn, setCallIn] = useState<number>(20);
  return (
    <>
      <p className="mt-3">
        Working alone: somebody takes responsibility by name, and calls are made to somebody outside. When a call does not come,
        they come and look.
      </p>
      <AnswerForm
        says="Take responsibility"
        onAnswer={(made) => onAnswer({ ...made, callIn })}
        more={
          <label className="block">
            Call in every
            <Select fit="tall" className="block" value={callIn} onChange={(event) => setCallIn(Number(event.target.value))}>
              {callTimes.map((minutes) => (
                <option key={minutes} value={minutes}>
                  {minutes} min
                </option>
              ))}
            </Select>
          </label>
        }
      />
    </>
  );
}

/** Limits without a rating, each to be entered or left out of what is waived. */
function Unrated({
  open,
  left,
  setLeft,
  rigId,
}: {
  open: RunSheet['unrated'];
  left: readonly string[];
  setLeft: (left: readonly string[]) => void;
  rigId: string;
}) {
  const dispatch = useAppDispatch();
  return (
    <ul>
      {open.map(({ limit, title, slot, stress, isOutgrown }) => (
        <li key={limit}>
          <label className="flex items-baseline gap-2">
            <input
              type="checkbox"
              checked={!left.includes(limit)}
              onChange={(event) => setLeft(event.target.checked ? left.filter((l) => l !== limit) : [...left, limit])}
            />
            <span>
              {title}: no rating{stress === null ? '' : `, ${stress.text} worst case`}
              {isOutgrown ? ', more than was answered for' : ''}.{' '}
              <Link className="text-select underline" to={`/rigs/${rigId}`} onClick={() => dispatch(blockSelected(slot))}>
                Enter it
              </Link>
            </span>
          </label>
        </li>
      ))}
    </ul>
  );
}

/** What holds back a live run, and nothing else, with what turns it: the field of the rating, or somebody who answers for it. */
export function Answers({
  rigId,
  sheet,
  edits,
  onEdit,
}: {
  rigId: string;
  sheet: RunSheet;
  edits: SheetEdits;
  onEdit: EditSheet;
}) {
  const open = sheet.unrated.filter(({ waiver }) => waiver === null);
  const [left, setLeft] = useState<readonly string[]>([]);
  const asked = open.filter(({ limit }) => !left.includes(limit));
  const needsAlone = edits.people === 'one' && edits.alone === null;
  if (open.length === 0 && !needsAlone) return null;
  return (
    <section aria-label="Held back" className="no-print mt-3 border-l-4 border-over pl-3">
      <h2 className="font-bold">Held back until entered, or waived by name</h2>
      {open.length > 0 && (
        <>
          <Unrated open={open} left={left} setLeft={setLeft} rigId={rigId} />
          <AnswerForm
            says={asked.length === open.length ? 'Waive all' : `Waive ${asked.length}`}
            onAnswer={(made) =>
              onEdit({
                ...edits,
                waivers: [
                  ...edits.waivers.filter((w) => !asked.some(({ limit }) => limit === w.limit)),
                  ...asked.map(({ limit, stress }) => ({ limit, ...made, upTo: stress?.value ?? null })),
                ],
              })
            }
          />
        </>
      )}
      {needsAlone && <AloneForm onAnswer={(alone) => onEdit({ ...edits, alone })} />}
    </section>
  );
}

/** Who answers for what, as it is printed; each can be taken back while the sheet is edited. */
export function Waived({ sheet, edits, onEdit }: { sheet: RunSheet; edits: SheetEdits; onEdit: EditSheet | null }) {
  if (sheet.waived.length === 0) return null;
  return (
    <section aria-label="Waived" className="mt-3 border-2 border-ink p-3">
      <h2 className="font-bold">Waived by name, not rated</h2>
      <ul className="list-disc pl-5">
        {sheet.waived.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {onEdit && (
        <Button className="mt-2" onClick={() => onEdit({ ...edits, waivers: [], alone: null })}>
          <X size={17} aria-hidden /> Take all of it back
        </Button>
      )}
    </section>
  );
}
