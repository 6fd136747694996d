/**
 * Symmetric positive definite systems with a fixed pattern: the order of elimination and every place it touches are found
 * once, and a factorisation is then a walk over flat arrays.
 */
export interface Pattern {
  /** Unknowns. */
  readonly n: number;
  /** New number of each unknown: they are eliminated in this order. */
  readonly order: Int32Array;
  /** Place of the pair (i, j), in new numbers, in the array of off-diagonals; -1 where there is none. */
  place(i: number, j: number): number;
  /** Length of the array of off-diagonals, fill included. */
  readonly size: number;
  readonly start: Int32Array;
  readonly row: Int32Array;
  /** Of each off-diagonal, as `row` is. */
  readonly column: Int32Array;
  readonly target: Int32Array;
}

/** Finds the order of least degree and the pattern of the factor. `pairs` are unknowns that share an element. */
export function patternOf(n: number, pairs: Iterable<readonly [number, number]>): Pattern {
  const near = Array.from({ length: n }, () => new Set<number>());
  for (const [a, b] of pairs) {
    if (a === b) continue;
    near[a]?.add(b);
    near[b]?.add(a);
  }
  const order = new Int32Array(n).fill(-1);
  const columns: number[][] = [];
  // Buckets by degree: the next one is found without looking at all.
  const buckets: Set<number>[] = [];
  const put = (i: number) => (buckets[near[i]?.size ?? 0] ??= new Set()).add(i);
  for (let i = 0; i < n; i++) put(i);
  for (let k = 0; k < n; k++) {
    let degree = 0;
    while ((buckets[degree]?.size ?? 0) === 0) degree += 1;
    const pivot = buckets[degree]?.values().next().value ?? 0;
    buckets[degree]?.delete(pivot);
    const others = [...(near[pivot] ?? [])];
    order[pivot] = k;
    columns.push(others);
    for (const i of others) buckets[near[i]?.size ?? 0]?.delete(i);
    for (const i of others) {
      const set = near[i];
      set?.delete(pivot);
      for (const j of others) if (j !== i) set?.add(j);
    }
    for (const i of others) put(i);
  }
  const start = new Int32Array(n + 1);
  const rows: number[] = [];
  columns.forEach((column, k) => {
    rows.push(...column.map((i) => order[i] ?? 0).sort((a, b) => a - b));
    start[k + 1] = rows.length;
  });
  const row = Int32Array.from(rows);
  const column = new Int32Array(rows.length);
  for (let k = 0; k < n; k++) column.fill(k, start[k], start[k + 1]);
  const places = new Map<number, number>();
  for (let k = 0; k < n; k++) for (let p = start[k] ?? 0; p < (start[k + 1] ?? 0); p++) places.set(k * n + (row[p] ?? 0), p);
  const place = (i: number, j: number): number => places.get(Math.min(i, j) * n + Math.max(i, j)) ?? -1;
  const targets: number[] = [];
  for (let k = 0; k < n; k++)
    for (let p = start[k] ?? 0; p < (start[k + 1] ?? 0); p++)
      for (let q = p + 1; q < (start[k + 1] ?? 0); q++) targets.push(place(row[p] ?? 0, row[q] ?? 0));
  return { n, order, place, size: rows.length, start, row, column, target: Int32Array.from(targets) };
}

/** A factorisation in place: `diagonal` and `off` come in as the matrix and go out as its factor. @returns -1, or the unknown at which it is singular */
export function factorise({ n, start, row, target }: Pattern, diagonal: Float64Array, off: Float64Array): number {
  let op = 0;
  for (let k = 0; k < n; k++) {
    const d = diagonal[k] as number;
    if (!(d > 1e-300)) return k;
    const [from, to] = [start[k] as number, start[k + 1] as number];
    for (let p = from; p < to; p++) {
      const a = off[p] as number;
      const l = a / d;
      diagonal[row[p] as number] = (diagonal[row[p] as number] as number) - l * a;
      for (let q = p + 1; q < to; q++) {
        const at = target[op++] as number;
        off[at] = (off[at] as number) - l * (off[q] as number);
      }
    }
    const inverse = 1 / d;
    for (let p = from; p < to; p++) off[p] = (off[p] as number) * inverse;
    diagonal[k] = inverse;
  }
  return -1;
}

/**
 * Solves with a factor, in place. The diagonal holds reciprocals. The off-diagonals stand column by column: forwards and
 * backwards are one walk each, without a loop in a loop.
 */
export function solve({ n, size, row, column }: Pattern, diagonal: Float64Array, off: Float64Array, x: Float64Array): void {
  for (let p = 0; p < size; p++) {
    const r = row[p] as number;
    x[r] = (x[r] as number) - (off[p] as number) * (x[column[p] as number] as number);
  }
  for (let k = 0; k < n; k++) x[k] = (x[k] as number) * (diagonal[k] as number);
  for (let p = size - 1; p >= 0; p--) {
    const c = column[p] as number;
    x[c] = (x[c] as number) - (off[p] as number) * (x[row[p] as number] as number);
  }
}
