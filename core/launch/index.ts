export { demagnetising, ferromagnetic, type Armature, type LaunchCoil, type Reading, type Slug } from './armature.ts';
export {
  launch,
  type Firing,
  type LaunchEvent,
  type LaunchOptions,
  type LaunchRun,
  type LaunchSpec,
  type StageCircuit,
} from './launch.ts';
