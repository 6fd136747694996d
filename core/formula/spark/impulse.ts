import { edge } from '../../numeric/index.ts';

/**
 * The impulse of a two-capacitor generator: C1 with the tail resistor across it discharges through the front resistor into
 * C2. A double exponential, exactly. All numbers SI.
 */

/** Rates of the two exponentials and the height of either in the output, against the charge voltage. */
interface Impulse {
  slow: number;
  fast: number;
  height: number;
}

const impulse: Impulse = { slow: 0, fast: 0, height: 0 };

function shapeOf(C1: number, C2: number, Rf: number, Rt: number): Impulse {
  // y'' + b·y' + c·y = 0 for the output, which begins at zero with a slope of V/(Rf·C2).
  const b = 1 / (Rf * C2) + 1 / (Rf * C1) + 1 / (Rt * C1);
  const c = 1 / (Rf * Rt * C1 * C2);
  const root = Math.sqrt(b * b - 4 * c);
  impulse.fast = (b + root) / 2;
  impulse.slow = c / impulse.fast;
  impulse.height = 1 / (Rf * C2 * root);
  return impulse;
}

const at = ({ slow, fast, height }: Impulse, t: number): number => height * (Math.exp(-slow * t) - Math.exp(-fast * t));
const peakAt = ({ slow, fast }: Impulse): number => Math.log(fast / slow) / (fast - slow);

/** The time at which the output passes a level on a side of its peak. */
function passes(shape: Impulse, level: number, before: boolean): number {
  const top = peakAt(shape);
  const [from, to] = before ? [0, top] : [top, top + 50 / shape.slow];
  return edge((t) => at(shape, t) < level === before, from, to).middle;
}

/** Peak of the output over the charge voltage. */
export function impulseEfficiency(C1: number, C2: number, Rf: number, Rt: number): number {
  const shape = shapeOf(C1, C2, Rf, Rt);
  return at(shape, peakAt(shape));
}

/** Front time T1 = (t90 − t30)/0.6, s. */
export function impulseFront(C1: number, C2: number, Rf: number, Rt: number): number {
  const shape = shapeOf(C1, C2, Rf, Rt);
  const top = at(shape, peakAt(shape));
  return (passes(shape, 0.9 * top, true) - passes(shape, 0.3 * top, true)) / 0.6;
}

/** Time to half value T2 from the virtual origin, s. */
export function impulseTail(C1: number, C2: number, Rf: number, Rt: number): number {
  const shape = shapeOf(C1, C2, Rf, Rt);
  const top = at(shape, peakAt(shape));
  const [t30, t90] = [passes(shape, 0.3 * top, true), passes(shape, 0.9 * top, true)];
  const origin = t30 - (t90 - t30) / 2;
  return passes(shape, 0.5 * top, false) - origin;
}
