import { Solver } from 'odex';

/** The state of dy/dt = f(t, y) at each time, by a general-purpose integrator (odex, extrapolation method). */
export function integrate(f: (t: number, y: number[]) => number[], y0: number[], times: readonly number[]): number[][] {
  const solver = new Solver(y0.length);
  solver.absoluteTolerance = 1e-11 * Math.max(...y0.map(Math.abs), 1);
  solver.relativeTolerance = 1e-12;
  solver.maxSteps = 1e6;
  // The integrator's first step is an absolute number: time is scaled so that the whole run is 1.
  const T = times.at(-1) ?? 1;
  const scaled = (s: number, y: number[]) => f(s * T, y).map((slope) => slope * T);
  let [t, y] = [0, y0];
  return times.map((next) => {
    if (next > t) y = [...solver.solve(scaled, t / T, y, next / T).y];
    t = next;
    return y;
  });
}
