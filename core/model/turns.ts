import { gaussRule } from '../numeric/index.ts';
import { loopMutual, mu0 } from './coaxial.ts';

/** Coaxial turns of any radius and place, each with a share of the current's linkage: 1 of a whole turn, less of one that is tapped. */
export interface Turn {
  /** m: radius and place along the axis. */
  readonly r: number;
  readonly z: number;
  readonly share: number;
}

/** Self-inductance of a turn of round conductor that carries its current on its skin, H. Rosa and Grover, without the inner part. */
export const skinTurn = (r: number, conductorRadius: number): number => mu0 * r * (Math.log((8 * r) / conductorRadius) - 2);

/** Turns of a winding that grows by a pitch turn to turn, at an angle to the plane: 0 flat, π/2 a cylinder. */
export function spiralTurns(r0: number, pitch: number, angle: number, turns: number): Turn[] {
  const whole = Math.ceil(turns - 1e-9);
  return Array.from({ length: whole }, (_, k): Turn => {
    const share = Math.min(1, turns - k);
    // The middle of what there is of the turn.
    const along = (k + share / 2) * pitch;
    return { r: r0 + along * Math.cos(angle), z: along * Math.sin(angle), share };
  });
}

/** Inductance of turns in series: every pair as two loops, every turn as a loop of conductor, H. */
export function turnsInductance(turns: readonly Turn[], conductorRadius: number): number {
  let L = 0;
  turns.forEach((one, i) => {
    L += one.share * one.share * skinTurn(one.r, conductorRadius);
    for (let j = i + 1; j < turns.length; j++) {
      const other = turns[j] as Turn;
      L += 2 * one.share * other.share * loopMutual(one.r, other.r, one.z - other.z);
    }
  });
  return L;
}

const rule = gaussRule(48);

/** A single layer on a cylinder, m: radius, place of its lower end, length; and its turns. */
export interface SingleLayer {
  readonly r: number;
  readonly z: number;
  readonly l: number;
  readonly N: number;
}

/**
 * Mutual inductance of turns and a single layer, H: every turn with loops along the layer. The layer is taken as a sheet, whose loops are
 * the points of Gauss in as many stretches as the nearest turn wants.
 */
export function turnsMutual(turns: readonly Turn[], { r, z, l, N }: SingleLayer): number {
  let M = 0;
  for (const turn of turns) {
    const near = Math.max(Math.abs(turn.r - r), 1e-3 * r);
    const stretches = Math.min(40, Math.max(1, Math.ceil(l / (12 * near))));
    for (let s = 0; s < stretches; s++) {
      const half = l / stretches / 2;
      const middle = z + (2 * s + 1) * half;
      for (let k = 0; k < rule.x.length; k++)
        M +=
          turn.share *
          (N / l) *
          half *
          (rule.w[k] as number) *
          loopMutual(turn.r, r, middle + half * (rule.x[k] as number) - turn.z);
    }
  }
  return M;
}
