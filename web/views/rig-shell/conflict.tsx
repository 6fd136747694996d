import { useState } from 'react';
import { toast } from 'sonner';
import {
  copyName,
  copyOf,
  mergeDocuments,
  openChoices,
  resolveMerge,
  type Choice,
  type Merge,
  type RigDocument,
  type Side,
} from '@vast-surge/core/rig';
import { failureOf, useCreateRigMutation } from '../../app/api.ts';
import { followed, type Base } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';

function ChoiceRow({ choice, pick, onPick }: { choice: Choice; pick: Side | null; onPick: (side: Side) => void }) {
  const option = (side: Side, text: string | null, whose: string) => (
    <td className="py-1 pr-4 align-top">
      <label className="flex gap-2">
        <input
          type="radio"
          name={choice.path}
          checked={pick === side}
          onChange={() => onPick(side)}
          aria-label={`${choice.title}, ${whose}`}
        />
        <span className="figure break-words">{text ?? 'no such field'}</span>
      </label>
    </td>
  );
  return (
    <tr className="border-t border-rule">
      <th scope="row" className="py-1 pr-4 text-left align-top font-normal">
        {choice.title}
      </th>
      <td className="figure py-1 pr-4 align-top text-dim">{choice.base ?? 'no such field'}</td>
      {option('mine', choice.mine, 'mine')}
      {option('theirs', choice.theirs, 'theirs')}
    </tr>
  );
}

const allOf = (merge: Merge, side: Side): Record<string, Side> =>
  Object.fromEntries(merge.choices.map(({ path }) => [path, side] as const));

interface Props {
  readonly id: string;
  readonly base: Base;
  readonly mine: RigDocument;
  readonly theirs: Base;
}

/** What both changed, place by place. */
function Choices({
  choices,
  picks,
  setPicks,
}: {
  choices: Merge['choices'];
  picks: Readonly<Record<string, Side>>;
  setPicks: (picks: Readonly<Record<string, Side>>) => void;
}) {
  return (
    <table className="mt-2 w-full text-14">
      <thead>
        <tr className="text-left text-13 text-dim">
          <th className="pr-4 font-normal">Field</th>
          <th className="pr-4 font-normal">Before</th>
          <th className="pr-4 font-normal">Mine</th>
          <th className="font-normal">Theirs</th>
        </tr>
      </thead>
      <tbody>
        {choices.map((choice) => (
          <ChoiceRow
            key={choice.path}
            choice={choice}
            pick={picks[choice.path] ?? choice.suggested}
            onPick={(side) => setPicks({ ...picks, [choice.path]: side })}
          />
        ))}
      </tbody>
    </table>
  );
}

/**
 * Another hand saved what was changed here as well. What does not clash is merged already; for each point that does, the
 * user says which stands, or keeps this version as a rig of its own. Nothing is saved meanwhile and nothing is lost.
 */
export function Conflict({ id, base, mine, theirs }: Props) {
  const dispatch = useAppDispatch();
  const [create] = useCreateRigMutation();
  const [picks, setPicks] = useState<Readonly<Record<string, Side>>>({});
  const merge = mergeDocuments(base.document, mine, theirs.document);
  const open = openChoices(merge, picks);
  const settle = (document: RigDocument) => dispatch(followed({ id, was: base.document, theirs, document }));
  const branch = async () => {
    try {
      const copy = copyOf(mine, copyName(mine.name, 'mine'));
      await create({ id: crypto.randomUUID(), document: copy }).unwrap();
      settle(theirs.document);
      toast(`Yours is a rig of its own now: ${copy.name}.`);
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  return (
    <section
      aria-label="Changed elsewhere"
      className="max-h-[50vh] shrink-0 overflow-y-auto border-b-2 border-ink bg-plate px-5 py-3"
    >
      <h2 className="text-17 font-bold">Somebody else changed this rig while you did</h2>
      <p className="text-14">
        Your edits are kept here and are not saved until you decide. What only one of you changed is merged already.
      </p>
      <Choices choices={merge.choices} picks={picks} setPicks={setPicks} />
      <div className="mt-3 flex flex-wrap gap-2">
        <Button look="primary" disabled={open.length > 0} onClick={() => settle(resolveMerge(merge, mine, picks))}>
          {open.length > 0 ? `Merge: ${open.length} still to decide` : 'Merge as chosen'}
        </Button>
        <Button onClick={() => setPicks(allOf(merge, 'mine'))}>All mine</Button>
        <Button onClick={() => setPicks(allOf(merge, 'theirs'))}>All theirs</Button>
        <Button onClick={() => void branch()}>Branch mine into a new rig, take theirs here</Button>
      </div>
    </section>
  );
}
