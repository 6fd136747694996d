export * from './error.ts';
export * from './rig.ts';
