import { useMemo, useState, type FormEvent } from 'react';
import { Tabs } from 'radix-ui';
import type { Asked } from '@vast-surge/core/block';
import type { OutOfReach, Typed } from '@vast-surge/core/evaluation';
import { designBounds, designGoals, readDesign, type DesignGoal, type DesignQuestion } from '@vast-surge/core/study';
import { readPrice } from '../../app/currency.ts';
import { useShelf } from '../../app/bench.ts';
import { useUses } from '../../app/uses.ts';
import { Button } from '../../ui/button.tsx';
import { TabRow } from '../../ui/tab-row.tsx';
import { useDesign } from '../../workers/rig-study.ts';
import { WishField } from '../start/wish-field.tsx';
import { StudyProgress } from '../studies/progress.tsx';
import { Results } from './results.tsx';

const firstOf = (asks: Readonly<Record<string, Asked>>): Typed =>
  Object.fromEntries(Object.entries(asks).map(([id, { initial }]) => [id, initial ?? '']));

/** The budget as it was typed, as a number: it may have the sign of the workshop’s money. */
function withBudget(bounds: Typed): { readonly bounds: Typed; readonly issue: OutOfReach | null } {
  const text = bounds['budget']?.trim() ?? '';
  if (text === '') return { bounds, issue: null };
  const read = readPrice(text);
  return read.ok
    ? { bounds: { ...bounds, budget: String(read.value) }, issue: null }
    : { bounds, issue: { asked: 'budget', reason: `Budget ${read.reason}.`, nearest: null } };
}

interface QuestionProps {
  readonly goal: DesignGoal;
  /** Null while it is not known. */
  readonly shelf: DesignQuestion['shelf'] | null;
  readonly onAsk: (question: DesignQuestion) => void;
}

function FromShelf({
  shelf,
  takes,
  onTakes,
}: {
  shelf: QuestionProps['shelf'];
  takes: boolean;
  onTakes: (takes: boolean) => void;
}) {
  return (
    <label className="flex items-baseline gap-2">
      <input type="checkbox" checked={takes} onChange={(event) => onTakes(event.target.checked)} />
      <span>
        Parts of my shelf first{' '}
        <span className="text-14 text-dim">{shelf ? `(${shelf.length} found good and in no built rig)` : '(being read …)'}</span>
      </span>
    </label>
  );
}

function Question({ goal, shelf, onAsk }: QuestionProps) {
  const [typed, setTyped] = useState<Typed>(firstOf(goal.asks));
  const [bounds, setBounds] = useState<Typed>(firstOf(designBounds));
  const [takesShelf, setTakesShelf] = useState(true);
  const [atWorst, setAtWorst] = useState(false);
  const [issues, setIssues] = useState<readonly OutOfReach[]>([]);
  const ask = (event: FormEvent) => {
    event.preventDefault();
    const money = withBudget(bounds);
    const question = { goal: goal.id, typed, bounds: money.bounds, shelf: takesShelf ? (shelf ?? []) : [], atWorst };
    const read = readDesign(question);
    const found = [...(money.issue ? [money.issue] : []), ...(read.ok ? [] : read.issues)];
    setIssues(found);
    if (found.length === 0) onAsk(question);
  };
  const field = (id: string, asked: Asked, texts: Typed, set: (texts: Typed) => void) => (
    <WishField
      key={id}
      id={`design-${id}`}
      asked={asked}
      text={texts[id] ?? ''}
      issue={issues.find((issue) => issue.asked === id)}
      onText={(text) => {
        set({ ...texts, [id]: text });
        setIssues(issues.filter((issue) => issue.asked !== id));
      }}
    />
  );
  return (
    <form className="grid content-start gap-3" aria-label={goal.title} noValidate onSubmit={ask}>
      <p className="text-dim">{goal.says}</p>
      {Object.entries(goal.asks).map(([id, asked]) => field(id, asked, typed, setTyped))}
      <fieldset className="mt-2 grid gap-3 border-t border-rule pt-2">
        <legend className="sr-only">Bounds</legend>
        <h2 className="font-bold">Within</h2>
        <div className="grid grid-cols-2 gap-3">
          {Object.entries(designBounds).map(([id, asked]) => field(id, asked, bounds, setBounds))}
        </div>
        <label className="flex items-baseline gap-2">
          <input type="checkbox" checked={atWorst} onChange={(event) => setAtWorst(event.target.checked)} />
          <span>
            The goal holds at the worst corner of the tolerances, as the bounds do{' '}
            <span className="text-14 text-dim">(else nominally)</span>
          </span>
        </label>
      </fieldset>
      <FromShelf shelf={shelf} takes={takesShelf} onTakes={setTakesShelf} />
      <div>
        <Button look="primary" type="submit" disabled={takesShelf && shelf === null}>
          Find designs
        </Button>
      </div>
    </form>
  );
}

/** What of the shelf may be built in; null until it is here. */
function useFree() {
  const { parts, loaded } = useShelf();
  const uses = useUses();
  // A part is in one built rig at a time; what was not found good is not counted on.
  const free = useMemo(
    () =>
      parts
        .filter(
          ({ id, part }) => part.condition === 'good' && part.quantity > 0 && !(uses.get(id) ?? []).some(({ built }) => built),
        )
        .map(({ id, part }) => ({ id, part })),
    [parts, uses],
  );
  return loaded ? free : null;
}

/** Whole rigs from what is wanted, within bounds, out of the shelf and of what can be bought. */
export function DesignView() {
  const free = useFree();
  const [goalId, setGoalId] = useState(designGoals[0]?.id ?? '');
  const [question, setQuestion] = useState<DesignQuestion | null>(null);
  const soFar = useDesign(question);
  const goal = designGoals.find(({ id }) => id === goalId);
  const tabs = designGoals.map(({ id, title }) => ({ id, title }));
  return (
    <main className="mx-auto w-full max-w-[1500px] p-5">
      <Tabs.Root
        value={goalId}
        onValueChange={(id) => {
          setGoalId(id);
          setQuestion(null);
        }}
      >
        <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
          <h1 className="mr-auto text-20 font-bold">Design from a goal</h1>
          <TabRow label="Goal" tabs={tabs} />
        </div>
        <Tabs.Content value={goalId} tabIndex={-1} className="mt-4 grid gap-8 lg:grid-cols-[22rem_minmax(0,1fr)]">
          {goal && <Question key={goal.id} goal={goal} shelf={free} onAsk={setQuestion} />}
          <div className="min-w-0">
            {question ? (
              <>
                {!(soFar && soFar.done >= soFar.total && !soFar.trouble) && <StudyProgress progress={soFar} what="designs" />}
                {soFar && !soFar.trouble && <Results soFar={soFar} />}
              </>
            ) : (
              <p className="max-w-xl text-dim">
                Say what the rig is to do, and within which bounds. Banks are made of the measured capacitors of your shelf, and
                of classes that can be bought; switch, charger, bleeder, dump, stick and meter are added to fit. Nothing is shown
                that has a limit without a rating.
              </p>
            )}
          </div>
        </Tabs.Content>
      </Tabs.Root>
    </main>
  );
}
