import type { Act, StepSpec } from '../block/index.ts';
import type { SheetEdits } from '../rig/index.ts';

/** s that a person takes for an act: between 2 s for a switch under the hand and a minute. Common practice, no source: time your own. */
const usual: { readonly [K in Act]: number } = {
  'strap-off': 30,
  'hold-off': 3,
  charge: 5,
  isolate: 3,
  fire: 5,
  dump: 3,
  bleed: 5,
  tool: 15,
  prove: 15,
  verify: 10,
  'prove-again': 15,
  held: 15,
  strap: 15,
  'hand-over': 60,
};

const readingSeconds = 10;
const answerSeconds = 5;
const lookSeconds = 10;

/** s that a step takes besides what has to be waited for. */
export function secondsOfStep(step: Pick<StepSpec, 'id' | 'does' | 'seconds' | 'reading' | 'second'>, edits: SheetEdits): number {
  const own = edits.seconds[step.id];
  if (own !== undefined) return own;
  if (edits.pace !== null) return edits.pace;
  if (step.seconds !== undefined) return step.seconds;
  if (step.does) return usual[step.does];
  return step.reading ? readingSeconds : step.second ? answerSeconds : lookSeconds;
}
