import type { FaultMode, Slot } from '../../block/index.ts';
import { ifKnown, RigReading } from '../../figure/index.ts';
import { printQuantity, stepPreferred } from '../../quantity/index.ts';
import { blockDefinition, changeKind } from '../../kind/index.ts';
import { blockIn, quantityAt, typedAt, withBlock, withTrialValue, type Rig } from '../../rig/index.ts';
import { energyInto, runFault, shortSpan, type FaultRun } from './run.ts';
import { faultModes, type PlacedMode } from './modes.ts';

/** Something that would contain a fault, sized for this rig. */
export interface Remedy {
  readonly id: 'fuse' | 'resistor' | 'dump' | 'practice';
  readonly title: string;
  /** What it does and what it has to be, in numbers. */
  readonly says: string;
  /** J into what failed with it; null where it is about something else. */
  readonly leaves: number | null;
  /** What it costs at a normal shot. */
  readonly costs: string | null;
  /** Fields that a click sets. */
  readonly sets: readonly { readonly path: string; readonly value: number }[];
  /** A block of another kind that it brings. */
  readonly kind?: { readonly slot: Slot; readonly kind: string };
  /** Why it cannot be had; null where it can. */
  readonly not: string | null;
}

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

/** s in which a dump that is proposed takes the store down. Common practice, no source. */
const dumpWithin = 5;

function dump(reading: RigReading, goal: number): Remedy | null {
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

/** The rig with a remedy in it, as one edit. */
export function contained(rig: Rig, { kind, sets }: Pick<Remedy, 'kind' | 'sets'>): Rig {
  const block = kind && blockIn(rig, kind.slot);
  const other = kind && block ? blockDefinition(kind.slot, kind.kind) : null;
  const with_ =
    kind && block && other ? withBlock(rig, kind.slot, changeKind(block, blockDefinition(kind.slot, block.kind), other)) : rig;
  return sets.reduce((made, { path, value }) => {
    const at = quantityAt<string>(made, path);
    const typed = typedAt<string>(made, path, value);
    if (!at || !typed) return made;
    const own = blockIn(made, at.spot);
    return withBlock(made, at.spot, { ...own, fields: { ...own.fields, [at.id]: typed } });
  }, with_);
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

const practice = (title: string, says: string): Remedy => ({
  id: 'practice',
  title,
  says,
  leaves: null,
  costs: null,
  sets: [],
  not: null,
});

/** What people do about it, where no part does. Common practice, no source. */
const practices: { readonly [place: string]: readonly [title: string, says: string] } = {
  'supply.runaway': [
    'Ceiling of the supply',
    'A supply that cannot give more than the rating of the store needs no regulator to hold it back; else an overvoltage trip that opens the interlock, and a second meter.',
  ],
  'supply.earth-off': [
    'Two earths',
    'One star point, two leads to it by different ways, each pulled on by hand and read below 0.1 Ω before the strap comes off.',
  ],
  'charging.charging-short': [
    'Two resistors in series',
    'Of two in series one that bridges leaves the other; a fuse in the charging lead that breaks the voltage of the store.',
  ],
  'charging.charging-open': [
    'Look for it with the supply off',
    'A store that does not come up is treated as one at full voltage: supply off, locked, stick, then look.',
  ],
  'switch.early': [
    'Interlock',
    'Nobody is inside the guard from the strap off on; the charge begins from outside it, and the door opens the dump.',
  ],
  'switch.stays-on': [
    'Charger that is stopped by the shot',
    'The trigger stops the charger for longer than the arc needs to go out; a relay between them does it by contacts.',
  ],
  'switch.no-fire': [
    'Misfire branch',
    'Supply off, wait, dump, bleed to its worst case, stick: the run sheet has the branch. Nobody goes in to look first.',
  ],
  'meter.lead-off': [
    'Prove the meter',
    'On a known voltage before and after the reading. A reading that does not fall as calculated is no reading.',
  ],
  'load.missing': ['Pull on the leads', 'With the strap on; a shot that was not heard is a misfire.'],
  'meter.foot-open': [
    'Clamp across the foot',
    'A spark gap, a varistor or a pair of lamps across the foot, at the divider and not at the meter; the meter is looked at, never touched.',
  ],
  'load.turn-short': [
    'Inductance before the day',
    'Measure it cold at each session: a coil that lost some per cent since the last has a turn gone.',
  ],
  'dump.stuck-closed': [
    'Watch it come up',
    'A store that stays below what it should reach in the time of the sheet is stopped: supply off, and look at the dump.',
  ],
  'store.capacitor-off': [
    'Stick each string',
    'After a weak shot the stick goes across each capacitor, not across the bank alone.',
  ],
  'store.capacitor-low': ['Measure them', 'Capacitance of each, once a season: one that lost a tenth goes.'],
};

/** What would contain a fault, the surest first. */
export function remedies(
  rig: Rig,
  name: string,
  placed: PlacedMode,
  reading: RigReading,
  runs: readonly FaultRun[],
  goal: number,
): Remedy[] {
  const { slot, mode } = placed;
  const { lead, into = [], shorts, leavesCharged } = mode;
  const found: Remedy[] = [];
  if (shorts && lead !== undefined && reading.own('store').quantity('np').value > 1) {
    found.push(fuse(reading, runs, lead, into));
    const before = Math.max(...runs.map((run) => energyInto(run, into)));
    found.push(resistor(rig, name, placed, reading, before));
    const apart = compartments(reading, before);
    if (apart) found.push(apart);
  }
  if (leavesCharged) {
    const made = dump(reading, goal);
    if (made) found.push(made);
  }
  const said = practices[`${slot}.${mode.id}`];
  if (said) found.push(practice(...said));
  // What a field would not let through is no offer.
  return found.map((one) =>
    one.kind || one.sets.every(({ path, value }) => typedAt<string>(rig, path, value) !== null) ? one : { ...one, sets: [] },
  );
}
