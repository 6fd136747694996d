import {
  coilFormulas,
  coilLossFormulas,
  inductanceFormulas,
  ruled,
  secondaryFormulas,
  strayFormulas,
  transferFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { wireMetals } from '../../material/index.ts';
import { once, Unavailable, type Own } from '../../block/context.ts';
import type { secondaryFields } from './tank-secondary-fields.ts';

/** What primary and secondary are by their own fields, whatever rig they stand in. */

const rises = { flat: 0, helix: 1 } as const;

/** The primary as its formulas take it. */
export const primaryOf = (own: Own<typeof secondaryFields>) => {
  const shape = own.choice('shape');
  const a =
    shape === 'cone'
      ? own.quantity('a')
      : ruled('rise, as the sine of its angle', rises[shape as keyof typeof rises] ?? 0, '1', 'the shape as chosen');
  return { r0: own.quantity('r0'), p: own.quantity('p'), a, n: own.quantity('n') };
};

export const primaryInductance = once((own: Own<typeof secondaryFields>): Worked =>
  work(secondaryFormulas.spiralInductance, { ...primaryOf(own), d: own.quantity('d1') }, 'primary up to its tap'),
);

export const wireOfSecondary = (own: Own<typeof secondaryFields>) => ({
  N: own.quantity('N2'),
  D: own.quantity('D2'),
  l: own.quantity('l2'),
  d: own.quantity('d2'),
});

export const windingInductance = once((own: Own<typeof secondaryFields>): Worked => {
  const { N, D, l } = wireOfSecondary(own);
  return work(coilFormulas.solenoidInductance, { N, D, l }, 'secondary');
});

export const secondaryInductance = once((own: Own<typeof secondaryFields>): Worked =>
  work(inductanceFormulas.inductanceSum, { L1: windingInductance(own), L2: own.quantity('Le') }, 'secondary with its earth lead'),
);

export const selfCapacitance = once(
  (own: Own<typeof secondaryFields>): Worked =>
    own.optional('Cs') ??
    work(coilFormulas.coilSelfCapacitance, { D: own.quantity('D2'), l: own.quantity('l2') }, 'own capacitance of the secondary'),
);

const two = ruled('radii in a diameter', 2, '1', 'a sphere');

export const topCapacitance = once((own: Own<typeof secondaryFields>): Worked => {
  switch (own.choice('top')) {
    case 'toroid':
      return work(secondaryFormulas.toroidCapacitance, { D: own.quantity('Dt'), d: own.quantity('dt') }, 'toroid');
    case 'sphere':
      return work(
        strayFormulas.sphereCapacitance,
        { r: work(secondaryFormulas.partOfLength, { l: own.quantity('Dt'), n: two }, 'radius of the sphere') },
        'sphere',
      );
    case 'given':
      return own.quantity('Ct');
    default:
      return ruled('top load', 0, 'F', 'there is none');
  }
});

/** @throws Unavailable where there is none at all */
export const secondaryCapacitance = once((own: Own<typeof secondaryFields>): Worked => {
  const [Ca, Cb] = [selfCapacitance(own), topCapacitance(own)];
  if (!(Ca.value + Cb.value > 0))
    throw new Unavailable('load', 'the secondary has no capacitance at all, neither of its own nor on top', 'top');
  if (Cb.value === 0) return Ca;
  if (Ca.value === 0) return Cb;
  return work(transferFormulas.parallelOfTwoCapacitances, { C1: Ca, C2: Cb }, 'secondary with its top');
});

/** Frequency at which the skin counts: that of the secondary, to which the tank is tuned, Hz. */
const skinFrequency = once((own: Own<typeof secondaryFields>): Worked =>
  work(coilFormulas.selfResonance, { L: secondaryInductance(own), C: secondaryCapacitance(own) }, 'resonance of the secondary'),
);

const copper = wireMetals[0];
const metal = {
  rho: ruled('resistivity', copper?.resistivity ?? NaN, 'Ω·m', copper?.source ?? ''),
  alpha: ruled('temperature coefficient', copper?.temperatureCoefficient ?? NaN, 'K⁻¹', copper?.source ?? ''),
  // A coil that runs is warm.
  T: ruled('temperature of the windings', 313.15, 'K', 'a warm coil, 40 °C; common practice, no source'),
};
const single = ruled('layers', 1, '1', 'a single layer');

const skinOf = (own: Own<typeof secondaryFields>, rho: Worked): Worked =>
  work(coilLossFormulas.skinDepth, { f: skinFrequency(own), rho }, 'skin depth at the resonance');

/** Ω of the primary up to its tap at the resonance. */
export const primaryResistance = once((own: Own<typeof secondaryFields>): Worked => {
  const l = work(secondaryFormulas.spiralWire, primaryOf(own), 'conductor of the primary');
  const d = own.quantity('d1');
  const R = work(coilFormulas.wireResistance, { l, d, ...metal }, 'primary, for DC');
  const k = work(coilLossFormulas.skinRatio, { d, delta: skinOf(own, metal.rho) });
  return work(secondaryFormulas.timesFactor, { R, k }, 'primary at the resonance');
});

/** Ω of the secondary at its resonance, with its earth. */
export const secondaryResistance = once((own: Own<typeof secondaryFields>): Worked => {
  const { N, D, l } = wireOfSecondary(own);
  const length = work(secondaryFormulas.layerWire, { D, l, N }, 'wire of the secondary');
  const d = own.quantity('dw');
  const R = work(coilFormulas.wireResistance, { l: length, d, ...metal }, 'secondary, for DC');
  const p = work(secondaryFormulas.partOfLength, { l, n: N }, 'pitch of the secondary');
  const k = work(coilLossFormulas.layerRatio, { d, delta: skinOf(own, metal.rho), m: single, p });
  const own2 = work(secondaryFormulas.timesFactor, { R, k }, 'winding at the resonance');
  return work(secondaryFormulas.resistanceWithEarth, { R: own2, Re: own.quantity('Re') }, 'secondary with its earth');
});
