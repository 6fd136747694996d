import { rating } from '../../field/index.ts';
import { dischargeFormulas, work, type Worked } from '../../formula/index.ts';
import type { FigureSpec, LimitSpec, RigContext } from '../../block/context.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'crowbar-current': true;
  }
}

/** Ratings that every crowbar has. */
export const crowbarRatings = {
  Ip: rating('Peak current rating', 'A', 1e8, {
    help: 'It takes nearly the peak of the shot, and keeps it for as long as the load lets it.',
  }),
  A: rating('Action rating (I²t)', 'A²s', 1e15),
};

/** Current that it takes over as the store comes to zero. */
const takenOver = (rig: RigContext): Worked =>
  work(
    dischargeFormulas.freewheelCurrent,
    {
      R: rig.figure('loop-resistance'),
      L: rig.figure('loop-inductance'),
      C: rig.figure('loop-capacitance'),
      V: rig.figure('discharge-voltage'),
    },
    'current that it takes over',
  );

export const crowbarFigures: readonly FigureSpec[] = [
  {
    id: 'crowbar-current',
    title: 'Current that the crowbar takes over',
    slot: 'crowbar',
    mayBeMissing: true,
    compute: takenOver,
  },
];

export const crowbarLimits: readonly LimitSpec[] = [
  {
    id: 'crowbar-current',
    title: 'Crowbar, peak current',
    slot: 'crowbar',
    stress: (rig) => rig.figure('crowbar-current'),
    rating: (rig) => rig.own('crowbar').optional('Ip'),
    levers: ['load.L', 'store.V0'],
  },
  {
    id: 'crowbar-action',
    title: 'Crowbar, action',
    slot: 'crowbar',
    // That of the whole shot: what flows before it takes over is counted as well.
    stress: (rig) => rig.figure('action-integral'),
    rating: (rig) => rig.own('crowbar').optional('A'),
    levers: ['load.L', 'store.V0'],
  },
];

/** Resistance that a crowbar has at the least in a circuit, Ω. */
export const leastResistance = 1e-6;
