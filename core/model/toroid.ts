import { elliptic } from './coaxial.ts';

const epsilon0 = 8.8541878128e-12;

/** Points over half a turn: the integrands are even and periodic, so that the error falls with every point by a constant factor. */
const points = 400;

let last = { R: NaN, r: NaN, C: NaN };

/**
 * Capacitance of a conducting torus alone, F, by toroidal harmonics: C = 8·ε0·a·(Q₋½/P₋½ + 2·Σ Qₙ₋½/Pₙ₋½) at cosh η = R/r, a² = R² − r².
 * Source: Hobson, The Theory of Spherical and Ellipsoidal Harmonics, chapter on the anchor ring; from memory.
 *
 * @param R m from the axis to the middle of the tube
 * @param r m, radius of the tube, below R
 */
export function torusCapacitance(R: number, r: number): number {
  // Every corner of a rig asks for the same one.
  if (R !== last.R || r !== last.r) last = { R, r, C: harmonics(R, r) };
  return last.C;
}

/** P₋½ and P½ at cosh η, the second over e^η, by complete elliptic integrals. */
function firstTwo(ch: number, fade: number): [number, number] {
  const out = { K: 0, E: 0 };
  // 1 − tanh²(η/2) and e^(−2η) are what the moduli leave to one.
  const rest = 2 / (ch + 1);
  elliptic(1 - rest, rest, out);
  const P0 = (2 / Math.PI) * Math.sqrt(rest) * out.K;
  elliptic(1 - fade * fade, fade * fade, out);
  return [P0, (2 / Math.PI) * Math.sqrt(1 / fade) * out.E * fade];
}

function harmonics(R: number, r: number): number {
  const ch = R / r;
  const sh = Math.sqrt(ch * ch - 1);
  const fade = 1 / (ch + sh);
  // P grows as e^(nη): it is kept beside that, and its recurrence is stable upwards. Q falls as fast, and is summed each time.
  let [before, P] = firstTwo(ch, fade);
  let sum = 0;
  for (let n = 0; n < 2000; n++) {
    let Q = 0;
    for (let k = 0; k <= points; k++) {
      const theta = (Math.PI * k) / points;
      Q += ((k === 0 || k === points ? 0.5 : 1) * Math.PI * Math.cos(n * theta)) / points / Math.sqrt(2 * (ch - Math.cos(theta)));
    }
    const here = n === 0 ? before : P;
    const term = (Q / here) * fade ** n;
    sum += n === 0 ? term : 2 * term;
    if (n > 0) [before, P] = [P, (4 * n * ch * fade * P - (2 * n - 1) * fade * fade * before) / (2 * n + 1)];
    if (n > 0 && Math.abs(term) < 1e-10 * sum) break;
  }
  return 8 * epsilon0 * (r * sh) * sum;
}
