import { defineFormula, type Formula } from '../define.ts';
import { positiveVoltage } from '../symbol.ts';
import { density, gradient, pastDensity, radius, tabled } from './gap.ts';

const subject = 'Spark gap';

/** Peek's law: gradient at the surface at which corona begins, V/m; radius in m. */
const peek = (base: number, factor: number, delta: number, r: number): number =>
  base * 1e5 * delta * (1 + factor / Math.sqrt(delta * r * 100));

/** Square root of the radius in cm out of a gradient: Peek's law solved for it. */
const peekRadius = (base: number, factor: number, delta: number, g: number): number =>
  (factor / (g / (base * 1e5 * delta) - 1)) ** 2 / delta / 100;

const onset = (
  id: string,
  title: string,
  of: string,
  [base, factor]: readonly [number, number],
  within: string,
): Formula<'r' | 'delta'> =>
  defineFormula({
    id,
    title,
    subject,
    result: { symbol: 'g', ...gradient('surface gradient at corona onset') },
    inputs: { r: radius(`radius of ${of}`), delta: density },
    expression: `${base} kV/cm·{delta}·(1 + ${factor}/√({delta}·{r}/1 cm))`,
    source: 'Peek, Dielectric Phenomena in High Voltage Engineering; from memory',
    assumptions: ['peak value, smooth clean surface, fair weather; a rough one begins at 0.6 to 0.9 of it', within],
    certainty: ({ delta }) => tabled(0.03, 0.1, pastDensity(delta)),
    compute: ({ r, delta }) => peek(base, factor, delta, r),
    inverse: { r: ({ g = 0, delta = 0 }) => peekRadius(base, factor, delta, g) },
  });

export const wireCoronaOnset = onset(
  'wire-corona-onset',
  'Corona on a wire inside a cylinder',
  'the wire',
  [31, 0.308],
  'a wire in the middle of a wide cylinder, and well enough one far from everything',
);
export const parallelWireCoronaOnset = onset(
  'parallel-wire-corona-onset',
  'Corona on two parallel wires',
  'either wire',
  [30, 0.301],
  'wires far apart against their radius',
);
export const sphereCoronaOnset = onset(
  'sphere-corona-onset',
  'Corona on a sphere',
  'the sphere',
  [27.2, 0.54],
  'within 3 %; a sphere far from everything, or the sphere on top of a rod',
);

export const sphereCoronaVoltage = defineFormula({
  id: 'sphere-corona-voltage',
  title: 'Corona onset voltage of an isolated sphere',
  subject,
  result: { symbol: 'Vc', ...positiveVoltage('onset voltage'), display: 'V_c' },
  inputs: { r: radius('radius of the sphere'), delta: density },
  expression: '27.2 kV/cm·{delta}·(1 + 0.54/√({delta}·{r}/1 cm))·{r}',
  source: 'Peek, as sphere-corona-onset, times the radius: the field of a sphere far from everything',
  assumptions: ['nearby objects raise the field and lower this voltage', 'smooth and clean'],
  compute: ({ r, delta }) => peek(27.2, 0.54, delta, r) * r,
});
