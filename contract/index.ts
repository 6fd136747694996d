export * from './archive.ts';
export * from './error.ts';
export * from './part.ts';
export * from './revision.ts';
export * from './rig.ts';
export * from './run.ts';
export * from './shot.ts';
