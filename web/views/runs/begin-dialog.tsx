import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { RigDocument } from '@vast-surge/core/rig';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { clashOf, faultsOf, faultTitles, type FaultId } from '@vast-surge/core/rehearsal';
import { planOf, type RunPlan } from '@vast-surge/core/run';
import { failureOf, useBeginRunMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { Button } from '../../ui/button.tsx';
import { Sheet } from '../../ui/sheet.tsx';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

export type RunKind = 'live' | 'rehearsal';

interface Props {
  readonly rigId: string;
  /** The version of the rig that the server has. */
  readonly version: number;
  readonly document: RigDocument;
  /** What is chosen when it opens. */
  readonly first?: RunKind;
  readonly onClose: () => void;
}

/** A whole number that a person typed, or the reason why it is none that can be taken. */
const wholeIn = (text: string, low: number, high: number): number | null => {
  const value = Number(text);
  return text.trim() !== '' && Number.isInteger(value) && value >= low && value <= high ? value : null;
};

interface RehearsalWish {
  readonly seed: string;
  readonly speed: number;
  /** Faults that the seed draws, so many; or those that are chosen. */
  readonly how: 'drawn' | 'chosen';
  readonly count: number;
  readonly chosen: readonly FaultId[];
}

const firstWish: RehearsalWish = { seed: '1', speed: 10, how: 'drawn', count: 2, chosen: [] };

const seedOf = (text: string): number | null => wholeIn(text, 1, 999_999);

/** Why it cannot be rehearsed so; null where it can. */
function wishReason({ seed, how, chosen }: RehearsalWish): string | null {
  if (seedOf(seed) === null) return 'Seed must be a whole number from 1 to 999999.';
  if (how === 'drawn') return null;
  const clash = clashOf(chosen);
  if (clash) return `“${faultTitles[clash[0]]}” and “${faultTitles[clash[1]]}” cannot be together.`;
  return chosen.length > 5 ? 'At most 5 faults in one rehearsal.' : null;
}

function Faults({
  plan,
  chosen,
  set,
}: {
  plan: RunPlan;
  chosen: readonly FaultId[];
  set: (more: Partial<RehearsalWish>) => void;
}) {
  return (
    <ul className="grid gap-1">
      {faultsOf(plan).map((id) => (
        <li key={id}>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={chosen.includes(id)}
              onChange={(event) => set({ chosen: event.target.checked ? [...chosen, id] : chosen.filter((c) => c !== id) })}
            />
            {faultTitles[id]}
          </label>
        </li>
      ))}
    </ul>
  );
}

/** The seed of a rehearsal, how fast its time goes, and its faults. */
function RehearsalForm({ plan, wish, set }: { plan: RunPlan; wish: RehearsalWish; set: (more: Partial<RehearsalWish>) => void }) {
  const { seed, speed, how, count, chosen } = wish;
  return (
    <div className="mt-3 grid gap-3 border-t border-rule pt-3">
      <div className="flex flex-wrap gap-6">
        <label className="flex items-center gap-2">
          Seed
          <input
            className={`figure w-24 border bg-plate px-2 py-1 ${seedOf(seed) === null ? 'border-over' : 'border-rule'}`}
            inputMode="numeric"
            value={seed}
            onChange={(event) => set({ seed: event.target.value })}
          />
        </label>
        <label className="flex items-center gap-2">
          Time
          <Select value={speed} onChange={(event) => set({ speed: Number(event.target.value) })}>
            {[1, 5, 10, 30, 60].map((n) => (
              <option key={n} value={n}>
                {n === 1 ? 'real' : `${n} times as fast`}
              </option>
            ))}
          </Select>
        </label>
      </div>
      <fieldset className="flex flex-wrap gap-4">
        <legend className="sr-only">Faults</legend>
        <label className="flex items-center gap-2">
          <input type="radio" name="how" checked={how === 'drawn'} onChange={() => set({ how: 'drawn' })} />
          <Select
            aria-label="How many faults are drawn"
            value={count}
            onChange={(event) => set({ count: Number(event.target.value) })}
          >
            {[0, 1, 2, 3, 4, 5].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </Select>
          faults drawn by the seed
        </label>
        <label className="flex items-center gap-2">
          <input type="radio" name="how" checked={how === 'chosen'} onChange={() => set({ how: 'chosen' })} /> chosen
        </label>
      </fieldset>
      {how === 'chosen' && <Faults plan={plan} chosen={chosen} set={set} />}
    </div>
  );
}

function KindOfRun({ kind, setKind }: { kind: RunKind; setKind: (kind: RunKind) => void }) {
  return (
    <fieldset className="mt-3 flex flex-wrap gap-4">
      <legend className="sr-only">What kind of run</legend>
      {(
        [
          ['live', 'Live, on the rig'],
          ['rehearsal', 'Rehearsal, on a simulated rig'],
        ] as const
      ).map(([value, words]) => (
        <label key={value} className="flex items-center gap-2 text-17">
          <input type="radio" name="kind" checked={kind === value} onChange={() => setKind(value)} /> {words}
        </label>
      ))}
    </fieldset>
  );
}

/** Begins a run or a rehearsal of a rig as it stands now. */
export function BeginDialog({ rigId, version, document, first = 'live', onClose }: Props) {
  const [begin, { isLoading }] = useBeginRunMutation();
  const navigate = useNavigate();
  const [kind, setKind] = useState<RunKind>(first);
  const [wish, setWish] = useState(firstWish);
  const [trouble, setTrouble] = useState<string | null>(null);
  const made = useMemo(() => planOf(document.name, evaluateRig(document.rig), document.sheet), [document]);
  const stops = made.ok ? made.plan.stops : [];
  const isRehearsal = kind === 'rehearsal';
  const reason = !made.ok
    ? made.reason
    : !isRehearsal && stops.length > 0
      ? `It must not be run as it stands: ${stops.join(' ')} It can be rehearsed.`
      : isRehearsal
        ? wishReason(wish)
        : null;
  const start = async () => {
    const id = crypto.randomUUID();
    const { seed, speed, how, count, chosen } = wish;
    const rehearsal = isRehearsal ? { seed: seedOf(seed) ?? 1, speed, faults: how === 'drawn' ? count : [...chosen] } : null;
    try {
      const now = await versionOnceSaved(rigId, version);
      if (now === null) {
        setTrouble(unsavedWords);
        return;
      }
      await begin({ id, rigId, version: now, rehearsal }).unwrap();
      void navigate(`/runs/${id}`);
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <Sheet
      title={`Run ${document.name}`}
      says="The rig is saved as a revision, and the run is recorded with it, step by step."
      onClose={onClose}
    >
      <KindOfRun kind={kind} setKind={setKind} />
      {isRehearsal && made.ok && <RehearsalForm plan={made.plan} wish={wish} set={(more) => setWish({ ...wish, ...more })} />}
      <TroubleLine className="mt-3">{reason ?? trouble}</TroubleLine>
      <div className="mt-4 flex gap-3">
        <Button look="primary" disabled={reason !== null || isLoading} onClick={() => void start()}>
          {isRehearsal ? 'Open the rehearsal' : 'Open the run'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Sheet>
  );
}
