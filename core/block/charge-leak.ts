import { chargeFormulas, work, type Worked } from '../formula/index.ts';
import type { RigContext } from './context.ts';

/** What a charge has to feed beside the store: its bleeder and its meter, side by side; null where there is neither. */
export function chargeLeak(rig: RigContext): Worked | null {
  const { bleedResistance, isSwitched } = rig.offers('bleeder');
  // One that is held off for the charge feeds on nothing meanwhile.
  const R1 = isSwitched ? undefined : bleedResistance;
  const { meterResistance: R2 } = rig.offers('meter');
  return R1 && R2 ? work(chargeFormulas.parallelResistance, { R1, R2 }, 'bleeder and meter') : (R1 ?? R2 ?? null);
}
