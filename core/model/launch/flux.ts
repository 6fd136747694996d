import { gaussRuleOfUnit } from '../../numeric/index.ts';
import { layersMutual, loopMutual, type Layer } from '../coaxial.ts';
import type { LaunchCoil } from './armature.ts';
import { EvenCurve } from './curve.ts';

const four = gaussRuleOfUnit(4);

/** The inverse of sinh from nought upwards, as closely as an index needs it. */
const rank = (x: number): number => Math.log(x + Math.sqrt(x * x + 1));

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
      for (let k = 0; k < four.x.length; k++) {
        const x = four.x[k] as number;
        const m = (four.w[k] as number) * h * loopMutual(a, b, from + x * h);
        once += m;
        twice += m * (1 - x) * h;
      }
      this.slope[j] = (this.slope[j - 1] as number) + once;
      this.G[j] = (this.G[j - 1] as number) + h * (this.slope[j - 1] as number) + twice;
    }
  }

  at(distance: number): number {
    const d = Math.abs(distance);
    const j = Math.min(this.z.length - 2, Math.floor(rank(d / this.s) / this.u));
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
const points = 256;

/**
 * Flux that a sheet of current on a cylinder sends through a coil, for 1 A on each metre of it, against how far their middles are
 * apart, V·s. The turns of a layer count as a sheet as well.
 *
 * @param radius m of the cylinder
 * @param length m of the cylinder
 */
function fluxCurve({ layers }: LaunchCoil, radius: number, length: number): EvenCurve {
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

/** The same of each of several coils; those that are wound alike share it. */
export function fluxCurves(coils: readonly LaunchCoil[], radius: number, length: number): EvenCurve[] {
  const made = new Map<LaunchCoil['layers'], EvenCurve>();
  return coils.map((coil) => {
    const curve = made.get(coil.layers) ?? fluxCurve(coil, radius, length);
    made.set(coil.layers, curve);
    return curve;
  });
}

/** A coil where another one looks at it from outside: at most four layers of evenly lying loops, each for some turns. */
function rowsOf({ layers }: LaunchCoil): { row: Layer; turns: number }[] {
  const [across, along] = [Math.min(4, layers.length), 24];
  return Array.from({ length: across }, (_, k) => {
    const some = layers.slice(Math.floor((k * layers.length) / across), Math.floor(((k + 1) * layers.length) / across));
    const turns = some.reduce((sum, layer) => sum + layer.turns, 0);
    const longest = some.reduce((a, b) => (b.turns > a.turns ? b : a));
    const pitch = (longest.turns * longest.pitch) / along;
    const radius = some.reduce((sum, layer) => sum + layer.radius * layer.turns, 0) / turns;
    return { row: { radius, turns: along, first: longest.first + (pitch - longest.pitch) / 2, pitch }, turns: turns / along };
  });
}

/** What coils beside each other share, H, row by row; null for a coil alone. */
export function mutualOf(coils: readonly LaunchCoil[]): Float64Array | null {
  const n = coils.length;
  if (n < 2) return null;
  const M = new Float64Array(n * n);
  const known = new Map<string, number>();
  const rows = new Map(coils.map((coil) => [coil.layers, rowsOf(coil)]));
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      const [a, b] = [coils[i] as LaunchCoil, coils[j] as LaunchCoil];
      const distance = b.at - a.at;
      const key = a.layers === b.layers ? distance.toFixed(9) : `${i} ${j}`;
      let m = known.get(key);
      if (m === undefined) {
        m = 0;
        for (const p of rows.get(a.layers) ?? [])
          for (const q of rows.get(b.layers) ?? [])
            m += p.turns * q.turns * layersMutual(p.row, { ...q.row, first: q.row.first + distance });
        known.set(key, m);
      }
      M[i * n + j] = m;
      M[j * n + i] = m;
    }
  return M;
}

/** J in the field that coils share at their currents. */
export function sharedEnergy(M: Float64Array | null, i: Float64Array): number {
  if (!M) return 0;
  const n = i.length;
  let W = 0;
  for (let a = 0; a < n; a++) for (let b = a + 1; b < n; b++) W += (M[a * n + b] as number) * (i[a] as number) * (i[b] as number);
  return W;
}
