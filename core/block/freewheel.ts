import type { Offers, RigContext } from './context.ts';

/** What takes the current over where it would reverse the store: a crowbar across the load, or a diode that the load brings. */
export const freewheelOf = (rig: Pick<RigContext, 'offers'>): Offers['freewheel'] =>
  rig.offers('crowbar').freewheel ?? rig.offers('load').freewheel;
