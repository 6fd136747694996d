import type { Element } from '../element.ts';

/** Inductors that share flux. */
export interface CoupledGroup {
  readonly branches: readonly number[];
  readonly L: Float64Array;
  readonly R: Float64Array;
}

/** Inverse of a small dense matrix, by Gauss and Jordan with pivots; of the solver's own, which calls it at every change of its step. */
export function inverse(m: number, a: Float64Array): Float64Array | null {
  const w = Float64Array.from(a);
  const out = new Float64Array(m * m);
  for (let i = 0; i < m; i++) out[i * m + i] = 1;
  for (let k = 0; k < m; k++) {
    let p = k;
    for (let i = k + 1; i < m; i++) if (Math.abs(w[i * m + k] ?? 0) > Math.abs(w[p * m + k] ?? 0)) p = i;
    const pivot = w[p * m + k] ?? 0;
    if (!(Math.abs(pivot) > 0)) return null;
    for (let j = 0; j < m; j++) {
      for (const x of [w, out]) [x[k * m + j], x[p * m + j]] = [x[p * m + j] ?? 0, x[k * m + j] ?? 0];
    }
    for (let j = 0; j < m; j++) {
      w[k * m + j] = (w[k * m + j] ?? 0) / pivot;
      out[k * m + j] = (out[k * m + j] ?? 0) / pivot;
    }
    for (let i = 0; i < m; i++) {
      const f = w[i * m + k] ?? 0;
      if (i === k || f === 0) continue;
      for (let j = 0; j < m; j++) {
        w[i * m + j] = (w[i * m + j] ?? 0) - f * (w[k * m + j] ?? 0);
        out[i * m + j] = (out[i * m + j] ?? 0) - f * (out[k * m + j] ?? 0);
      }
    }
  }
  return out;
}

export function groupsOf(elements: readonly Element[], branchOf: ReadonlyMap<string, number>): CoupledGroup[] {
  const couplings = elements.filter((e) => e.kind === 'coupling');
  const sets: Set<string>[] = [];
  for (const { inductors } of couplings) {
    const touched = sets.filter((s) => inductors.some((name) => s.has(name)));
    for (const s of touched) sets.splice(sets.indexOf(s), 1);
    sets.push(new Set([...touched.flatMap((s) => [...s]), ...inductors]));
  }
  const inductor = (name: string) =>
    elements.find((e) => e.name === name && e.kind === 'inductor') as Extract<Element, { kind: 'inductor' }>;
  return sets.map((set) => {
    const names = [...set];
    const m = names.length;
    const L = new Float64Array(m * m);
    names.forEach((name, i) => (L[i * m + i] = inductor(name).L));
    for (const { inductors, k } of couplings) {
      const [i, j] = [names.indexOf(inductors[0]), names.indexOf(inductors[1])];
      if (i < 0 || j < 0) continue;
      const M = k * Math.sqrt((L[i * m + i] ?? 0) * (L[j * m + j] ?? 0));
      L[i * m + j] = M;
      L[j * m + i] = M;
    }
    return {
      branches: names.map((name) => branchOf.get(name) ?? -1),
      L,
      R: Float64Array.from(names.map((n) => inductor(n).R ?? 0)),
    };
  });
}
