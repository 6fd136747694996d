import type { Settings, Starter } from '../../block/index.ts';
import { bankStarter, canStarter, gapFor, magnetiserStarter, peakingStarter, triggeredAt, wireStarter } from './bank.ts';
import { batteryStarter, coilgunStarter, coilgunsStarter } from './coilgun.ts';
import { marxStarter, multiplierStarter } from './marx.ts';
import { around, sourceAndResistor, type Surrounded } from './neighbours.ts';
import { pictures } from './pictures.ts';
import { teslaAcStarter, teslaDcStarter } from './tesla-coil.ts';

/** What a person may begin with, in the order of the front page. */
export const starters: readonly Starter[] = [
  bankStarter,
  marxStarter,
  coilgunStarter,
  coilgunsStarter,
  teslaDcStarter,
  teslaAcStarter,
  magnetiserStarter,
  canStarter,
  wireStarter,
  peakingStarter,
  batteryStarter,
  multiplierStarter,
];

export const starterBy = (id: string): Starter | null => starters.find((starter) => starter.id === id) ?? null;

/** What is begun without a rig: where it is, and how it is shown among the starters. */
export const otherStarts: readonly (Pick<Starter, 'title' | 'says' | 'picture'> & { readonly path: string })[] = [
  {
    path: '/design',
    title: 'Design from a goal',
    says: 'Whole rigs out of your shelf and what can be bought, for an energy, a field, a speed or a pulse.',
    picture: pictures.design,
  },
  {
    path: '/discharge',
    title: 'Discharge a capacitor',
    says: 'One capacitor on the bench: what it can do to a person, which resistor, how long.',
    picture: pictures.discharge,
  },
  {
    path: '/sums',
    title: 'A single sum',
    says: 'Any single formula, solved for any of its symbols.',
    picture: pictures.sum,
  },
];

/** V above which a gap is offered where a switch does not hold; below it is the switch of a new rig. Common practice, no source. */
const gapFrom = 2000;

export { bankAt, gapFor, gapTuned, triggeredAt } from './bank.ts';
export { stageAt } from './coilgun.ts';
export { ladderFor, stagesAt } from './marx.ts';

/** Supply, charging path, switch, bleeder, stick and meter that fit a store. */
export const surroundings = (store: Surrounded): Settings => ({
  ...sourceAndResistor(store),
  ...around(store),
  ...(store.V > gapFrom
    ? { switch: { kind: 'spark-gap', fields: gapFor(store.V * triggeredAt) }, trigger: { kind: 'trigger-generator' } }
    : { switch: { kind: 'contact', fields: { Vr: Number((store.V * 1.5).toPrecision(2)) } } }),
});
