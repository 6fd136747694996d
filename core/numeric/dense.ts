import { CholeskyDecomposition, LuDecomposition, Matrix } from 'ml-matrix';

type Rows = readonly (readonly number[])[];
const matrix = (rows: Rows): Matrix => new Matrix(rows as number[][]);

/** Solves A·x = b for a small dense matrix. */
export const solveDense = (A: Rows, b: readonly number[]): number[] =>
  new LuDecomposition(matrix(A)).solve(Matrix.columnVector(b as number[])).to1DArray();

/** Sum of products, term by term. */
export const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, x, i) => sum + x * (b[i] ?? 0), 0);

/** The lower triangle L with L·Lᵀ = A, of a positive matrix that is symmetric but for rounding, as inverses are. */
export const lowerTriangle = (A: Rows): number[][] =>
  new CholeskyDecomposition(
    matrix(A.map((row, i) => row.map((x, k) => (x + (A[k]?.[i] ?? x)) / 2))),
  ).lowerTriangularMatrix.to2DArray();

/** Inverse of a symmetric matrix that has to be positive, as normal equations are; null where rounding alone keeps it from being singular. */
export function inversePositive(A: Rows): number[][] | null {
  const cholesky = new CholeskyDecomposition(matrix(A));
  if (!cholesky.isPositiveDefinite()) return null;
  const L = cholesky.lowerTriangularMatrix;
  // A pivot that rounding alone leaves is none.
  if (A.some((row, i) => !(L.get(i, i) ** 2 > 1e-14 * Math.abs(row[i] ?? 0)))) return null;
  return cholesky.solve(Matrix.eye(A.length)).to2DArray();
}
