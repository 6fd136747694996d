import { storeFormulas, work, type Worked } from '../formula/index.ts';
import type { RigContext } from './context.ts';

/** Energy that one discharge of a store by hand has to take: where there are several channels, that of its own. */
export const storeEnergy = (rig: RigContext): Worked =>
  rig.channels().length > 1
    ? work(storeFormulas.storedEnergy, { C: rig.figure('bank-capacitance'), V: rig.offer('chargedTo') }, 'energy per store')
    : rig.figure('stored-energy');
