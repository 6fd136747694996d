import type { Arc } from '../circuit/index.ts';

/** Toepler's constant of an arc in air, V·s/m: 0.8 to 1.5e-2, from memory. */
export const toepler = { least: 0.8e-2, usual: 1e-2, most: 1.5e-2 } as const;

/** Field at which the length of a gap is guessed from its voltage where nobody has given its spacing, V/m. */
const guessedField = 3e6;
export const guessedSpacing = (V: number): number => V / guessedField;

/**
 * The arc of every gap that is fired once: it falls by Toepler's law from an open gap to what was entered for it. An arc that has just
 * begun has hundreds of ohms against the strays; without its fall every stage would ring and overshoot as none does.
 *
 * @param d length of the arc, m
 * @param least Ω that it comes down to: as entered
 * @param series Ω of what lies in series with it in the same element
 */
export const fallingArc = (d: number, least: number, series = 0): Arc => ({
  law: 'toepler',
  k: toepler.usual,
  d,
  Rmin: Math.max(least, 1e-6),
  ...(series > 0 ? { series } : {}),
});

/** What a closed form leaves out where gaps are fired once. */
export const arcFall = 'that the gaps fire one after another and their arcs fall';

/** Said beside every trace in which an arc falls. */
export const arcLawText =
  'Arcs fall by Toepler’s law, R = k·d/∫|i|dt with k = 10 mV·s/m (8 to 15, from memory), from 100 kΩ down to the resistance entered for them.';
