import type { Settings } from '../../block/index.ts';
import { stepPreferred } from '../../quantity/index.ts';

/** What a store is to be surrounded with. */
export interface Surrounded {
  /** V it is charged to, and F as its charger sees it. */
  readonly V: number;
  readonly C: number;
  /** Ω between supply and store, where the machine sets it; else it follows from the time to charge. */
  readonly R?: number;
  /** s to charge it, about. */
  readonly charge?: number;
  /** s that it waits charged, between the supply and the shot: what hands need, and the charge of other stores. */
  readonly waits?: number;
  /** How many such stores there are; 1 where it is left out. */
  readonly stores?: number;
}

/** Two digits of a number. */
export const two = (x: number): number => Number(x.toPrecision(2));
/** As near as a number may be to one of a series to count as it. */
const near = 2e-9;
/** The number of E6 that is not above; not below. */
export const stepBelow = (x: number): number => stepPreferred(x * (1 + near), -1, 'E6');
const stepAbove = (x: number): number => stepPreferred(x * (1 - near), 1, 'E6');

/** s that hands need between the supply and the shot, as a run sheet of this program counts them. */
export const hands = 8;
/** So many times as long as it waits lasts a bleeder's time constant: at its fastest corner seven tenths of the charge are left at the shot. */
const patience = 4.4;

/** V one resistor of a string bears; a usual body of a few watts. Common practice, no source. */
const perResistor = 700;
/** A: what a meter or a divider for high voltage may draw. Common practice, no source. */
const meterCurrent = 10e-6;

const inSeries = (V: number): number => Math.max(1, Math.ceil(V / perResistor));

/** Ω: a bleeder that leaves the store its charge while it waits, and takes it down in some minutes; each of `n` in series. */
function bleederFor({ V, C, waits = hands }: Surrounded): { readonly R: number; readonly n: number; readonly whole: number } {
  const n = inSeries(V);
  const R = stepAbove(Math.min((waits * patience) / C, 1e11) / n);
  return { R, n, whole: R * n };
}

function bleeder(store: Surrounded): Settings {
  const { R, n } = bleederFor(store);
  return { bleeder: { kind: 'permanent', fields: { R, n } } };
}

/** A stick that takes the store down in about a second, its first current below 20 A. */
function tool({ V, C }: Surrounded): Settings {
  const n = Math.max(2, inSeries(V / 2));
  const R = stepBelow(Math.min(1e6, Math.max(0.3 / C, V / 20, 10)) / n);
  return { tool: { kind: 'resistor-tool', fields: { R, n } } };
}

/** Ω of a divider: its meter is to see some volts, and a small store is not to be emptied through it while hands are at work. */
const upperOf = (most: number, C: number): number =>
  stepBelow(Math.max((most / meterCurrent) * 1.4, Math.min((hands * 9) / C, 50e9)));

/** A meter that bears what the supply could bring to a store: by itself up to 1 kV, behind a divider above. */
export function meter(most: number, C: number): Settings {
  const V = two(most * 1.3);
  if (V <= 1000) return { meter: { kind: 'voltmeter', fields: { V: Math.max(V, 60), R: 10e6 } } };
  const R1 = upperOf(most, C);
  return { meter: { kind: 'divider', fields: { R1, R2: R1 / 1000, Rm: 10e6, V } } };
}

/** V a meter has to bear: what the supply of a new rig could bring, with room. */
const mostAt = (V: number): number => V * 1.3;

/** Ω across the store that stay: its bleeder and what its meter draws. */
export function leakOf(store: Surrounded): number {
  const { R1, R } = (meter(mostAt(store.V), store.C).meter?.fields ?? {}) as { R1?: number; R?: number };
  return 1 / (1 / bleederFor(store).whole + 1 / (R1 ?? R ?? Infinity));
}

/** Ω in the charging path: for the time to charge, and so low that what leaks leaves the store its voltage. */
const chargingResistance = (store: Surrounded): number =>
  Math.max(1, Math.min(store.R ?? (store.charge ?? 15) / (3 * store.C), leakOf(store) * 0.05));

/** V a supply has to have behind so many ohms, that the store comes to its voltage within two time constants; one of several, that others wait for, within 1.3. */
export const sourceVoltage = (store: Surrounded): number =>
  store.V * (store.waits === undefined ? 1.16 : 1.4) * (1 + (1.2 * chargingResistance(store)) / leakOf(store));

/** A voltage source above what the store is charged to, and the resistor between them. */
export function sourceAndResistor(store: Surrounded): Settings {
  const R = chargingResistance(store);
  const n = inSeries(store.V);
  return {
    supply: { kind: 'dc-source', fields: { V: two(sourceVoltage(store)), R: stepBelow(Math.max(R / 20, 0.1)) } },
    charging: { kind: 'resistor', fields: { R: stepBelow(R / n), n } },
  };
}

/** J above which no stick is put to a store before a fixed dump has emptied it; somewhat below the threshold of the run sheet. */
const byHand = 700;

/** A dump operated from outside, where the store is beyond what is discharged by hand: down to a third in a second or two. */
function dump({ V, C, stores = 1 }: Surrounded): Settings {
  if ((stores * C * V ** 2) / 2 < byHand) return {};
  const n = inSeries(V);
  return { dump: { kind: 'relay', fields: { R: stepBelow(Math.max(1, 1.5 / C) / n), n } } };
}

/** Bleeder, dump, stick and meter about a store, whatever charges it. */
export const around = (store: Surrounded): Settings => ({
  ...bleeder(store),
  ...dump(store),
  ...tool(store),
  ...meter(mostAt(store.V), store.C),
});
