const epsilon0 = 8.8541878128e-12;

/** Points over half a turn: the integrands are even and periodic, so that the error falls with every point by a constant factor. */
const points = 400;

/**
 * Capacitance of a conducting torus alone, F, by toroidal harmonics: C = 8·ε0·a·(Q₋½/P₋½ + 2·Σ Qₙ₋½/Pₙ₋½) at cosh η = R/r, a² = R² − r².
 * Source: Hobson, The Theory of Spherical and Ellipsoidal Harmonics, chapter on the anchor ring; from memory.
 *
 * @param R m from the axis to the middle of the tube
 * @param r m, radius of the tube, below R
 */
export function torusCapacitance(R: number, r: number): number {
  // Every corner of a rig asks for the same one.
  if (R === last.R && r === last.r) return last.C;
  last = { R, r, C: harmonics(R, r) };
  return last.C;
}

let last = { R: NaN, r: NaN, C: NaN };

function harmonics(R: number, r: number): number {
  const ch = R / r;
  const sh = Math.sqrt(ch * ch - 1);
  const a = r * sh;
  let sum = 0;
  for (let n = 0; n < 400; n++) {
    let [P, Q] = [0, 0];
    for (let k = 0; k <= points; k++) {
      const weight = (k === 0 || k === points ? 0.5 : 1) / points;
      const theta = (Math.PI * k) / points;
      const c = Math.cos(theta);
      // Both over π: the ratio alone is wanted. P grows as e^(nη); it is taken beside it.
      P += (weight * ((ch + sh * c) / (ch + sh)) ** n) / Math.sqrt(ch + sh * c);
      Q += (weight * Math.PI * Math.cos(n * theta)) / Math.sqrt(2 * (ch - c));
    }
    const term = (Q / P) * (ch + sh) ** -n;
    sum += n === 0 ? term : 2 * term;
    if (n > 0 && Math.abs(term) < 1e-10 * sum) break;
  }
  return 8 * epsilon0 * a * sum;
}
