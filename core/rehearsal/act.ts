import type { RunPlan } from '../run/index.ts';

/** What the hands of a trainee are at. */
export const actGroups = ['Charger', 'Meter', 'Store', 'People'] as const;

/** What a trainee can do to the simulated rig, besides confirming steps. */
export const rehearsalActs = {
  'supply-on': { title: 'Supply on', group: 'Charger' },
  'supply-off': { title: 'Supply off', group: 'Charger' },
  isolate: { title: 'Open the isolator', group: 'Charger' },
  'look-isolator': { title: 'Look at the isolator', group: 'Charger' },
  'prove-meter': { title: 'Prove the meter on a known source', group: 'Meter' },
  'mend-meter': { title: 'New battery, leads seated, right range', group: 'Meter' },
  'second-meter': { title: 'Take the second meter', group: 'Meter' },
  fire: { title: 'Fire', group: 'Store' },
  'hold-off': { title: 'Hold dump and bleeder off', group: 'Store' },
  'fall-in': { title: 'Let dump and bleeder fall in', group: 'Store' },
  'tool-on': { title: 'Stick on the bank', group: 'Store' },
  'tool-off': { title: 'Stick off', group: 'Store' },
  'touch-stages': { title: 'Earthed lead to every element', group: 'Store' },
  'strap-off': { title: 'Strap off', group: 'Store' },
  'strap-on': { title: 'Strap on', group: 'Store' },
  'look-strap': { title: 'Look at the strap', group: 'Store' },
  'try-guard': { title: 'Try each contact of the guard', group: 'People' },
  'call-back': { title: 'Clear the area', group: 'People' },
  approach: { title: 'Go in and touch', group: 'People' },
} as const satisfies Record<string, { title: string; group: (typeof actGroups)[number] }>;
export type RehearsalAct = keyof typeof rehearsalActs;

export const isAct = (text: string): text is RehearsalAct => text in rehearsalActs;

/** What only a rig with a dump or a switched bleeder has a lever for. */
const held: readonly RehearsalAct[] = ['hold-off', 'fall-in'];

/** Those of one group that this rig has something for, in their order. */
export const actsOf = (group: (typeof actGroups)[number], { numbers }: RunPlan): RehearsalAct[] =>
  (Object.keys(rehearsalActs) as RehearsalAct[]).filter(
    (act) =>
      rehearsalActs[act].group === group &&
      (numbers.dump !== null || numbers.isSwitched || !held.includes(act)) &&
      (numbers.interlock !== null || act !== 'try-guard'),
  );
