export { newReading, type Armature, type LaunchCoil, type Reading } from './armature.ts';
export { demagnetising, ferromagnetic, type Slug } from './ferromagnetic.ts';
export { conducting, sleeveTurn, type Sleeve } from './sleeve.ts';
export {
  launch,
  type Firing,
  type LaunchEvent,
  type LaunchOptions,
  type LaunchRun,
  type LaunchSpec,
  type StageCircuit,
} from './launch.ts';
