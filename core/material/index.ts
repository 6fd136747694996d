export { conductorById, fillings, foils, type Conductor } from './conductor.ts';
export { dielectricById, dielectrics, type Dielectric, type Range } from './dielectric.ts';
export { gasById, gases, type Gas, type GasId } from './gas.ts';
