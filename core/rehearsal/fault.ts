import { uniforms } from '../numeric/index.ts';
import type { RunPlan } from '../run/index.ts';

/** What may be wrong in a rehearsal. */
export const faultTitles = {
  'bleeder-open': 'The bleeder is open',
  'dump-stuck': 'The dump relay sticks open',
  'meter-lead-off': 'A lead of the meter is off',
  'meter-battery': 'The battery of the meter is flat',
  'wrong-range': 'The meter is on a range far too high',
  'charger-not-isolated': 'The isolator did not open: the charger still feeds the store',
  'pre-fire': 'The gap pre-fires during the charge',
  misfire: 'A misfire: nothing happens at the trigger',
  'stage-left': 'Part of the store stays charged after the shot',
  rebound: 'The voltage recovers after the discharge',
  'strap-forgotten': 'The strap is not on the bank, though somebody said so',
  'early-approach': 'Somebody goes in before the store is discharged',
  'door-welded': 'A contact of the door switch is welded',
} as const;
export type FaultId = keyof typeof faultTitles;
export const faultIds = Object.keys(faultTitles) as [FaultId, ...FaultId[]];

/** What can keep its share of a shot by itself. */
const inElements = ['stage', 'group', 'further-store'];

/** Faults that this rig can have: without a bleeder none is open, a contact has no self-break. */
export const faultsOf = ({ numbers }: RunPlan): FaultId[] =>
  faultIds.filter((id) =>
    id === 'bleeder-open'
      ? numbers.bleeder !== null
      : id === 'dump-stuck'
        ? numbers.dump !== null
        : id === 'pre-fire'
          ? numbers.selfBreak !== null && numbers.shot?.byItself !== true
          : id === 'door-welded'
            ? (numbers.interlock?.doorContacts ?? 0) > 0
            : id === 'stage-left'
              ? numbers.held.some((held) => inElements.includes(held.id))
              : true,
  );

/** Two that cannot be in one rehearsal: what self-breaks does not misfire, and a meter has one thing wrong with it. */
const excluded: readonly (readonly FaultId[])[] = [
  ['pre-fire', 'misfire'],
  ['meter-lead-off', 'meter-battery', 'wrong-range'],
];

/** Faults drawn by a seed: the same for the same rig and seed. */
export function drawFaults(plan: RunPlan, seed: number, count: number): FaultId[] {
  const uniform = uniforms(seed);
  const drawn: FaultId[] = [];
  let left = faultsOf(plan);
  while (drawn.length < count && left.length > 0) {
    const pick = left[Math.floor(uniform() * left.length)] as FaultId;
    drawn.push(pick);
    left = left.filter((id) => id !== pick && !excluded.some((group) => group.includes(pick) && group.includes(id)));
  }
  return drawn;
}

/** The first two of these that cannot be together; null where all can. */
export function clashOf(faults: readonly FaultId[]): readonly [FaultId, FaultId] | null {
  for (const group of excluded) {
    const [a, b] = faults.filter((id) => group.includes(id));
    if (a && b) return [a, b];
  }
  return null;
}
