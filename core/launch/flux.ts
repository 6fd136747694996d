import { loopMutual } from '../formula/index.ts';
import type { LaunchCoil } from './armature.ts';
import { EvenCurve } from './curve.ts';

/** Points and weights of Gauss and Legendre, four of them, on 0 to 1. */
const gauss = [
  [0.06943184420297371, 0.17392742256872692],
  [0.33000947820757187, 0.32607257743127307],
  [0.6699905217924281, 0.32607257743127307],
  [0.9305681557970263, 0.17392742256872692],
] as const;

/**
 * The mutual inductance of two coaxial loops, integrated twice over their distance: from it that of two coaxial sheets of current
 * follows by their four ends.
 */
class TwiceIntegrated {
  private readonly s: number;
  private readonly u: number;
  private readonly z: Float64Array;
  private readonly G: Float64Array;
  private readonly slope: Float64Array;
  private readonly M: Float64Array;

  /** @param reach m: distances up to it are asked for */
  constructor(a: number, b: number, reach: number) {
    // Points lie close where the loops are near each other, and far apart far away.
    this.s = Math.max(Math.abs(a - b), 0.02 * Math.max(a, b));
    const n = Math.ceil(9 * Math.asinh(reach / this.s)) + 2;
    this.u = Math.asinh(reach / this.s) / (n - 1);
    this.z = Float64Array.from({ length: n }, (_, j) => this.s * Math.sinh(j * this.u));
    this.M = this.z.map((z) => loopMutual(a, b, z));
    this.G = new Float64Array(n);
    this.slope = new Float64Array(n);
    for (let j = 1; j < n; j++) {
      const [from, h] = [this.z[j - 1] as number, (this.z[j] as number) - (this.z[j - 1] as number)];
      let [once, twice] = [0, 0];
      for (const [x, w] of gauss) {
        const m = w * h * loopMutual(a, b, from + x * h);
        once += m;
        twice += m * (1 - x) * h;
      }
      this.slope[j] = (this.slope[j - 1] as number) + once;
      this.G[j] = (this.G[j - 1] as number) + h * (this.slope[j - 1] as number) + twice;
    }
  }

  at(distance: number): number {
    const d = Math.abs(distance);
    const j = Math.min(this.z.length - 2, Math.floor(Math.asinh(d / this.s) / this.u));
    const h = (this.z[j + 1] as number) - (this.z[j] as number);
    const x = (d - (this.z[j] as number)) / h;
    const [g0, g1] = [this.G[j] as number, this.G[j + 1] as number];
    const [s0, s1] = [(this.slope[j] as number) * h, (this.slope[j + 1] as number) * h];
    const [m0, m1] = [(this.M[j] as number) * h * h, (this.M[j + 1] as number) * h * h];
    // Hermite of the fifth degree: value, slope and bend of both ends.
    const rest = g1 - g0 - s0 - m0 / 2;
    const rise = s1 - s0 - m0;
    const bend = m1 - m0;
    return (
      g0 +
      x *
        (s0 +
          x *
            (m0 / 2 +
              x * (10 * rest - 4 * rise + bend / 2 + x * (-15 * rest + 7 * rise - bend + x * (6 * rest - 3 * rise + bend / 2)))))
    );
  }
}

/** Points of a table: enough that they may be halved without a change that shows. */
const points = 400;

/**
 * Flux that a sheet of current on a cylinder sends through a coil, for 1 A on each metre of it, against how far their middles are
 * apart, V·s. The turns of a layer count as a sheet as well.
 *
 * @param radius m of the cylinder
 * @param length m of the cylinder
 */
export function fluxCurve({ layers }: LaunchCoil, radius: number, length: number): EvenCurve {
  const spans = layers.map(({ first, turns, pitch }) => ({
    half: (turns * pitch) / 2,
    middle: first + ((turns - 1) * pitch) / 2,
  }));
  const outer = Math.max(...layers.map((layer) => layer.radius));
  const reach = Math.max(...spans.map(({ half, middle }) => half + Math.abs(middle))) + length / 2 + 12 * outer;
  const values = new Float64Array(points);
  layers.forEach((layer, k) => {
    const { half, middle } = spans[k] ?? { half: 0, middle: 0 };
    const G = new TwiceIntegrated(layer.radius, radius, reach + half + Math.abs(middle) + length / 2);
    const [sum, difference] = [half + length / 2, half - length / 2];
    for (let i = 0; i < points; i++) {
      // A layer that is not full lies to one side; both ways round count alike.
      for (const side of middle === 0 ? [1] : [1, -1]) {
        const d = (reach * i) / (points - 1) + side * middle;
        const ends = G.at(d + sum) + G.at(d - sum) - G.at(d + difference) - G.at(d - difference);
        values[i] = (values[i] as number) + ends / (layer.pitch * (middle === 0 ? 1 : 2));
      }
    }
  });
  // What is left at the far end is taken off, so that it ends without a step.
  const rest = values[points - 1] as number;
  return new EvenCurve(
    values.map((value) => value - rest),
    reach,
  );
}
