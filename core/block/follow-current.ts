import { chargeFormulas, work, type Worked } from '../formula/index.ts';
import type { RigContext } from './context.ts';

/**
 * What the charger goes on giving into a store that is empty: its limit where it has one, else its voltage over its resistance, A.
 *
 * @throws FormulaError where nothing limits it
 */
export function followCurrent(rig: RigContext): Worked {
  const law = rig.offers('supply').chargeLaw;
  if (law) return law.peak(rig);
  const inputs = { Vs: rig.offer('sourceVoltage'), R: rig.figure('charging-resistance') };
  return work(chargeFormulas.initialCurrent, inputs, 'current that the charger goes on giving');
}
