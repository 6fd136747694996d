import type { FieldSpec } from '../field.ts';
import type { LimitSpec, StepSpec } from '../context.ts';

/** Ratings that every switch has, and the stresses they are held against. */
export const switchRatingFields = {
  Vr: {
    type: 'quantity',
    symbol: 'Vr',
    title: 'Hold-off voltage',
    unit: 'V',
    min: 0,
    max: 1e7,
    open: true,
    initial: null,
    optional: true,
    help: 'Voltage it blocks without closing by itself.',
  },
  I: {
    type: 'quantity',
    symbol: 'Ip',
    title: 'Peak current rating',
    unit: 'A',
    min: 0,
    max: 1e8,
    open: true,
    initial: null,
    optional: true,
    help: 'Surge or making current for a single pulse, not the continuous current.',
  },
  S: {
    type: 'quantity',
    symbol: 'S',
    title: 'di/dt rating',
    unit: 'A/s',
    min: 0,
    max: 1e15,
    open: true,
    initial: null,
    optional: true,
  },
  A: {
    type: 'quantity',
    symbol: 'A',
    title: 'Action rating (I²t)',
    unit: 'A²s',
    min: 0,
    max: 1e15,
    open: true,
    initial: null,
    optional: true,
  },
} as const satisfies Record<string, FieldSpec>;

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
    phase: 'fire',
    text: 'Guard shut, nobody in line with the load or its leads, ears and eyes covered. Say the count aloud.',
    hold: 'Everyone present has answered.',
  },
  { id: 'fire', phase: 'fire', text: how, caution: 'Leads and coils kick: what is not held down flies.' },
];
