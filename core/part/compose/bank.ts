import { sum } from 'simple-statistics';
/** A capacitor as the composer sees it. SI units. */
export interface Piece {
  readonly id: string;
  /** Measured capacitance, F. */
  readonly capacitance: number;
  /** Uncertainty of the measurement as a fraction. */
  readonly uncertainty: number;
  /** Direct voltage it may bear, V. */
  readonly rating: number;
}

/** Groups in series, each of pieces in parallel: what the composer makes, judged. */
export interface JudgedGroup {
  readonly pieces: readonly Piece[];
  /** F */
  readonly capacitance: number;
  /** Lowest rating of its pieces, V. */
  readonly rating: number;
  /** Share of the bank voltage: 1/C over the sum of all 1/C. */
  readonly share: number;
  /** Highest share over the uncertainties: this group at its least, all others at their most. */
  readonly worstShare: number;
}

export interface JudgedBank {
  readonly groups: readonly JudgedGroup[];
  /** F */
  readonly capacitance: number;
  /** Bank voltage at which the first group reaches its rating, V. */
  readonly usableVoltage: number;
  /** The same at the worst corner of the uncertainties. */
  readonly worstUsableVoltage: number;
  /** What ratings alone would allow if the voltage shared as they do: the sum of the groups' ratings, V. */
  readonly idealVoltage: number;
  /** J at the usable voltage. */
  readonly energy: number;
}

/**
 * Judges groups in series. The charge is common to all, so each group's voltage is in inverse proportion to its
 * capacitance (Kirchhoff's laws); the bank is full when the first group reaches its rating.
 *
 * @param groups at least one, each with at least one piece
 */
export function judge(groups: readonly (readonly Piece[])[]): JudgedBank {
  const capacitances = groups.map((pieces) => sum(pieces.map((p) => p.capacitance)));
  const least = groups.map((pieces) => sum(pieces.map((p) => p.capacitance * (1 - p.uncertainty))));
  const most = groups.map((pieces) => sum(pieces.map((p) => p.capacitance * (1 + p.uncertainty))));
  const ratings = groups.map((pieces) => Math.min(...pieces.map((p) => p.rating)));
  const inverse = sum(capacitances.map((c) => 1 / c));
  const inverseMost = sum(most.map((c) => 1 / c));
  const judged = groups.map((pieces, i): JudgedGroup => {
    const [c, low, high] = [capacitances[i] ?? NaN, least[i] ?? NaN, most[i] ?? NaN];
    return {
      pieces,
      capacitance: c,
      rating: ratings[i] ?? NaN,
      share: 1 / c / inverse,
      worstShare: 1 / low / (inverseMost - 1 / high + 1 / low),
    };
  });
  const usableVoltage = Math.min(...judged.map((g) => g.rating / g.share));
  return {
    groups: judged,
    capacitance: 1 / inverse,
    usableVoltage,
    worstUsableVoltage: Math.min(...judged.map((g) => g.rating / g.worstShare)),
    idealVoltage: sum(ratings),
    energy: (0.5 * usableVoltage ** 2) / inverse,
  };
}
