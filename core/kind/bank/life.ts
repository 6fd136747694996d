import { quantity } from '../../field/index.ts';
import { capacitorFormulas, work, type Worked } from '../../formula/index.ts';
import type { FigureSpec, RigContext } from '../../block/context.ts';

/** How many shots a capacitor is rated for, and how that grows as the voltage is less. */
export const lifeFields = {
  Nr: quantity({
    symbol: 'Nr',
    title: 'Shots one is rated for',
    unit: '1',
    min: 1,
    max: 1e12,
    initial: null,
    optional: true,
    help: 'At its dc rating. The shot book then counts what has been used up.',
  }),
  nl: quantity({
    symbol: 'nl',
    title: 'Exponent of the voltage-life law',
    unit: '1',
    min: 1,
    max: 30,
    initial: '7',
    help: '7 for film and paper is common practice, no source; a data sheet that gives another comes first.',
  }),
};

/** Shots until the life of the capacitor that sees `voltage` is used up. */
export const lifeFigure = (voltage: (rig: RigContext) => Worked): FigureSpec => ({
  id: 'life-shots',
  title: 'Shots in the life of a capacitor',
  slot: 'store',
  mayBeMissing: true,
  compute: (rig) => {
    const own = rig.own('store');
    return work(
      capacitorFormulas.lifeAtVoltage,
      { Vr: own.quantity('Vr'), Nr: own.quantity('Nr'), V: voltage(rig), n: own.quantity('nl') },
      'shots at this voltage',
    );
  },
});
