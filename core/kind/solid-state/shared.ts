import { rating, fields } from '../../field/index.ts';
import type { LimitSpec, StepSpec } from '../../block/context.ts';

/** Ratings that every switch has, and the stresses they are held against. */
export const switchRatingFields = fields({
  Vr: rating('Hold-off voltage', 'V', 1e7, { help: 'Voltage it blocks without turning on.' }),
  I: rating('Peak current rating', 'A', 1e8, {
    symbol: 'Ip',
    help: 'Surge or making current for a single pulse, not the continuous current.',
  }),
  S: rating('di/dt rating', 'A/s', 1e15),
  A: rating('Action rating (I²t)', 'A²s', 1e15),
});

export const switchLimits: readonly LimitSpec[] = [
  {
    id: 'switch-voltage',
    title: 'Switch hold-off',
    slot: 'switch',
    stress: (rig) => rig.offer('chargedTo'),
    rating: (rig) => rig.own('switch').optional('Vr'),
    levers: ['store.V0', 'switch.Vr'],
  },
  {
    id: 'switch-current',
    title: 'Switch peak current',
    slot: 'switch',
    stress: (rig) => rig.figure('peak-current'),
    rating: (rig) => rig.own('switch').optional('I'),
    levers: ['load.R', 'store.V0', 'load.L'],
    protects: true,
  },
  {
    id: 'switch-di-dt',
    title: 'Switch di/dt',
    slot: 'switch',
    stress: (rig) => rig.figure('peak-di-dt'),
    rating: (rig) => rig.own('switch').optional('S'),
    levers: ['load.L', 'store.V0'],
  },
  {
    id: 'switch-action',
    title: 'Switch action',
    slot: 'switch',
    stress: (rig) => rig.figure('action-integral'),
    rating: (rig) => rig.own('switch').optional('A'),
    levers: ['load.R', 'store.V0'],
    note: 'A pulse is judged by its action integral; the continuous current on a label says little about it.',
  },
];

export const fireSteps = (how: string): StepSpec[] => [
  {
    id: 'clear',
    // Before the charge: between isolating and firing every second costs voltage.
    phase: 'charge',
    text: 'Nobody in line with the load or its leads, hearing and eye protection on, the count agreed: from here on nobody leaves their place.',
    hold: 'Everyone present has answered.',
    second: true,
  },
  { id: 'fire', phase: 'fire', text: how, does: 'fire', caution: 'Leads and coils kick: what is not held down flies.' },
];

/** The trigger off before anybody goes near, whichever way the shot went: what can still fire it during a bleed can kill. */
export const triggerOffSteps = (text: string, hold: string): StepSpec[] =>
  (['bleed', 'misfire', 'abort'] as const).map((phase) => ({
    id: phase === 'misfire' ? 'trigger-off' : `trigger-off-${phase}`,
    phase,
    text,
    hold,
  }));
