import { quantity, fields, within } from '../../field/index.ts';
import { capacitorFormulas, work, type Worked } from '../../formula/index.ts';
import type { FigureSpec, RigContext } from '../../block/context.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'life-shots': true;
  }
}

/** How many shots a capacitor is rated for, and how that grows as the voltage is less. */
export const lifeFields = fields({
  Nr: quantity('Rated shot life', '1', within(1, 1e12), null, {
    help: 'At its DC rating. The shot book then counts what has been used up.',
  }),
  nl: quantity('Exponent of the voltage-life law', '1', within(1, 30), '7', {
    help: '7 for film and paper is common practice, no source; a data sheet that gives another comes first.',
  }),
});

/** Shots until the life of the capacitor that sees `voltage` is used up. */
export const lifeFigure = (voltage: (rig: RigContext) => Worked): FigureSpec => ({
  id: 'life-shots',
  asks: 'wears',
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
