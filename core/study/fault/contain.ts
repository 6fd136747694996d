import type { FaultMode } from '../../block/index.ts';
import { ifKnown, RigReading } from '../../figure/index.ts';
import { printQuantity, stepPreferred } from '../../quantity/index.ts';
import { typedAt, withTrialValue, type Rig } from '../../rig/index.ts';
import { crowbar, dump, guard, secondBleeder } from './contain-rig.ts';
import { faultModes, type PlacedMode } from './modes.ts';
import { practice, practices } from './practices.ts';
import type { Remedy } from './remedy.ts';
import { energyInto, runFault, shortSpan, type FaultRun } from './run.ts';

/** Clearing over melting action of a fuse: what flows while it arcs is counted. Source: data sheets of high-speed fuses, 2 to 4; from memory. */
const clearing = 3;
/** A fuse melts at an action this much above its own, and stands a shot this much below. Common practice, no source. */
const margin = 2;

/** J into the failed part until a fuse in its lead has cleared, with what its inductance still brings. */
function letThrough(run: FaultRun, lead: string, into: readonly string[], Am: number): number {
  const current = run.currents.get(lead);
  if (!current) return energyInto(run, into);
  const resistances = into.flatMap((name) => {
    const part = run.parts.find(({ element }) => element.name === name);
    return part?.element.kind === 'resistor' ? [{ R: part.element.R, trace: run.currents.get(name) }] : [];
  });
  let [action, E] = [0, 0];
  for (let i = 1; i < current.t.length; i++) {
    const dt = (current.t[i] ?? 0) - (current.t[i - 1] ?? 0);
    action += (dt * ((current.y[i] ?? 0) ** 2 + (current.y[i - 1] ?? 0) ** 2)) / 2;
    for (const { R, trace } of resistances) E += (R * dt * ((trace?.y[i] ?? 0) ** 2 + (trace?.y[i - 1] ?? 0) ** 2)) / 2;
    if (action >= clearing * Am) {
      const coil = run.parts.find(({ element }) => element.name === lead)?.element;
      // Its own charge it gives to the short whatever the fuse does.
      const own = run.parts.find(
        ({ element }) => element.kind === 'capacitor' && element.name === lead.replace(/^[LR]/, 'C'),
      )?.element;
      const V = own ? (run.voltages.get(own.name)?.y[i] ?? 0) : 0;
      const left = own?.kind === 'capacitor' ? (own.C * V * V) / 2 : 0;
      return E + left + (coil?.kind === 'inductor' ? (coil.L * (current.y[i] ?? 0) ** 2) / 2 : 0);
    }
  }
  // It does not clear: all of it goes in.
  return energyInto(run, into);
}

/** J into what failed, with the fuse that stands in its lead. */
export const takenIn = (run: FaultRun, { lead, into = [], fuse }: FaultMode): number =>
  lead === undefined || fuse === undefined ? energyInto(run, into) : letThrough(run, lead, into, fuse);

/** Action through the lead of what failed, least over the resistances a short may have. */
const leastAction = (runs: readonly FaultRun[], lead: string): number =>
  Math.min(...runs.map(({ through }) => through.find(({ name }) => name === lead)?.action ?? 0));

const print = printQuantity;

function fuse(reading: RigReading, runs: readonly FaultRun[], lead: string, into: readonly string[]): Remedy {
  const np = reading.own('store').quantity('np').value;
  const shot = ifKnown(() => reading.figure('action-integral').value / np ** 2);
  const prospective = leastAction(runs, lead);
  const V = reading.offer('chargedTo').value;
  const own = reading.own('store').optional('Am');
  const base = { id: 'fuse' as const, title: 'Fuse per capacitor', costs: null, sets: [], leaves: null };
  if (shot === null) return { ...base, says: '', not: 'the action of a normal shot is not known' };
  const [least, most] = [margin * shot, prospective / margin];
  const range = `It stands ${print(shot, 'A²s')} at every shot and has to melt on ${print(prospective, 'A²s')}, the least that the others drive through it; it breaks at least ${print(V, 'V')} DC.`;
  if (least > most)
    return {
      ...base,
      says: range,
      not: `a shot takes ${print(shot, 'A²s')} of it, and the fault brings only ${print(prospective, 'A²s')}: no fuse tells the two apart`,
    };
  const given = own?.value ?? null;
  const Am = given ?? Number(Math.sqrt(least * most).toPrecision(2));
  const through = Math.max(...runs.map((run) => letThrough(run, lead, into, Am)));
  const clears = Am <= most;
  const says =
    given === null
      ? `${range} From ${print(least, 'A²s')} to ${print(most, 'A²s')} melting I²t will do, ${print(Am, 'A²s')} is the middle.`
      : `${range} The one in the rig has ${print(given, 'A²s')}.`;
  return {
    ...base,
    says,
    leaves: through,
    sets: given === null ? [{ path: 'store.Am', value: Am }] : [],
    not: clears ? null : `it does not clear: ${print(given ?? Am, 'A²s')} is more than half of what the fault brings`,
  };
}

/** J into what failed at the worst of the shorts, with another resistor beside each capacitor. */
function intoWith(rig: Rig, name: string, placed: PlacedMode, Rs: number) {
  const tried = withTrialValue(rig, 'store.Rs', Rs);
  const reading = new RigReading(tried);
  const same = faultModes(tried, reading).find(({ slot, mode }) => slot === placed.slot && mode.id === placed.mode.id);
  if (!same) return Infinity;
  const into = same.mode.into ?? [];
  return Math.max(...shortSpan.map((R) => energyInto(runFault(tried, name, same, R, reading), into)));
}

/** Resistances that are tried, Ω: preferred numbers of E6 from 1 mΩ up. */
const tried = ((): readonly number[] => {
  const all = [1e-3];
  while ((all.at(-1) ?? 1) < 1e3) all.push(stepPreferred(all.at(-1) ?? 1, 1, 'E6'));
  return all;
})();

function resistor(rig: Rig, name: string, placed: PlacedMode, reading: RigReading, before: number): Remedy {
  const own = reading.own('store');
  const ns = own.quantity('ns').value;
  const V1 = reading.offer('chargedTo').value / ns;
  const itself = (own.quantity('C').value * V1 * V1) / 2;
  const stated = own.optional('Ec')?.value ?? null;
  const base = { id: 'resistor' as const, title: 'Series resistor per capacitor', costs: null, sets: [], leaves: null };
  if (stated !== null && itself > stated)
    return {
      ...base,
      says: '',
      not: `its own ${print(itself, 'J')} already are more than the ${print(stated, 'J')} its case contains: only smaller capacitors, less voltage or a wall help`,
    };
  const was = ifKnown(() => reading.figure('peak-current').value);
  const peakWith = (Rs: number): number | null =>
    ifKnown(() => new RigReading(withTrialValue(rig, 'store.Rs', Rs)).figure('peak-current').value);
  const get = (Rs: number) => intoWith(rig, name, placed, Rs);
  const offer = (Rs: number, says: string): Remedy => {
    const is = peakWith(Rs);
    return {
      ...base,
      says,
      leaves: get(Rs),
      costs: was === null || is === null ? null : `peak current ${print(was, 'A')} → ${print(is, 'A')} at a normal shot`,
      sets: [{ path: 'store.Rs', value: Rs }],
      not: null,
    };
  };
  if (stated === null) {
    // What its case contains is not known: as much as the shot can spare.
    const spare = tried.filter((Rs) => was !== null && (peakWith(Rs) ?? 0) >= 0.9 * was).at(-1);
    return spare === undefined
      ? { ...base, says: '', not: 'any that helps takes more than a tenth of the peak current of a shot' }
      : offer(
          spare,
          `${print(spare, 'Ω', { trim: true })} in the lead of each takes a tenth of the peak current of a shot at most. What its case contains is not rated: enter it, and it is sized by that.`,
        );
  }
  if (before <= stated)
    return {
      ...base,
      says: `${print(before, 'J')} are within the ${print(stated, 'J')} that its case contains.`,
      not: 'none is needed',
    };
  // Less gets in as it grows: the first that does is found by halving.
  let [low, high] = [0, tried.length - 1];
  const last = tried[high] ?? 0;
  if (get(last) > stated) return { ...base, says: '', not: `not even ${print(last, 'Ω')} keeps it to ${print(stated, 'J')}` };
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (get(tried[middle] ?? 1) <= stated) high = middle;
    else low = middle + 1;
  }
  const Rs = tried[low] ?? 1;
  return offer(
    Rs,
    `${print(Rs, 'Ω', { trim: true })} in the lead of each: no more gets in than the ${print(stated, 'J')} that its case contains.`,
  );
}

/** A, the most that what failed carries at the worst of the shorts. */
const worstPeak = (runs: readonly FaultRun[], lead: string): number =>
  Math.max(...runs.map(({ through }) => through.find(({ name }) => name === lead)?.peak ?? 0));

/** Inductances that are tried, H: preferred numbers of E6 from 10 nH up. */
const coils = ((): readonly number[] => {
  const all = [1e-8];
  while ((all.at(-1) ?? 1) < 1e-3) all.push(stepPreferred(all.at(-1) ?? 1, 1, 'E6'));
  return all;
})();

/** It slows what the others drive into one that shorts; what it holds back comes later. */
function inductor(rig: Rig, name: string, placed: PlacedMode, reading: RigReading, runs: readonly FaultRun[]): Remedy {
  const base = { id: 'inductor' as const, title: 'Series inductor per capacitor', costs: null, sets: [], leaves: null };
  const was = ifKnown(() => reading.figure('peak-current').value);
  const peakWith = (Ls: number): number | null =>
    ifKnown(() => new RigReading(withTrialValue(rig, 'store.Ls', Ls)).figure('peak-current').value);
  const spare = coils.filter((Ls) => was !== null && (peakWith(Ls) ?? 0) >= 0.9 * was).at(-1);
  if (spare === undefined)
    return { ...base, says: '', not: 'any that helps takes more than a tenth of the peak current of a shot' };
  const triedRig = withTrialValue(rig, 'store.Ls', spare);
  const tried = new RigReading(triedRig);
  const same = faultModes(triedRig, tried).find(({ slot, mode }) => slot === placed.slot && mode.id === placed.mode.id);
  const [had, lead] = [placed.mode.lead, same?.mode.lead];
  if (!same || lead === undefined || had === undefined) return { ...base, says: '', not: 'it has no lead of its own' };
  const [before, after] = [worstPeak(runs, had), worstPeak([runFault(triedRig, name, same, shortSpan[0], tried)], lead)];
  const is = peakWith(spare);
  return {
    ...base,
    says: `${print(spare, 'H', { trim: true })} in the lead of each brings the current into one that shorts from ${print(before, 'A')} to ${print(after, 'A')}. The energy gets in all the same: it spares leads and neighbours, and gives a fuse time.`,
    costs: was === null || is === null ? null : `peak current ${print(was, 'A')} → ${print(is, 'A')} at a normal shot`,
    sets: [{ path: 'store.Ls', value: spare }],
    not: null,
  };
}

/** J into one that shorts where every part of the bank stands behind a switch or a resistor of its own. */
function compartments(reading: RigReading, before: number): Remedy | null {
  const own = reading.own('store');
  const [np, stated] = [own.quantity('np').value, own.optional('Ec')?.value ?? null];
  const E = reading.figure('stored-energy').value;
  if (before < 1) return null;
  // Of a bank in m parts no more than one part gets into one that shorts.
  const m = stated === null ? 2 : Math.ceil(E / stated);
  if (m > np) return null;
  return {
    ...practice(
      'Compartments',
      `In ${m} parts of ${Math.ceil(np / m)} strings at the most, each behind a wall and a switch or resistor of its own: no more than ${print((E * Math.ceil(np / m)) / np, 'J')} are in one of them.`,
    ),
    leaves: Math.min(before, (E * Math.ceil(np / m)) / np),
  };
}

/** What would contain a fault, the surest first. */
export function remedies(
  rig: Rig,
  name: string,
  placed: PlacedMode,
  reading: RigReading,
  runs: readonly FaultRun[],
  goal: number,
  isReversed: boolean,
): Remedy[] {
  const { slot, mode } = placed;
  const { lead, into = [], shorts, leavesCharged } = mode;
  const found: Remedy[] = [];
  if (shorts && lead !== undefined && reading.own('store').quantity('np').value > 1) {
    found.push(fuse(reading, runs, lead, into));
    const before = Math.max(...runs.map((run) => energyInto(run, into)));
    found.push(resistor(rig, name, placed, reading, before));
    found.push(inductor(rig, name, placed, reading, runs));
    const apart = compartments(reading, before);
    if (apart) found.push(apart);
  }
  if (leavesCharged) {
    const made = dump(reading, goal);
    if (made) found.push(made);
  }
  const clamp = isReversed ? crowbar(reading) : null;
  if (clamp) found.push(clamp);
  const of = `${slot}.${mode.id}`;
  const other = of === 'bleeder.open' ? secondBleeder(rig, reading) : mode.moment === 'early' ? guard(rig, reading) : null;
  if (other) found.push(other);
  const said = practices[of];
  if (said) found.push(practice(...said));
  // What a field would not let through is no offer.
  return found.map((one) =>
    one.kind || one.sets.every(({ path, value }) => typedAt<string>(rig, path, value) !== null) ? one : { ...one, sets: [] },
  );
}
