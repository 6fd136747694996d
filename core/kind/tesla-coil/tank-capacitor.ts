import { rating, fields } from '../../field/index.ts';
import { bleedFormulas, storeFormulas, tankFormulas, work, type Worked } from '../../formula/index.ts';
import { defineBlock } from '../../block/define.ts';
import type { RigContext } from '../../block/context.ts';
import { capacitorBankFields } from '../bank/bank-fields.ts';
import { capacitorBank } from '../bank/capacitor-bank.ts';
import type { FigureId } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'store/tank-capacitor': typeof tankCapacitorFields;
  }
  interface FigureIds {
    'tank-capacitor-heat': true;
  }
}

/** Strings side by side share the current of the ring. */
const ofOne = (rig: RigContext, current: FigureId, title: string): Worked =>
  work(tankFormulas.currentOfOne, { x: rig.figure(current), n: rig.own('store').quantity('np') }, title);

const tankCapacitorFields = fields(
  {
    ...capacitorBankFields,
    Is: rating('RMS current rating, each', 'A', 1e6, { help: 'At the frequency of the tank, from its data sheet.' }),
    S: rating('dV/dt rating, each', 'V/s', 1e15),
  },
  { ratings: ['S', 'Is'] },
);

/** Capacitors of a tank: besides their voltage they bear a current and a slope, over and over. */
export const tankCapacitor = defineBlock({
  ...capacitorBank,
  kind: 'tank-capacitor',
  title: 'Tank capacitor',
  fields: tankCapacitorFields,
  figures: [
    ...(capacitorBank.figures ?? []),
    {
      id: 'tank-capacitor-heat',
      asks: 'wears',
      title: 'Heat in the tank capacitors',
      slot: 'store',
      mayBeMissing: true,
      compute: (rig) => {
        const own = rig.own('store');
        const R = work(
          storeFormulas.bankResistance,
          { R: own.quantity('ESR'), ns: own.quantity('ns'), np: own.quantity('np') },
          'ESR of the bank',
        );
        return work(bleedFormulas.resistorPowerFromCurrent, { I: rig.figure('tank-rms'), R }, 'heat in the tank capacitors');
      },
    },
  ],
  limits: [
    ...(capacitorBank.limits ?? []),
    {
      id: 'tank-capacitor-current',
      title: 'Tank capacitor: RMS current, each',
      slot: 'store',
      stress: (rig) => ofOne(rig, 'tank-rms', 'current per string, RMS'),
      rating: (rig) => rig.own('store').optional('Is'),
      levers: ['charging.R'],
      note: 'It heats the capacitor, break after break; a ripple-filter capacitor fails within minutes.',
    },
    {
      id: 'tank-capacitor-slope',
      title: 'Tank capacitor: dV/dt, each',
      slot: 'store',
      stress: (rig) =>
        work(tankFormulas.slopeOfOne, { x: rig.figure('tank-slope'), n: rig.own('store').quantity('ns') }, 'slope per capacitor'),
      rating: (rig) => rig.own('store').optional('S'),
      levers: ['store.C'],
    },
  ],
});
