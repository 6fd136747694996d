export { hazardOf, hazardRules, wordFinding, type Finding, type Hazard, type HazardClass, type HazardRule } from './hazard.ts';
export { dischargeRules, dischargeRulesFor, type DischargeRule } from './discharge-rules.ts';
