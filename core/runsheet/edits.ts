import { acts, phases, type Phase } from '../block/index.ts';
import type { AddedStep, SheetEdits } from '../rig/index.ts';
import { secondsOfStep } from './seconds.ts';
import type { Step } from './step.ts';

const added = ({ id, phase, text, hold }: AddedStep, edits: SheetEdits): Step => ({
  number: 0,
  id,
  phase,
  text,
  expect: [],
  ...(hold ? { hold } : {}),
  who: 'key',
  second: false,
  seconds: secondsOfStep({ id }, edits),
  isAdded: true,
});

/** Steps of one phase with those that are named in `order` in that order; the rest stand after what they follow. */
function inOrder(steps: readonly Step[], order: readonly string[]): Step[] {
  const known = order.flatMap((id) => steps.find((s) => s.id === id) ?? []);
  const result = [...new Set(known)];
  for (const [i, step] of steps.entries()) {
    if (result.includes(step)) continue;
    const before = steps
      .slice(0, i)
      .reverse()
      .find((s) => result.includes(s));
    result.splice(before ? result.indexOf(before) + 1 : 0, 0, step);
  }
  return result;
}

const rank = (step: Step): number => (step.does ? acts.indexOf(step.does) : -1);

/**
 * What changes the charge of the store keeps its order, whatever a person would have: nobody charges before the strap is off, or straps
 * before a reading. The places stay, and what acts is put into them in the order of the acts.
 */
function withActsInOrder(steps: readonly Step[], original: readonly Step[]): Step[] {
  const acting = original.filter((s) => s.does !== undefined);
  const sorted = [...acting].sort((a, b) => rank(a) - rank(b));
  let next = 0;
  return steps.map((step) => (step.does === undefined ? step : (sorted[next++] ?? step)));
}

/** The steps as a person wants them: added ones at the end of their phase or where they were put, notes beside them. */
export function arranged(made: readonly Step[], edits: SheetEdits, inPhases: readonly Phase[] = phases): Step[] {
  const { added: more, order, notes } = edits;
  const taken = new Set(made.map((s) => s.id));
  const all = [...made, ...more.filter((a) => !taken.has(a.id)).map((one) => added(one, edits))];
  return inPhases.flatMap((phase) => {
    const steps = all.filter((s) => s.phase === phase);
    return withActsInOrder(inOrder(steps, order[phase] ?? []), steps).map((step) => {
      const note = notes[step.id];
      return note ? { ...step, note } : step;
    });
  });
}

/**
 * The order of a phase after a step of it was moved.
 *
 * @param to its place within the phase, from 0
 * @returns null where it cannot be moved so: at the end of its phase, or past a step that it has to come after
 */
export function moved(steps: readonly Step[], id: string, to: number): readonly string[] | null {
  const ids = steps.map((s) => s.id);
  const from = ids.indexOf(id);
  if (from < 0 || to < 0 || to >= ids.length || to === from) return null;
  ids.splice(to, 0, ...ids.splice(from, 1));
  const kept = withActsInOrder(
    ids.flatMap((other) => steps.find((s) => s.id === other) ?? []),
    steps,
  );
  return kept.every((step, i) => step.id === ids[i]) ? ids : null;
}

/** All that a step says, for a comparison with what it said before. */
export const saysOf = (step: Step): string =>
  [step.text, ...step.expect.map((e) => `${e.label}: ${e.printed}`), ...(step.hold ? [`Hold until: ${step.hold}`] : [])]
    .join(' · ')
    .slice(0, 4000);

/** A step that says something else than when a person last looked at the sheet. */
export interface SheetChange {
  readonly id: string;
  readonly phase: Phase | null;
  /** Null where it was not there, or is not there any more. */
  readonly was: string | null;
  readonly is: string | null;
  /** A note of a person that stands beside it. */
  readonly note: string | null;
}

/** What changed since a person last looked, but for what they added themselves; nothing where nobody ever did. Notes of steps that are gone are among them. */
export function sheetChanges(steps: readonly Step[], { seen, notes }: SheetEdits): SheetChange[] {
  const present = new Map(steps.map((s) => [s.id, s]));
  const change = (id: string): SheetChange => {
    const step = present.get(id);
    return { id, phase: step?.phase ?? null, was: seen?.[id] ?? null, is: step ? saysOf(step) : null, note: notes[id] ?? null };
  };
  const orphaned = Object.keys(notes).filter((id) => !present.has(id) && seen?.[id] === undefined);
  if (seen === null) return orphaned.map(change);
  const differs = steps.filter((s) => !s.isAdded && seen[s.id] !== saysOf(s)).map((s) => s.id);
  const gone = Object.keys(seen).filter((id) => !present.has(id));
  return [...differs, ...gone, ...orphaned].map(change);
}
