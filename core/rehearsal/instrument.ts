import { benchMeter, type BenchMeter } from '../instrument/index.ts';
import type { RunPlan } from '../run/index.ts';
import type { Rehearsal } from './rehearsal.ts';
import { meterGain, type World } from './world.ts';

/** Steps of a range that is far too high: twice what is aimed at, so that a store above it may show nought. */
const coarse = 2 * 6000;

/** The meter on the bank of a rehearsal as it is at the time: its range, what is wrong with it, what it has suffered. */
export function meterIn(plan: RunPlan, rehearsal: Rehearsal, world: World): BenchMeter {
  const { meter, below, highest } = plan.numbers;
  const most = meter.most ?? 2 * highest;
  const isCoarse = world.meter === 'first' && rehearsal.faults.includes('wrong-range');
  return {
    ...benchMeter.initial,
    most: isCoarse ? Math.max(most, coarse * below) : most,
    range: isCoarse ? coarse * below : null,
    gain: meterGain(rehearsal, world),
    isDestroyed: world.isMeterDestroyed,
  };
}
