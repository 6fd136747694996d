export { hazardOf, hazardRules, wordFinding, type Finding, type Hazard, type HazardClass, type HazardRule } from './hazard.ts';
