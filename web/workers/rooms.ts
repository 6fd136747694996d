/** What workers of the page calculate, by name: fetched when a worker is first asked, and core with them once for all. */
export const rooms = {
  bench: () => import('./bench.calculations.ts'),
  'coil-finder': () => import('./coil-finder.calculations.ts'),
  evaluate: () => import('./evaluate.calculations.ts'),
  'scope-file': () => import('./scope-file.calculations.ts'),
  solve: () => import('./solve.calculations.ts'),
  'rig-study': () => import('./rig-study.calculations.ts'),
  studies: () => import('./studies.calculations.ts'),
};
export type Room = keyof typeof rooms;
