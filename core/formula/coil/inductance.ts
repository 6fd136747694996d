import { defineFormula } from '../define.ts';
import { inductance, length } from '../symbol.ts';

const subject = 'Inductance';
/** µ0/2π = 2e-7 H/m; since 2019 a measured value that differs from this by less than 1e-9. */
const mu0Over2Pi = 2e-7;

export const straightWireInductance = defineFormula({
  id: 'straight-wire-inductance',
  title: 'Inductance of a straight round wire',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: { l: length('length of the wire'), d: length('diameter of the wire') },
  expression: '(µ0·{l}/2π)·(ln(4·{l}/{d}) − ¾)',
  source: 'Rosa, The self and mutual inductances of linear conductors, Bulletin of the Bureau of Standards 4 (1908); from memory',
  assumptions: [
    'low frequency: current fills the wire; at skin depth ¾ becomes 1 and the value is a little lower',
    'the return conductor is far away',
  ],
  relation: ({ l, d }) =>
    l >= d ? null : { symbol: 'd', reason: 'the diameter must not exceed the length: the formula is for a thin wire' },
  compute: ({ l, d }) => mu0Over2Pi * l * (Math.log((4 * l) / d) - 0.75),
  inverse: { d: ({ L = 0, l = 0 }) => 4 * l * Math.exp(-(L / (mu0Over2Pi * l) + 0.75)) },
});

export const loopInductance = defineFormula({
  id: 'loop-inductance',
  title: 'Inductance of a round loop of wire',
  subject,
  result: { symbol: 'L', ...inductance() },
  inputs: { D: length('diameter of the loop, to the middle of the wire'), d: length('diameter of the wire') },
  expression: 'µ0·({D}/2)·(ln(8·{D}/{d}) − 7⁄4)',
  source: 'Maxwell; Rosa and Grover, Formulas and tables for the calculation of mutual and self-inductance (1912); from memory',
  assumptions: ['low frequency: current fills the wire', 'thin wire: exact as d/D becomes small, within 2 % at d/D = 0.2'],
  relation: ({ D, d }) =>
    D >= 2 * d
      ? null
      : { symbol: 'd', reason: 'the wire must not be thicker than half the loop: the formula is for a thin wire' },
  compute: ({ D, d }) => Math.PI * mu0Over2Pi * D * (Math.log((8 * D) / d) - 1.75),
  inverse: { d: ({ L = 0, D = 0 }) => 8 * D * Math.exp(-(L / (Math.PI * mu0Over2Pi * D) + 1.75)) },
});

export const loopOfLead = defineFormula({
  id: 'loop-diameter',
  title: 'Diameter of a round loop from the length of its lead',
  subject,
  result: { symbol: 'D', ...length('diameter of the loop') },
  inputs: { l: length('length of the lead, there and back') },
  expression: '{l}/π',
  source:
    'circumference of a circle; of all loops of one length the round one encloses the most area and has nearly the greatest inductance',
  assumptions: ['the leads form a round loop; leads laid side by side have less inductance'],
  compute: ({ l }) => l / Math.PI,
  inverse: { l: ({ D = 0 }) => D * Math.PI },
});

export const inductanceSum = defineFormula({
  id: 'inductance-sum',
  title: 'Two inductances in series',
  subject,
  result: { symbol: 'Lt', title: 'total inductance', unit: 'H', min: 0, max: 1e7, display: 'L_t' },
  inputs: {
    L1: { title: 'first inductance', unit: 'H', min: 0, max: 1e6 },
    L2: { title: 'second inductance', unit: 'H', min: 0, max: 1e6 },
  },
  expression: '{L1} + {L2}',
  source: "Kirchhoff's voltage law",
  assumptions: ['the two do not couple'],
  compute: ({ L1, L2 }) => L1 + L2,
  inverse: { L1: ({ Lt = 0, L2 = 0 }) => Lt - L2, L2: ({ Lt = 0, L1 = 0 }) => Lt - L1 },
});
