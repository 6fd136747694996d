export { bleedTraces, chargeTraces, dischargeTraces, rlcDischarge, type Trace } from './closed-form.ts';
