import { defineFormula, type Values } from '../define.ts';
import { capacitance, current, energy, positiveVoltage, power, resistance, time, voltage } from '../symbol.ts';

const subject = 'Bleed';

/** A branch with lamps: a resistor, then a part that a clamp holds, with the lamps behind a resistor of their own across it. */
const branch = {
  Rs: { ...resistance('resistor before the clamp'), display: 'R_s' },
  Rp: { ...resistance('resistor across the lamps'), display: 'R_p' },
  Rl: { ...resistance('resistor of the lamps'), display: 'R_l' },
  Vz: { ...positiveVoltage('voltage of the clamp'), display: 'V_z' },
  Vf: { ...voltage('drop of a lamp'), display: 'V_f' },
};
type Branch = Values<keyof typeof branch>;

/** V across the clamped part while a voltage stands on the branch. */
const partOf = ({ Rs, Rp, Rl, Vz, Vf }: Branch, V: number): number => {
  const open = (V * Rp) / (Rs + Rp);
  const lit = (V / Rs + Vf / Rl) / (1 / Rs + 1 / Rp + 1 / Rl);
  return Math.min(Vz, open <= Vf ? open : lit);
};

/** V on the branch below which the clamp no longer conducts. */
const clampsFrom = ({ Rs, Rp, Rl, Vz, Vf }: Branch): number => Vz + Rs * (Vz / Rp + Math.max(0, Vz - Vf) / Rl);

export const lampCurrent = defineFormula({
  id: 'lamp-current',
  title: 'Current of the lamp of a discharge stick',
  subject,
  result: { symbol: 'Il', ...current('current of the lamp'), display: 'I_l' },
  inputs: { V: voltage('voltage on the stick'), ...branch },
  expression: '(v − {Vf})/{Rl},  v = {Vz} while the clamp conducts, else ({V}/{Rs} + {Vf}/{Rl})/(1/{Rs} + 1/{Rp} + 1/{Rl})',
  source: 'Kirchhoff’s laws; a clamp without resistance',
  assumptions: ['one of two lamps in inverse parallel conducts, the other blocks'],
  compute: ({ V, ...of }) => Math.max(0, partOf(of, V) - of.Vf) / of.Rl,
});

export const clampPower = defineFormula({
  id: 'clamp-power',
  title: 'Power in the clamp of a discharge stick at first touch',
  subject,
  result: { symbol: 'P', ...power('power in the clamp') },
  inputs: { V: voltage('voltage on the stick'), ...branch },
  expression: '{Vz}·(({V} − {Vz})/{Rs} − {Vz}/{Rp} − ({Vz} − {Vf})/{Rl}), not below zero',
  source: 'Kirchhoff’s laws; a clamp without resistance',
  assumptions: ['one of two lamps in inverse parallel conducts, the other blocks'],
  compute: ({ V, ...of }) => of.Vz * Math.max(0, (V - of.Vz) / of.Rs - of.Vz / of.Rp - Math.max(0, of.Vz - of.Vf) / of.Rl),
});

/** The course of a store through Rx straight across it and a branch beside: towards a voltage, with a time constant. */
const course = (C: number, Rx: number, behind: number, towards: number) => {
  const G = 1 / Rx + 1 / behind;
  return { tau: C / G, end: towards / behind / G };
};
const reach = ({ tau, end }: { tau: number; end: number }, from: number, to: number): number =>
  from > to ? tau * Math.log((from - end) / (to - end)) : 0;

export const clampEnergy = defineFormula({
  id: 'clamp-energy',
  title: 'Energy in the clamp of a discharge stick over one discharge',
  subject,
  result: { symbol: 'E', ...energy('energy in the clamp') },
  inputs: {
    C: capacitance(),
    V0: { ...positiveVoltage('voltage at the start'), display: 'V_0' },
    Rx: { ...resistance('resistance straight across the store'), display: 'R_x' },
    ...branch,
  },
  expression:
    '∫ {Vz}·((v − {Vz})/{Rs} − {Vz}/{Rp} − ({Vz} − {Vf})/{Rl}) dt while the clamp conducts, {C} at {V0} discharged by {Rx} and {Rs}',
  source: 'integral of an exponential: the store runs towards a voltage with one time constant as long as the clamp conducts',
  assumptions: ['a clamp without resistance', 'nothing else discharges the store'],
  compute: ({ C, V0, Rx, ...of }) => {
    const last = clampsFrom(of);
    if (V0 <= last) return 0;
    const run = course(C, Rx, of.Rs, of.Vz);
    const t = reach(run, V0, last);
    const charge = ((run.end - of.Vz) * t + (V0 - run.end) * run.tau * -Math.expm1(-t / run.tau)) / of.Rs;
    return Math.max(0, of.Vz * (charge - t * (of.Vz / of.Rp + Math.max(0, of.Vz - of.Vf) / of.Rl)));
  },
});

export const branchLampTime = defineFormula({
  id: 'branch-lamp-on-time',
  title: 'How long the lamp in a branch across the bleed resistor stays on',
  subject,
  result: { symbol: 't', ...time('time until it goes out') },
  inputs: {
    C: capacitance(),
    V0: { ...positiveVoltage('voltage at the start'), display: 'V_0' },
    Rx: { ...resistance('bleed resistor straight across the store'), display: 'R_x' },
    Rs: branch.Rs,
    Rl: branch.Rl,
    Vz: branch.Vz,
    Vf: branch.Vf,
    Il: { ...current('current at which it is seen to go out'), display: 'I_l' },
  },
  expression:
    'τ·ln(({V0} − Ve)/(Vc − Ve)) while the clamp conducts, down to Vc = {Vz} + {Rs}·({Vz} − {Vf})/{Rl}; then the same down to Vo = {Vf} + {Il}·({Rl} + {Rs}); τ and Ve of {C} through {Rx} beside the branch, which runs towards {Vz} and then, with {Rl}, towards {Vf}',
  source: 'two exponentials in a row, each of a capacitor through a resistance towards a voltage',
  assumptions: ['a clamp without resistance', 'nothing else discharges the store'],
  relation: ({ V0, Vz, Rs, Rl, Vf, Il }) => {
    if (Vz <= Vf + Il * Rl) return { symbol: 'Vz', reason: 'the clamp holds the lamp below what it needs to be seen' };
    return V0 > Vf + Il * (Rl + Rs) ? null : { symbol: 'V0', reason: 'the lamp is out from the start' };
  },
  compute: ({ C, V0, Rx, Rs, Rl, Vz, Vf, Il }) => {
    const last = Vz + (Rs * (Vz - Vf)) / Rl;
    const held = course(C, Rx, Rs, Vz);
    const free = course(C, Rx, Rs + Rl, Vf);
    return reach(held, V0, last) + reach(free, Math.min(V0, last), Vf + Il * (Rl + Rs));
  },
});

/** A discharge tool with lamps: resistors Rs, then a part that a clamp holds at Vz, with lamps behind Rl across it. */
const lampTool = {
  Rs: { ...resistance('resistors in series, all of them'), display: 'R_s' },
  Rp: { ...resistance('resistor across the lamps'), display: 'R_p' },
  Rl: { ...resistance('resistor of the lamps'), display: 'R_l' },
  Vf: { ...voltage('drop of a lamp'), display: 'V_f' },
  Il: { ...current('current at which it is seen to go out'), display: 'I_l' },
};

export const lampOutVoltage = defineFormula({
  id: 'lamp-out-voltage',
  title: 'Voltage at which the lamp of a discharge stick goes out',
  subject,
  result: { symbol: 'Vo', ...voltage('voltage that is left'), display: 'V_o' },
  inputs: lampTool,
  expression: 'v + {Rs}·(v/{Rp} + {Il}),  v = {Vf} + {Il}·{Rl}',
  source: "Kirchhoff's laws; the clamp no longer conducts",
  assumptions: ['the lamp is seen down to that current, in the light there is'],
  compute: ({ Rs, Rp, Rl, Vf, Il }) => {
    const v = Vf + Il * Rl;
    return v + Rs * (v / Rp + Il);
  },
});

export const lampOnTime = defineFormula({
  id: 'lamp-on-time',
  title: 'How long the lamp of a discharge stick stays on',
  subject,
  result: { symbol: 't', ...time('time until it goes out') },
  inputs: {
    C: capacitance(),
    V0: { ...positiveVoltage('voltage at the start'), display: 'V_0' },
    Vz: { ...positiveVoltage('voltage of the clamp'), display: 'V_z' },
    ...lampTool,
  },
  expression:
    '{Rs}·{C}·ln(({V0} − {Vz})/(Vc − {Vz})) while the clamp conducts, down to Vc = {Vz} + {Rs}·({Vz}/{Rp} + ({Vz} − {Vf})/{Rl}); then Re·{C}·ln((Vc − Ve)/(Vo − Ve)), Re and Ve those of the stick without its clamp, Vo where the lamp has {Il} left',
  source: 'two exponentials in a row, each of a capacitor through a resistance towards a voltage',
  assumptions: ['a clamp without resistance', 'nothing else discharges the store'],
  relation: ({ V0, Vz, Rs, Rp, Vf, Il, Rl }) => {
    const v = Vf + Il * Rl;
    if (Vz <= v) return { symbol: 'Vz', reason: 'the clamp holds the lamp below what it needs to be seen' };
    return V0 > v + Rs * (v / Rp + Il) ? null : { symbol: 'V0', reason: 'the lamp is out from the start' };
  },
  compute: ({ C, V0, Vz, Rs, Rp, Rl, Vf, Il }) => {
    const v = Vf + Il * Rl;
    const out = v + Rs * (v / Rp + Il);
    const Vc = Vz + Rs * (Vz / Rp + (Vz - Vf) / Rl);
    const clamped = V0 > Vc ? Rs * C * Math.log((V0 - Vz) / (Vc - Vz)) : 0;
    const G = 1 / Rs + 1 / Rp + 1 / Rl;
    const share = 1 - 1 / (Rs * G);
    const [Re, Ve] = [Rs / share, Vf / (Rl * G) / share];
    return clamped + Re * C * Math.log((Math.min(V0, Vc) - Ve) / (out - Ve));
  },
});
