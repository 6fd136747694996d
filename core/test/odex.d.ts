/** The part of the integrator package that the tests use; its own sources do not hold under this project's strictness. */
export class Solver {
  constructor(dimension: number);
  absoluteTolerance: number;
  relativeTolerance: number;
  maxSteps: number;
  solve(f: (t: number, y: number[]) => number[], from: number, y0: number[], to: number): { y: number[] };
}
