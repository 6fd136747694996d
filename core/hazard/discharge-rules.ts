/** A published rule of how soon a capacitor must be discharged, and to what. From memory of the named sources. */
export interface DischargeRule {
  readonly id: string;
  readonly title: string;
  readonly source: string;
  /** V that must be fallen below, and s that it may take. */
  readonly voltage: number;
  readonly within: number;
  /** Rated voltages, V, for which it speaks: above `from`, up to `to`. */
  readonly from: number;
  readonly to: number;
  /** Why one would go by it. */
  readonly reason: string;
}

/** In the order in which they are offered, the default first. */
export const dischargeRules: readonly DischargeRule[] = [
  {
    id: 'nec-low',
    title: '50 V within a minute, rated up to 1000 V',
    source: 'NFPA 70 (NEC), article 460 (600 V in older editions)',
    voltage: 50,
    within: 60,
    from: 0,
    to: 1000,
    reason: 'the lowest residual voltage and the shortest time of the published ones: the default',
  },
  {
    id: 'nec-high',
    title: '50 V within five minutes, rated above 1000 V',
    source: 'NFPA 70 (NEC), article 460',
    voltage: 50,
    within: 300,
    from: 1000,
    to: Infinity,
    reason: 'the same voltage; above 1000 V it allows the time that a small bleeder takes: the default there',
  },
  {
    id: 'iec-60831',
    title: '75 V within three minutes, up to 1 kV',
    source: 'IEC 60831-1, power capacitors',
    voltage: 75,
    within: 180,
    from: 0,
    to: 1000,
    reason: 'written for power capacitors that are reached by trained people with an isolator open',
  },
  {
    id: 'iec-60871',
    title: '75 V within ten minutes, above 1 kV',
    source: 'IEC 60871-1, power capacitors',
    voltage: 75,
    within: 600,
    from: 1000,
    to: Infinity,
    reason: 'the same, above 1 kV',
  },
];

/** The rules that speak for a rated voltage, V; where it is not known, for the voltage that can stand there. */
export const dischargeRulesFor = (V: number): readonly DischargeRule[] =>
  dischargeRules.filter(({ from, to }) => V > from && V <= to);
