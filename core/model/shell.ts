import { solveDense } from '../numeric/index.ts';
import { layersMutual, loopMutual, sheetInductance, type Layer } from './coaxial.ts';

/** What a thin conducting tube in or about a coil does to it, as far as no field comes through its wall. */
export interface ShellResponse {
  /** H: by so much the tube takes from the inductance of the coil. */
  readonly taken: number;
  /** 1/m: greatest current in the tube on a metre of its length, for 1 A in the coil. */
  readonly sheet: number;
}

/** Rings that stand for a tube: each carries the current that keeps the field out. */
const rings = 48;

/** What was asked for last: every corner of a rig asks for the same tubes. */
const known = new Map<string, ShellResponse>();

/**
 * A coaxial tube of perfect metal and a coil of layers: rings of the tube whose currents hold their flux at zero.
 *
 * @param diameter m to the middle of its wall, which must not be that of a layer
 * @param length m, its middle where that of the coil is
 */
export function shellResponse(layers: readonly Layer[], diameter: number, length: number): ShellResponse {
  const key = JSON.stringify([layers, diameter, length]);
  const made = known.get(key) ?? solved(layers, diameter, length);
  if (known.size >= 200) known.clear();
  known.set(key, made);
  return made;
}

function solved(layers: readonly Layer[], diameter: number, length: number): ShellResponse {
  const [r, dz] = [diameter / 2, length / rings];
  // So many rings beside each other, 1 A in each, as one sheet: its second difference is what two of them share, exactly.
  const whole = (k: number) => (k === 0 ? 0 : k * k * sheetInductance(diameter, k * dz));
  // Rings that are alike: only how far they are apart matters; far apart they are loops.
  const apart = Array.from({ length: rings }, (_, k) => {
    if (k > 8) return loopMutual(r, r, k * dz);
    return k === 0 ? whole(1) : (whole(k + 1) - 2 * whole(k) + whole(k - 1)) / 2;
  });
  const A = Array.from({ length: rings }, (_, i) => Array.from({ length: rings }, (__, j) => apart[Math.abs(i - j)] ?? 0));
  const m = Array.from({ length: rings }, (_, i) => {
    const ring: Layer = { radius: r, turns: 4, first: (i + 0.125) * dz - length / 2, pitch: dz / 4 };
    return layers.reduce((sum, layer) => sum + layersMutual(ring, layer), 0) / 4;
  });
  const x = solveDense(A, m);
  return {
    taken: m.reduce((sum, M, i) => sum + M * (x[i] as number), 0),
    // Where the coil looks at it; at its own edges the current crowds, and one ring says little.
    sheet: x.reduce((most, I) => Math.max(most, Math.abs(I)), 0) / dz,
  };
}
