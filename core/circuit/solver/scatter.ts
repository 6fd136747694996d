import { normals } from '../../numeric/index.ts';
import type { Element } from '../element.ts';

/** What each gap of a circuit holds off, V: its breakdown with its scatter drawn from the seed of the run; 0 of all else. */
export function holdOffs(elements: readonly Element[], seed = 1): Float64Array {
  const normal = normals(seed);
  return Float64Array.from(
    elements.map((e) => (e.kind === 'gap' ? e.breakdown * Math.max(0.05, 1 + (e.scatter ?? 0) * normal()) : 0)),
  );
}
