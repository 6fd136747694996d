import { printQuantity, type UnitId } from '../quantity/index.ts';

/**
 * Published thresholds of electrical hazard, as a person meets them on a charged store. All values are from memory of
 * the named sources; `docs/safety.md` says how they are used.
 */
export interface HazardRule {
  readonly id: string;
  readonly text: string;
  readonly source: string;
  /** The quantity held against the threshold. */
  readonly of: 'energy' | 'voltage' | 'charge';
  readonly unit: UnitId;
  readonly threshold: number;
  /** Voltages, V, for which the rule speaks: above `from`, up to `to`. */
  readonly from: number;
  readonly to: number;
}

export const hazardRules: readonly HazardRule[] = [
  {
    id: 'nfpa-below-100',
    text: 'stored energy hazardous, below 100 V',
    source: 'NFPA 70E (2021), article 360 and annex R',
    of: 'energy',
    unit: 'J',
    threshold: 100,
    from: -1,
    to: 100,
  },
  {
    id: 'nfpa-100-to-400',
    text: 'stored energy hazardous, 100 to 400 V',
    source: 'NFPA 70E (2021), article 360 and annex R',
    of: 'energy',
    unit: 'J',
    threshold: 1,
    from: 100,
    to: 400,
  },
  {
    id: 'nfpa-above-400',
    text: 'stored energy hazardous (startle), above 400 V',
    source: 'NFPA 70E (2021), article 360 and annex R',
    of: 'energy',
    unit: 'J',
    threshold: 0.25,
    from: 400,
    to: Infinity,
  },
  {
    id: 'doe-severe',
    text: 'severe injury or death likely',
    source: 'DOE-HDBK-1092, Electrical Safety',
    of: 'energy',
    unit: 'J',
    threshold: 10,
    from: 100,
    to: Infinity,
  },
  {
    id: 'iec-fibrillation',
    // 0.5 A for 4 ms, hand to foot: 1e-3 A²s, which is 1 J in 1 kΩ.
    text: 'the heart may fibrillate: 0.001 A²s through 1 kΩ',
    source: 'IEC TS 60479-2, short unidirectional impulses, curve C1',
    of: 'energy',
    unit: 'J',
    threshold: 1,
    from: 100,
    to: Infinity,
  },
  {
    id: 'doe-kilojoule',
    text: 'arc flash and blast must be expected',
    source: 'DOE-HDBK-1092, classes of capacitors (its table differs between issues)',
    of: 'energy',
    unit: 'J',
    threshold: 1000,
    from: -1,
    to: Infinity,
  },
  {
    id: 'doe-ten-kilojoule',
    text: 'highest class of stored energy',
    source: 'DOE-HDBK-1092, classes of capacitors (its table differs between issues)',
    of: 'energy',
    unit: 'J',
    threshold: 10_000,
    from: -1,
    to: Infinity,
  },
  {
    id: 'iec-voltage',
    text: 'accessible voltage, DC',
    source: 'IEC 61010-1, 6.3 (older editions 70 V)',
    of: 'voltage',
    unit: 'V',
    threshold: 60,
    from: -1,
    to: Infinity,
  },
  {
    id: 'iec-charge',
    text: 'accessible charge, above 60 V up to 15 kV',
    source: 'IEC 61010-1, 6.3',
    of: 'charge',
    unit: 'C',
    threshold: 45e-6,
    from: 60,
    to: 15_000,
  },
  {
    id: 'iec-energy',
    text: 'accessible energy, above 15 kV',
    source: 'IEC 61010-1, 6.3',
    of: 'energy',
    unit: 'J',
    threshold: 0.35,
    from: 15_000,
    to: Infinity,
  },
];

export interface Finding {
  readonly rule: HazardRule;
  readonly value: number;
  readonly exceeded: boolean;
}

/**
 * `severe`: above the lowest line from which a person may die of it. `hazardous`: above some threshold. `below`: below every threshold that
 * applies, which is not a promise.
 */
export type HazardClass = 'severe' | 'hazardous' | 'below';

export interface Hazard {
  readonly class: HazardClass;
  /** One sentence for the strip, without numbers that stand beside it. */
  readonly headline: string;
  readonly findings: readonly Finding[];
}

/** Lines from which a person may die of a shock. */
const deadly: ReadonlySet<string> = new Set(['iec-fibrillation', 'doe-severe']);

/** What is said, by the gravest line that is exceeded: of what drives a current through a body, and of what only burns. */
const graded: readonly { readonly rule: string; readonly shocks: string; readonly burns: string }[] = [
  {
    rule: 'doe-ten-kilojoule',
    shocks: 'can kill, burn and burst things',
    burns: 'can burn, and bursts what shorts it',
  },
  { rule: 'doe-kilojoule', shocks: 'can kill, and its arc burns', burns: 'can burn: a short melts metal' },
  { rule: 'doe-severe', shocks: 'can kill, and is likely to', burns: 'can burn' },
  { rule: 'iec-fibrillation', shocks: 'can kill', burns: 'can burn' },
  { rule: 'nfpa-below-100', shocks: 'can burn', burns: 'can burn' },
];

function headlineOf(findings: readonly Finding[]): string {
  const exceeded = new Set(findings.filter((f) => f.exceeded).map((f) => f.rule.id));
  if (exceeded.size === 0) return 'below the published thresholds';
  const shocks = [...deadly].some((id) => exceeded.has(id));
  const gravest = graded.find(({ rule }) => exceeded.has(rule));
  return gravest ? (shocks ? gravest.shocks : gravest.burns) : 'can injure';
}

/**
 * Classes a store by its energy (J), voltage (V) and charge (C), each at the worst corner of its tolerances.
 *
 * @returns every rule that speaks for this voltage, and whether it is exceeded; a value equal to a threshold exceeds it
 */
export function hazardOf(worst: { readonly energy: number; readonly voltage: number; readonly charge: number }): Hazard {
  const applies = (rule: HazardRule) => worst.voltage > rule.from && (worst.voltage <= rule.to || rule.to === Infinity);
  const findings = hazardRules
    .filter(applies)
    .map((rule) => ({ rule, value: worst[rule.of], exceeded: worst[rule.of] >= rule.threshold }));
  const severe = findings.some((f) => f.exceeded && deadly.has(f.rule.id));
  const of: HazardClass = severe ? 'severe' : findings.some((f) => f.exceeded) ? 'hazardous' : 'below';
  return { class: of, headline: headlineOf(findings), findings };
}

/** A finding in words: "stored energy hazardous (startle), above 400 V: 1.27 kJ against 250 mJ". */
export const wordFinding = ({ rule, value }: Finding): string =>
  `${rule.text}: ${printQuantity(value, rule.unit)} against ${printQuantity(rule.threshold, rule.unit, { trim: true })}`;
