import { rating } from '../../field/index.ts';
import { ruled, switchFormulas, work, type Worked } from '../../formula/index.ts';
import type { FigureSpec, LimitSpec, RigContext } from '../../block/context.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'switch-charge': true;
    'switch-heat': true;
  }
}

/** Charge that goes through the switch in a shot, both ways added up. */
function chargeThrough(rig: RigContext): Worked {
  const of = { Q: rig.figure('stored-charge'), k: rig.figure('voltage-reversal') };
  return rig.offers('switch').conduction === 'both-ways'
    ? work(switchFormulas.switchCharge, of)
    : work(switchFormulas.switchHalfCharge, of);
}

export const chargeFigure: FigureSpec = {
  id: 'switch-charge',
  title: 'Charge through the switch, one shot',
  slot: 'switch',
  compute: chargeThrough,
};

const none = ruled('threshold', 0, 'V', 'it has none');

/** Heat in a switch with a threshold and a slope resistance, either of which may be nought. */
export const heatFigure: FigureSpec = {
  id: 'switch-heat',
  title: 'Heat in the switch, one shot',
  slot: 'switch',
  compute: (rig) =>
    work(switchFormulas.conductionHeat, {
      VT: rig.offers('switch').threshold ?? none,
      Q: rig.figure('switch-charge'),
      R: rig.own('switch').quantity('R'),
      A: rig.figure('action-integral'),
    }),
};

export const chargeRating = rating('Charge per shot', 'C', 1e6, {
  symbol: 'Qr',
  help: 'What its data sheet allows in one shot, both ways added up: it is what erodes it.',
});
export const heatRating = rating('Heat per shot', 'J', 1e9, {
  symbol: 'Er',
  help: 'From the transient thermal impedance of its data sheet, at the length of the pulse.',
});

export const chargeLimit: LimitSpec = {
  id: 'switch-charge',
  title: 'Switch, charge per shot',
  slot: 'switch',
  stress: (rig) => rig.figure('switch-charge'),
  rating: (rig) => rig.own('switch').optional('Qr'),
  levers: ['store.V0', 'load.R'],
  onlyIfKnown: true,
};

export const heatLimit: LimitSpec = {
  id: 'switch-heat',
  title: 'Switch, heat per shot',
  slot: 'switch',
  stress: (rig) => rig.figure('switch-heat'),
  rating: (rig) => rig.own('switch').optional('Er'),
  levers: ['store.V0', 'load.R'],
  onlyIfKnown: true,
};
