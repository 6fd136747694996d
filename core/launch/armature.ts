import { layersMutual, type Layer } from '../formula/index.ts';

/**
 * What moves in the coils of a launcher, as the circuits see it at an instant. With D the diagonal of `L`, the flux linkages
 * change as (D + c·h·hᵀ)·di/dt + e·v, v being the speed.
 */
export interface Reading {
  /** H: of each coil by itself. */
  readonly L: Float64Array;
  /** How strongly each coil magnetises it, 1/m; and c, H·m². */
  readonly h: Float64Array;
  c: number;
  /** V·s/m: voltage of each coil for each metre a second. */
  readonly e: Float64Array;
  /** N along the axis. */
  F: number;
  /** J in all fields. */
  W: number;
}

export interface Armature {
  /** Number of coils. */
  readonly coils: number;
  /**
   * @param x m: where its middle is
   * @param i A in each coil
   */
  read(x: number, i: Float64Array, out: Reading): void;
}

export const newReading = (coils: number): Reading => ({
  L: new Float64Array(coils),
  h: new Float64Array(coils),
  c: 0,
  e: new Float64Array(coils),
  F: 0,
  W: 0,
});

const mu0 = 4e-7 * Math.PI;

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

/** A coil of a launcher: how it is wound, where its middle stands, what it has by itself. */
export interface LaunchCoil {
  readonly layers: readonly Layer[];
  /** m along the barrel */
  readonly at: number;
  /** H without a slug */
  readonly L: number;
}

/** Loops that stand for the surface of a slug and points of a table: enough that both may be halved without a change that shows. */
const [loops, points] = [48, 240];

/** A curve through points that lie evenly from nought, even about it, with its slope; nought beyond. */
class EvenCurve {
  private readonly y: Float64Array;
  private readonly bend: Float64Array;
  private readonly step: number;
  readonly reach: number;

  constructor(values: Float64Array, reach: number) {
    const n = values.length;
    this.y = values;
    this.reach = reach;
    this.step = reach / (n - 1);
    // Natural at the far end, level at nought: the second derivatives of a cubic spline.
    this.bend = new Float64Array(n);
    const [diagonal, right] = [new Float64Array(n), new Float64Array(n)];
    diagonal[0] = 2;
    right[0] = (6 * ((values[1] as number) - (values[0] as number))) / this.step ** 2;
    for (let i = 1; i < n - 1; i++) {
      const f = 1 / (i === 1 ? (diagonal[0] as number) : (diagonal[i - 1] as number));
      diagonal[i] = 4 - f;
      const curve = (6 * ((values[i + 1] as number) - 2 * (values[i] as number) + (values[i - 1] as number))) / this.step ** 2;
      right[i] = curve - f * (right[i - 1] as number);
    }
    for (let i = n - 2; i >= 0; i--)
      this.bend[i] = ((right[i] as number) - (this.bend[i + 1] as number)) / (diagonal[i] as number);
  }

  /** Value and slope at x. */
  at(x: number, out: { y: number; slope: number }): void {
    const d = Math.abs(x);
    if (d >= this.reach) {
      out.y = 0;
      out.slope = 0;
      return;
    }
    const i = Math.min(this.y.length - 2, Math.floor(d / this.step));
    const [b, a] = [d / this.step - i, 1 - (d / this.step - i)];
    const [y0, y1, m0, m1] = [this.y[i], this.y[i + 1], this.bend[i], this.bend[i + 1]] as [number, number, number, number];
    const s = this.step;
    out.y = a * y0 + b * y1 + (((a * a * a - a) * m0 + (b * b * b - b) * m1) * s * s) / 6;
    const slope = (y1 - y0) / s + (((1 - 3 * a * a) * m0 + (3 * b * b - 1) * m1) * s) / 6;
    out.slope = x < 0 ? -slope : slope;
  }
}

/** Field that a coil with 1 A has in a slug, averaged over it, against how far their middles are apart, 1/m. */
function fieldCurve(coil: LaunchCoil, slug: Slug): EvenCurve {
  const halves = coil.layers.map(({ first, turns, pitch }) => Math.max(Math.abs(first), Math.abs(first + (turns - 1) * pitch)));
  const outer = Math.max(...coil.layers.map(({ radius }) => radius));
  const reach = Math.max(...halves) + slug.length / 2 + 8 * outer;
  const pitch = slug.length / loops;
  const area = (Math.PI * slug.diameter ** 2) / 4;
  // By reciprocity: the flux that a slug of 1 A/m sends through the coil, as a sheet of loops with 1 A/m.
  const values = Float64Array.from({ length: points }, (_, k) => {
    const x = (reach * k) / (points - 1);
    const sheet: Layer = { radius: slug.diameter / 2, turns: loops, first: x - slug.length / 2 + pitch / 2, pitch };
    const flux = coil.layers.reduce((sum, layer) => sum + layersMutual(sheet, layer) * pitch, 0);
    return flux / (mu0 * area * slug.length);
  });
  // What is left at the far end is taken off, so that it ends without a step.
  const rest = values.at(-1) ?? 0;
  return new EvenCurve(
    values.map((value) => value - rest),
    reach,
  );
}

/**
 * A ferromagnetic slug in coils: evenly magnetised along M = Ms·tanh(χ·H/Ms), χ lessened by its demagnetising field, H the mean of
 * the coils' fields over it. Linkage, force and energy follow from one co-energy, so that none is made and none lost.
 */
export function ferromagnetic(slug: Slug, coils: readonly LaunchCoil[]): Armature {
  const curves = coils.map((coil) => fieldCurve(coil, slug));
  const volume = (Math.PI / 4) * slug.diameter ** 2 * slug.length;
  const chi = slug.susceptibility / (1 + demagnetising(slug.length / slug.diameter) * slug.susceptibility);
  const Ms = slug.saturation;
  const at = { y: 0, slope: 0 };
  const slopes = new Float64Array(coils.length);
  return {
    coils: coils.length,
    read: (x, i, out) => {
      let [H, lean, W] = [0, 0, 0];
      for (let k = 0; k < coils.length; k++) {
        const [coil, curve, I] = [coils[k] as LaunchCoil, curves[k] as EvenCurve, i[k] as number];
        curve.at(x - coil.at, at);
        out.h[k] = at.y;
        slopes[k] = at.slope;
        out.L[k] = coil.L;
        H += at.y * I;
        lean += at.slope * I;
        W += 0.5 * coil.L * I * I;
      }
      const share = Math.tanh((chi * H) / Ms);
      const M = Ms * share;
      const soft = chi * (1 - share * share);
      out.c = mu0 * volume * soft;
      out.F = mu0 * volume * M * lean;
      for (let k = 0; k < coils.length; k++)
        out.e[k] = mu0 * volume * ((slopes[k] as number) * M + (out.h[k] as number) * soft * lean);
      const u = Math.abs((chi * H) / Ms);
      // ln cosh, without overflow.
      const lnCosh = u + Math.log1p(Math.exp(-2 * u)) - Math.LN2;
      out.W = W + mu0 * volume * (M * H - ((Ms * Ms) / chi) * lnCosh);
    },
  };
}
