import { sheetInductance } from '../coaxial.ts';
import type { Armature, LaunchCoil } from './armature.ts';
import { fluxCurves, mutualOf, sharedEnergy } from './flux.ts';

/** A conducting tube about the axis, as one closed turn whose current is the same all along it. */
export interface Sleeve {
  /** m: to the middle of its wall. */
  readonly diameter: number;
  readonly length: number;
  readonly wall: number;
  /** Ω·m */
  readonly resistivity: number;
}

/** Inductance, H, and resistance, Ω, of a sleeve as one turn: a sheet by Nagaoka, and once around through its wall. */
export const sleeveTurn = ({
  diameter: D,
  length: l,
  wall,
  resistivity,
}: Sleeve): { readonly L: number; readonly R: number } => ({
  L: sheetInductance(D, l),
  R: (resistivity * Math.PI * D) / (wall * l),
});

/**
 * A conducting sleeve in coils: what the coils induce in it repels it. Its flux linkage ψ = L·I + Σ M·i changes by its resistance
 * alone, so that it is held as a state of its own and its current follows from it.
 */
export function conducting(sleeve: Sleeve, coils: readonly LaunchCoil[]): Armature {
  const { L, R } = sleeveTurn(sleeve);
  // One ampere in all, so a share of it on each metre.
  const curves = fluxCurves(coils, sleeve.diameter / 2, sleeve.length);
  const mutual = mutualOf(coils);
  const at = { y: 0, slope: 0 };
  const slopes = new Float64Array(coils.length);
  return {
    coils: coils.length,
    mutual,
    own: L,
    read: (x, i, psi, out) => {
      let [linked, lean, W] = [0, 0, 0];
      for (let k = 0; k < coils.length; k++) {
        const [coil, current] = [coils[k] as LaunchCoil, i[k] as number];
        curves[k]?.at(x - coil.at, at);
        const M = at.y / sleeve.length;
        const slope = at.slope / sleeve.length;
        out.h[k] = M;
        slopes[k] = slope;
        out.L[k] = coil.L;
        linked += M * current;
        lean += slope * current;
        W += 0.5 * coil.L * current * current;
      }
      const induced = (psi - linked) / L;
      out.c = -1 / L;
      out.rate = -R * induced;
      out.heat = R * induced * induced;
      out.F = induced * lean;
      for (let k = 0; k < coils.length; k++) {
        const M = out.h[k] as number;
        out.e[k] = (slopes[k] as number) * induced - (M * lean) / L;
        out.g[k] = (M * out.rate) / L;
      }
      out.W = W + sharedEnergy(mutual, i) + induced * linked + 0.5 * L * induced * induced;
    },
  };
}
