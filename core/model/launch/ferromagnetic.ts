import { mu0 } from '../coaxial.ts';
import type { Armature, LaunchCoil } from './armature.ts';
import { fluxCurves, mutualOf, sharedEnergy } from './flux.ts';

/** A ferromagnetic cylinder that is magnetised evenly. */
export interface Slug {
  /** m */
  readonly diameter: number;
  readonly length: number;
  /** A/m: magnetisation at saturation. Soft iron about 1.7e6 (2.15 T), mild steel about 1.6e6; from memory. */
  readonly saturation: number;
  /** Susceptibility of the material at small fields. */
  readonly susceptibility: number;
}

/**
 * Demagnetising factor of a cylinder along its axis, averaged over its volume. Sato and Ishii, Simple and approximate expressions of
 * demagnetizing factors of uniformly magnetized rectangular rod and cylinder, Journal of Applied Physics 66 (1989); from memory.
 *
 * @param ratio length over diameter
 */
export const demagnetising = (ratio: number): number => 1 / ((4 * ratio) / Math.sqrt(Math.PI) + 1);

/**
 * A ferromagnetic slug in coils: evenly magnetised along M = Ms·tanh(χ·H/Ms), χ lessened by its demagnetising field, H the mean of
 * the coils' fields over it. Linkage, force and energy follow from one co-energy, so that none is made and none lost.
 */
export function ferromagnetic(slug: Slug, coils: readonly LaunchCoil[]): Armature {
  const volume = (Math.PI / 4) * slug.diameter ** 2 * slug.length;
  // By reciprocity: the field of a coil with 1 A, averaged over the slug, is the flux that its surface sends through the coil.
  const curves = fluxCurves(coils, slug.diameter / 2, slug.length);
  const share = 1 / (mu0 * volume);
  const chi = slug.susceptibility / (1 + demagnetising(slug.length / slug.diameter) * slug.susceptibility);
  const Ms = slug.saturation;
  const mutual = mutualOf(coils);
  const at = { y: 0, slope: 0 };
  const slopes = new Float64Array(coils.length);
  return {
    coils: coils.length,
    mutual,
    own: 0,
    read: (x, i, _psi, out) => {
      let [H, lean, W] = [0, 0, 0];
      for (let k = 0; k < coils.length; k++) {
        const [coil, I] = [coils[k] as LaunchCoil, i[k] as number];
        curves[k]?.at(x - coil.at, at);
        const [h, slope] = [at.y * share, at.slope * share];
        out.h[k] = h;
        slopes[k] = slope;
        out.L[k] = coil.L;
        H += h * I;
        lean += slope * I;
        W += 0.5 * coil.L * I * I;
      }
      const bent = Math.tanh((chi * H) / Ms);
      const M = Ms * bent;
      const soft = chi * (1 - bent * bent);
      out.c = mu0 * volume * soft;
      out.F = mu0 * volume * M * lean;
      for (let k = 0; k < coils.length; k++)
        out.e[k] = mu0 * volume * ((slopes[k] as number) * M + (out.h[k] as number) * soft * lean);
      const u = Math.abs((chi * H) / Ms);
      // ln cosh, without overflow.
      const lnCosh = u + Math.log1p(Math.exp(-2 * u)) - Math.LN2;
      out.W = W + sharedEnergy(mutual, i) + mu0 * volume * (M * H - ((Ms * Ms) / chi) * lnCosh);
    },
  };
}
