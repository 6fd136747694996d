import { useState, type FormEvent } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { Starter } from '@vast-surge/core/block';
import { startRig, type OutOfReach, type Typed } from '@vast-surge/core/evaluation';
import { starterBy } from '@vast-surge/core/kind';
import { newDocument } from '@vast-surge/core/rig';
import { useAddRig } from '../../app/commands.ts';
import { Button } from '../../ui/button.tsx';
import { Terms } from '../../ui/terms.tsx';
import { Picture } from './pictures.tsx';
import { WishField } from './wish-field.tsx';

/** The wishes of a starter, as they are typed, and what stands against them. */
function useWishes(starter: Starter) {
  const initial = Object.fromEntries(Object.entries(starter.asks).map(([id, { initial: text }]) => [id, text ?? '']));
  const [typed, setTyped] = useState<Typed>(initial);
  const [issues, setIssues] = useState<readonly OutOfReach[]>([]);
  return {
    typed,
    issues,
    setIssues,
    set: (id: string, text: string) => {
      setTyped({ ...typed, [id]: text });
      setIssues(issues.filter(({ asked, nearest }) => asked !== id && nearest === null));
    },
  };
}

function Wishes({ starter }: { starter: Starter }) {
  const { typed, issues, setIssues, set } = useWishes(starter);
  const [making, setMaking] = useState(false);
  const add = useAddRig();
  const navigate = useNavigate();
  const make = async (event: FormEvent) => {
    event.preventDefault();
    const started = startRig(starter, typed);
    if (!started.ok) {
      setIssues(started.issues);
      return;
    }
    setMaking(true);
    const id = await add({ ...newDocument(starter.title), rig: started.rig });
    setMaking(false);
    if (id) void navigate(`/rigs/${id}`);
  };
  return (
    <form className="mt-4 grid max-w-md gap-4" aria-label={starter.title} noValidate onSubmit={(event) => void make(event)}>
      {Object.entries(starter.asks).map(([id, asked]) => (
        <WishField
          key={id}
          id={`wish-${id}`}
          asked={asked}
          text={typed[id] ?? ''}
          issue={issues.find((issue) => issue.asked === id)}
          onText={(text) => set(id, text)}
        />
      ))}
      <div className="flex items-center gap-4">
        <Button look="primary" type="submit" disabled={making}>
          Make this rig
        </Button>
        <Link className="text-select underline" to="/start">
          Something else
        </Link>
      </div>
      <p className="text-14 text-dim">
        Everything else is assumed, and marked so in the rig: replace it by what you have, block by block, before you build.
      </p>
    </form>
  );
}

/** A few wishes, and a whole rig out of them. */
export function StarterView() {
  const { starter: id = '' } = useParams();
  const starter = starterBy(id);
  if (!starter)
    return (
      <main className="p-5">
        <h1 className="text-2xl font-bold">There is no such starter</h1>
        <p className="mt-2">
          There is no starter “{id.slice(0, 60)}”.{' '}
          <Link className="text-select underline" to="/start">
            All starters
          </Link>
        </p>
      </main>
    );
  return (
    <main className="mx-auto w-full max-w-[1100px] p-5">
      <div className="flex flex-wrap items-center gap-5">
        <Picture of={starter.picture} className="h-28 border border-rule bg-plate p-1" />
        <div className="min-w-0 flex-1">
          <h1 className="text-2xl font-bold">{starter.title}</h1>
          <p className="mt-1 max-w-xl">
            <Terms>{starter.says}</Terms>
          </p>
        </div>
      </div>
      <Wishes key={starter.id} starter={starter} />
    </main>
  );
}
