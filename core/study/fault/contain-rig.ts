import { twoDumpsFrom } from '../../block/index.ts';
import { evaluateRig } from '../../evaluation/index.ts';
import { ifKnown, type RigReading } from '../../figure/index.ts';
import { printQuantity, stepPreferred } from '../../quantity/index.ts';
import { quantityAt, type Rig } from '../../rig/index.ts';
import { contained, type Remedy } from './remedy.ts';

const print = printQuantity;

/** s in which a dump that is proposed takes the store down. Common practice, no source. */
const dumpWithin = 5;

/** A dump that falls in when the power goes, where the rig has none. */
export function dump(reading: RigReading, goal: number): Remedy | null {
  if (reading.offers('dump').dumpResistance || reading.offers('switch').freeRunning) return null;
  const [C, V] = [reading.figure('bank-capacitance').value, reading.offer('chargedTo').value];
  if (!(V > goal)) return null;
  const R = stepPreferred(dumpWithin / (C * Math.log(V / goal)), -1, 'E6');
  return {
    id: 'dump',
    title: 'Dump that falls in when power fails',
    says: `${print(R, 'Ω', { trim: true })} behind a relay that is held open: below ${print(goal, 'V', { trim: true })} in about ${print(R * C * Math.log(V / goal), 's', { digits: 2 })}. Its resistor takes ${print((C * V * V) / 2, 'J')} at once.`,
    leaves: null,
    costs: null,
    kind: { slot: 'dump', kind: 'relay' },
    sets: [{ path: 'dump.R', value: R }],
    not: null,
  };
}

/** A second string across the store: what is left when one has opened is what stands there now. */
export function secondBleeder(rig: Rig, reading: RigReading): Remedy | null {
  const R = reading.offers('bleeder').bleedResistance;
  if (!R || !quantityAt<string>(rig, 'bleeder.m') || reading.own('bleeder').quantity('m').value !== 1) return null;
  const P = ifKnown(() => reading.figure('bleeder-power').value);
  return {
    id: 'bleeder',
    title: 'Second bleeder',
    says: `A second string of ${print(R.value, 'Ω', { trim: true })} on leads of its own: with one of the two open the store still goes down in the time that the sheet has now, and with both in half of it.`,
    leaves: null,
    costs: P === null ? null : `${print(P, 'W')} → ${print(2 * P, 'W')} for as long as it stands charged`,
    sets: [{ path: 'bleeder.m', value: 2 }],
    not: null,
  };
}

/** m that people are tried at. */
const distances = [1, 1.5, 2, 3, 4, 5, 6, 8, 10, 15, 20, 30, 50] as const;

/** A guard with its interlock, where the rig has none: as far away as every line of the guard asks for. */
export function guard(rig: Rig, reading: RigReading): Remedy | null {
  if (reading.offers('guard').interlock) return null;
  const E = reading.figure('stored-energy').value;
  const dumps = reading.offers('dump').dumpResistance ? (E > twoDumpsFrom ? 2 : 1) : 0;
  const kind = { slot: 'guard', kind: 'guarded' } as const;
  const setsAt = (d: number) => [
    { path: 'guard.d', value: d },
    { path: 'guard.nd', value: dumps },
  ];
  const isEnough = (d: number) =>
    evaluateRig(contained(rig, { kind, sets: setsAt(d) })).ladder.limits.every(
      ({ slot, worst }) => slot !== 'guard' || (worst ?? 0) <= 1,
    );
  const d = distances.find(isEnough);
  const base = { id: 'guard' as const, title: 'Guard with an interlock', leaves: null, costs: null };
  if (d === undefined)
    return {
      ...base,
      says: '',
      sets: [],
      not: `at ${distances.at(-1)} m it is still over a line, with ear muffs on: it takes a wall, or less energy`,
    };
  const holds = ['the charger', 'the trigger'];
  const all = dumps === 0 ? holds : [dumps === 1 ? 'the dump' : 'two dumps', ...holds];
  return {
    ...base,
    says: `People at ${d} m with ear muffs; two contacts on the door, key and emergency stop in one chain that holds ${all.slice(0, -1).join(', ')} and ${all.at(-1)}; the charge begins outside it.`,
    kind,
    sets: setsAt(d),
    not: null,
  };
}

/** V of reverse rating that one diode of a crowbar is taken for, half of it used. Common practice, no source. */
const diodeRating = 1200;

/** A diode across the load, where the store is reversed beyond what it withstands. */
export function crowbar(reading: RigReading): Remedy | null {
  if (reading.offers('crowbar').freewheel || reading.offers('store').pulse) return null;
  const [V, I] = [ifKnown(() => reading.figure('discharge-voltage').value), ifKnown(() => reading.figure('peak-current').value)];
  if (V === null || I === null) return null;
  const nd = Math.max(1, Math.ceil((2 * V) / diodeRating));
  return {
    id: 'crowbar',
    title: 'Crowbar diode across the load',
    says: `${nd === 1 ? 'A diode' : `${nd} diodes in series`} for at least ${print(V, 'V')} in reverse and ${print(I, 'A')} of surge: it takes the current over as the store comes to zero, and the store is not reversed by more than its drop.`,
    leaves: null,
    costs: 'the current dies in the load and not in a ring: it lasts longer',
    kind: { slot: 'crowbar', kind: 'diode' },
    sets: [{ path: 'crowbar.nd', value: nd }],
    not: null,
  };
}
