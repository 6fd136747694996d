import { setVoltage, slots, type Slot } from '../block/index.ts';
import { ifKnown, RigReading } from '../figure/index.ts';
import { slotTitles, starters, surroundings } from '../kind/index.ts';
import { limitState } from '../limit/index.ts';
import { blockIn, wholeRig, type Rig } from '../rig/index.ts';
import { evaluateRig, type Evaluation } from './evaluate.ts';
import { blockOf, firstSettings, startRig, withSlot } from './start.ts';

/** What goes along with a block of another kind. */
export interface Neighbours {
  /** The rig with them: it has no error. */
  readonly rig: Rig;
  /** The places that change, by their titles. */
  readonly changed: readonly string[];
  /** The starter it is like, where the values of the rig as it is lead to none; its own values are then those of the starter. */
  readonly like: string | null;
}

/** Neighbours that are one thing: a supply without its charging path helps nobody. */
const together: readonly (readonly Slot[])[] = [
  ['supply', 'charging'],
  ['switch', 'trigger'],
];

const errors = ({ problems }: Evaluation): number => problems.filter(({ severity }) => severity === 'error').length;
const overs = ({ ladder }: Evaluation): number => ladder.limits.filter((limit) => limitState(limit) === 'over').length;

/** Places whose block does not fit: something of it is an error, or bears more than it is rated for. */
function unfit(evaluation: Evaluation): Set<Slot> {
  const bad = new Set<Slot>([
    ...evaluation.problems.filter(({ severity }) => severity === 'error').map(({ slot }) => slot),
    ...evaluation.ladder.limits.filter((limit) => limitState(limit) === 'over').map(({ slot }) => slot),
  ]);
  // A store that is not charged to its voltage is a fault of what charges it.
  if (bad.has('store')) bad.add('supply');
  for (const group of together) if (group.some((slot) => bad.has(slot))) group.forEach((slot) => bad.add(slot));
  return bad;
}

/** The rig with neighbours that fit its store as it is; null where its voltage or capacitance is not known. */
function surrounded(rig: Rig, evaluation: Evaluation, kept: Slot): Rig | null {
  const reading = new RigReading(rig);
  const V = ifKnown(() => setVoltage(reading).value);
  const C = ifKnown(() => reading.figure('bank-capacitance').value);
  if (V === null || C === null || !(V > 0 && C > 0)) return null;
  const settings = surroundings({ V, C });
  const bad = unfit(evaluation);
  return slots
    .filter((slot) => slot !== kept && slot !== 'store' && slot !== 'load' && bad.has(slot))
    .reduce((made, slot) => {
      const setting = settings[slot];
      return setting ? withSlot(made, slot, blockOf(slot, setting)) : made;
    }, rig);
}

/** Titles of the places that are not the same in two rigs. */
const changedIn = (from: Rig, to: Rig): string[] =>
  slots
    .filter((slot) => JSON.stringify(blockIn(from, slot)) !== JSON.stringify(blockIn(to, slot)))
    .map((slot) => slotTitles[slot]);

/**
 * Neighbours that fit a block whose kind was just chosen: for the values as they are where that leads to a rig without an error, else as
 * the starter has them that is of this kind.
 *
 * @param slot the place whose kind was chosen
 * @returns null where nothing is wrong with the neighbours, or nothing better is known
 */
export function neighboursOf(rig: Rig, slot: Slot): Neighbours | null {
  const now = evaluateRig(rig);
  const [wrong, over] = [errors(now), overs(now)];
  if (wrong === 0 && over === 0) return null;
  const nearer = surrounded(rig, now, slot);
  if (nearer) {
    const then = evaluateRig(nearer);
    if (errors(then) === 0 && overs(then) <= over && errors(then) + overs(then) < wrong + over)
      return { rig: nearer, changed: changedIn(rig, nearer), like: null };
  }
  const { kind } = blockIn(rig, slot);
  for (const starter of starters) {
    if (firstSettings(starter)[slot]?.kind !== kind) continue;
    const made = startRig(starter, {});
    if (!made.ok) continue;
    // What a starter begins with has no error; that it bears less than what there is now would be no help.
    if (wrong > 0 || overs(evaluateRig(made.rig)) < over)
      return { rig: wholeRig(made.rig), changed: changedIn(rig, made.rig), like: starter.title };
  }
  return null;
}
