import { bleedFormulas, marxFormulas, ruled, storeFormulas, work, type Worked } from '../formula/index.ts';
import type { RigContext } from './context.ts';

/** Time until the whole store has fallen to a voltage through a resistance at its terminals: of stages, until the last has. */
export function bleedThrough(rig: RigContext, R: Worked, V: Worked, title: string): Worked {
  const V0 = rig.offer('chargedTo');
  const ladder = rig.offers('store').ladder;
  return ladder
    ? work(marxFormulas.ladderBleedTime, { ...ladder, Rb: R, V0, V }, title)
    : work(bleedFormulas.rcBleedTime, { R, C: rig.offer('capacitance'), V0, V }, title);
}

const ten = ruled('a tenth', 10, '1', 'a tenth of the voltage is 1 % of the energy');

/** Time until the whole store has fallen to a tenth of its voltage through a resistance at its terminals. */
export function tenthThrough(rig: RigContext, R: Worked, title: string): Worked {
  if (!rig.offers('store').ladder) return work(bleedFormulas.rcTimeToTenth, { R, C: rig.offer('capacitance') }, title);
  const tenth = work(storeFormulas.shareOfString, { V: rig.offer('chargedTo'), n: ten }, 'a tenth of the voltage');
  return bleedThrough(rig, R, tenth, title);
}
