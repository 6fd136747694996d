export { conductorById, fillings, foils, wireMetalById, wireMetals, type Conductor, type WireMetal } from './conductor.ts';
export { dielectricById, dielectrics, type Dielectric, type Range } from './dielectric.ts';
export { gasById, gases, type Gas, type GasId } from './gas.ts';
export { anyInsulation, insulationConstants, type InsulationConstant } from './insulation.ts';
export { conductivityOf, solutionById, solutions, type Solution } from './solution.ts';
export { absorptions, type Absorption } from './absorption.ts';
