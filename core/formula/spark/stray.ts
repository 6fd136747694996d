import { defineFormula } from '../define.ts';
import { capacitance, count, length } from '../symbol.ts';

const subject = 'Stray capacitance';

/** ε0, F/m: CODATA 2018. */
const epsilon0 = 8.8541878128e-12;

/**
 * Direct capacitance between two like spheres, beside what each has to earth far away: −c12 of Maxwell's series of images.
 *
 * @param D diameter, m
 * @param d spacing, m
 */
function betweenSpheres(D: number, d: number): number {
  const beta = Math.acosh(1 + d / D);
  let sum = 0;
  for (let n = 1; n < 100_000; n++) {
    const term = 1 / Math.sinh(2 * n * beta);
    sum += term;
    if (term < 1e-12 * sum) break;
  }
  return 2 * Math.PI * epsilon0 * D * Math.sinh(beta) * sum;
}

export const sphereGapCapacitance = defineFormula({
  id: 'sphere-gap-capacitance',
  title: 'Capacitance between the spheres of a gap',
  subject,
  result: { symbol: 'Cg', ...capacitance('direct capacitance'), display: 'C_g' },
  inputs: { D: length('diameter of the spheres'), d: length('spacing') },
  expression: '2π·ε0·{D}·sinh β·Σ 1/sinh 2nβ with cosh β = 1 + {d}/{D}',
  source: 'Maxwell, A Treatise on Electricity and Magnetism, two spheres by images; from memory',
  assumptions: ['two like spheres alone; stems and what stands near add to it'],
  relation: ({ D, d }) =>
    d >= 1e-6 * D ? null : { symbol: 'd', reason: 'the spacing is below a millionth of the diameter: they touch' },
  compute: ({ D, d }) => betweenSpheres(D, d),
});

export const columnStray = defineFormula({
  id: 'column-stray',
  title: 'Capacitance to earth of one stage of a column',
  subject,
  result: { symbol: 'Cs', ...capacitance('capacitance of a stage to earth'), display: 'C_s' },
  inputs: { h: length('height of a stage'), w: length('width of a stage'), n: count('stages') },
  expression: '2π·ε0·{h}/ln(2·{n}·{h}/(√3·{w}))',
  source: 'a vertical round rod whose foot stands on an earthed plane, shared evenly; from memory',
  assumptions: [
    'the metal of a stage as a round rod of its width, the column higher than 2.5 times its width',
    'within some 40 %: walls, a mast or people near it add to it; measure it where it matters',
  ],
  relation: ({ h, w, n }) =>
    n * h >= 2.5 * w ? null : { symbol: 'w', reason: 'the column must be at least 2.5 times as high as it is wide' },
  compute: ({ h, w, n }) => (2 * Math.PI * epsilon0 * h) / Math.log((2 * n * h) / (Math.sqrt(3) * w)),
});

export const sphereCapacitance = defineFormula({
  id: 'sphere-capacitance',
  title: 'Capacitance of an isolated sphere',
  subject,
  result: { symbol: 'C', ...capacitance() },
  inputs: { r: length('radius') },
  expression: '4π·ε0·{r}',
  source: "Gauss's law: a sphere alone",
  assumptions: ['earth and walls many radii away; near ones add to it'],
  compute: ({ r }) => 4 * Math.PI * epsilon0 * r,
  inverse: { r: ({ C = 0 }) => C / (4 * Math.PI * epsilon0) },
});
