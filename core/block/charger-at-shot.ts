import type { RigContext } from './context.ts';

/** Whether the charger is still on the store at the shot: entered so, and not dropped by what fires the switch. */
export const staysConnected = (rig: RigContext): boolean =>
  rig.own('charging').is('firing', 'connected') && rig.offers('trigger').dropsCharger === undefined;
