import { ifKnown, RigReading } from '../figure/index.ts';
import type { Rig } from '../rig/index.ts';
import { rigAsSet } from './predict.ts';
import type { Shot } from './shot.ts';

/** How much of the life of its capacitors a row of shots has used up. */
export interface LifeUsed {
  /** Fraction of the life, added up shot by shot. */
  readonly used: number;
  /** Shots that were counted, and those whose voltage was not written down. */
  readonly counted: number;
  readonly unknown: number;
  /** Shots still left at the voltage the rig is set to. */
  readonly left: number;
}

/** The voltage of a shot: as measured, else as set. */
const voltageOf = ({ measured, set }: Shot): number | undefined => measured.voltage ?? set.voltage;

/**
 * Life used up by shots, each a fraction of the shots that the capacitors last at its voltage (Miner's rule of damage that adds up,
 * from memory). A misfire leaves the capacitors as they were; all else is a discharge.
 *
 * @returns null where the rig does not say what its capacitors are rated for
 */
export function lifeUsed(rig: Rig, shots: readonly Shot[]): LifeUsed | null {
  const lifeAt = (voltage: number | undefined) =>
    ifKnown(() => new RigReading(voltage === undefined ? rig : rigAsSet(rig, { voltage })).figure('life-shots').value);
  const atSet = lifeAt(undefined);
  if (atSet === null) return null;
  let [used, counted, unknown] = [0, 0, 0];
  for (const shot of shots.filter(({ outcome }) => outcome !== 'misfire')) {
    const voltage = voltageOf(shot);
    const life = voltage === undefined || voltage === 0 ? null : lifeAt(voltage);
    if (life === null) unknown += 1;
    else {
      used += 1 / life;
      counted += 1;
    }
  }
  return { used, counted, unknown, left: Math.max(0, (1 - used) * atSet) };
}
