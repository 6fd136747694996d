import type { Evaluation } from '../evaluation/index.ts';
import { ifKnown } from '../figure/index.ts';
import type { Phase } from '../block/index.ts';
import type { RunSheet } from '../runsheet/index.ts';

/** s to set a gap, a pressure or a voltage anew and read it back. Common practice, no source: time your own. */
export const changeSeconds = 120;

/** Once before the first shot of a session, and once after the last; the rest comes with every shot. */
const before: readonly Phase[] = ['prepare', 'instruments', 'commission'];
const after: readonly Phase[] = ['hand-over'];

/** What a sheet takes, in s: people and waits by its steps, and the charge. */
export interface SheetTime {
  readonly before: number;
  readonly each: number;
  readonly after: number;
}

/** How long a session and each of its shots take by the run sheet of a rig, at the pace that is set in it; several stores are charged in turn. */
export function sheetTime(evaluation: Evaluation, { main, shot }: RunSheet): SheetTime {
  const charge = ifKnown(() => evaluation.corners.nominal().figure('charge-time').value) ?? 0;
  const sum = (wanted: (phase: Phase) => boolean) =>
    main.reduce((all, { phase, seconds, wait }) => all + (wanted(phase) ? seconds + (wait ?? 0) : 0), 0);
  return {
    before: sum((phase) => before.includes(phase)),
    each: sum((phase) => !before.includes(phase) && !after.includes(phase)) + charge + (shot.turns ?? 0),
    after: sum((phase) => after.includes(phase)),
  };
}
