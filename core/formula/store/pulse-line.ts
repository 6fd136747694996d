import { defineFormula } from '../define.ts';
import {
  capacitance,
  current,
  fraction,
  inductance,
  inductanceFromZero,
  positiveVoltage,
  resistance,
  resistanceFromZero,
  time,
} from '../symbol.ts';

const subject = 'Pulse-forming network';

const sections = { title: 'sections', unit: '1', min: 2, max: 1000, integer: true } as const;
const impedance = resistance('impedance of the network');

export const networkInductance = defineFormula({
  id: 'network-inductance',
  title: 'Inductance of a pulse-forming network',
  subject,
  result: { symbol: 'Ln', ...inductance('inductance of all sections'), display: 'L_n' },
  inputs: {
    L: inductance('inductance of a section'),
    n: sections,
    k: { ...fraction('coupling of neighbours'), max: 0.9 },
    e: { title: 'coil at each end over the others', unit: '1', min: 0.5, max: 3, default: 1 },
  },
  expression: '{L}·({n} + 2·({e} − 1) + 2·{k}·({n} − 1))',
  source: 'coils in series, each with 2·k·L of its neighbours',
  assumptions: ['only neighbours couple, and all of them alike'],
  compute: ({ L, n, k, e }) => L * (n + 2 * (e - 1) + 2 * k * (n - 1)),
  inverse: {
    L: ({ Ln = 0, n = 2, k = 0, e = 1 }) => Ln / (n + 2 * (e - 1) + 2 * k * (n - 1)),
    k: ({ Ln = 0, L = 0, n = 2, e = 1 }) => (Ln / L - n - 2 * (e - 1)) / (2 * (n - 1)),
    e: ({ Ln = 0, L = 0, n = 2, k = 0 }) => 1 + (Ln / L - n - 2 * k * (n - 1)) / 2,
  },
});

export const endCoil = defineFormula({
  id: 'network-end-coil',
  title: 'Coil at the end of a pulse-forming network',
  subject,
  result: { symbol: 'L1', ...inductance('coil at its end'), display: 'L_1' },
  inputs: {
    L: inductance('inductance of a section'),
    e: { title: 'coil at the end over the others', unit: '1', min: 0.5, max: 3, default: 1 },
  },
  expression: '{e}·{L}',
  source: 'by how much more it is wound',
  assumptions: [],
  compute: ({ L, e }) => e * L,
  inverse: { L: ({ L1 = 0, e = 1 }) => L1 / e, e: ({ L1 = 0, L = 0 }) => L1 / L },
});

export const networkImpedance = defineFormula({
  id: 'network-impedance',
  title: 'Impedance of a pulse-forming network or line',
  subject,
  result: { symbol: 'Z', ...impedance },
  inputs: {
    Ln: { ...inductance('inductance of all of it'), display: 'L_n' },
    Cn: { ...capacitance('capacitance of all of it'), display: 'C_n' },
  },
  expression: '√({Ln}/{Cn})',
  source: 'wave impedance of a line of that inductance and capacitance (Glasoe and Lebacqz, Pulse Generators; from memory)',
  assumptions: [],
  compute: ({ Ln, Cn }) => Math.sqrt(Ln / Cn),
  inverse: { Ln: ({ Z = 0, Cn = 0 }) => Z * Z * Cn, Cn: ({ Z = 0, Ln = 0 }) => Ln / (Z * Z) },
});

export const networkWidth = defineFormula({
  id: 'network-width',
  title: 'Pulse of a network or line into its own impedance',
  subject,
  result: { symbol: 'tp', ...time('pulse width'), display: 't_p' },
  inputs: {
    Ln: { ...inductance('inductance of all of it'), display: 'L_n' },
    Cn: { ...capacitance('capacitance of all of it'), display: 'C_n' },
  },
  expression: '2·√({Ln}·{Cn})',
  source: 'twice the way through a line of that inductance and capacitance (Glasoe and Lebacqz, Pulse Generators; from memory)',
  assumptions: ['between half heights'],
  compute: ({ Ln, Cn }) => 2 * Math.sqrt(Ln * Cn),
  inverse: { Ln: ({ tp = 0, Cn = 0 }) => tp ** 2 / (4 * Cn), Cn: ({ tp = 0, Ln = 0 }) => tp ** 2 / (4 * Ln) },
});

export const pulseCurrent = defineFormula({
  id: 'pulse-current',
  title: 'Current of a charged network or line',
  subject,
  result: { symbol: 'I', ...current('current of the flat top') },
  inputs: {
    V: positiveVoltage('voltage it is charged to'),
    Z: impedance,
    R: resistanceFromZero('resistance of the rest of the loop'),
  },
  expression: '{V}/({Z} + {R})',
  source: 'a charged line is a source of its voltage behind its impedance',
  assumptions: ['the flat top: the first section overshoots it by what its coil and the load make of it'],
  compute: ({ V, Z, R }) => V / (Z + R),
  inverse: {
    V: ({ I = 0, Z = 0, R = 0 }) => I * (Z + R),
    Z: ({ I = 0, V = 0, R = 0 }) => V / I - R,
    R: ({ I = 0, V = 0, Z = 0 }) => V / I - Z,
  },
});

export const pulseReversal = defineFormula({
  id: 'pulse-reversal',
  title: 'Reversal of a network or line after its pulse',
  subject,
  result: { symbol: 'k', ...fraction('voltage reversal') },
  inputs: { Z: impedance, R: resistanceFromZero('resistance of the rest of the loop') },
  expression: 'max(0, ({Z} − {R})/({Z} + {R}))',
  source: 'reflection of a wave at a load below its impedance; above it the line stays charged the same way',
  assumptions: [],
  compute: ({ Z, R }) => Math.max(0, (Z - R) / (Z + R)),
  inverse: { R: ({ k = 0, Z = 0 }) => (Z * (1 - k)) / (1 + k), Z: ({ k = 0, R = 0 }) => (R * (1 + k)) / (1 - k) },
});

/** Over √(L·C) of the first section: 1.2 with next to no coil behind it, 1.5 with half of one. */
const firstTop = 1.35;

export const pulseRise = defineFormula({
  id: 'pulse-rise',
  title: 'Time to the first top of a network’s pulse',
  subject,
  result: { symbol: 't', ...time('time to the first top') },
  inputs: {
    L1: { ...inductance('first coil with the rest of the loop'), display: 'L_1' },
    C: capacitance('capacitance of a section'),
  },
  expression: '1.35·√({L1}·{C})',
  source: 'a fit to networks of 5 to 20 sections into their own impedance, solved section by section; no other source',
  assumptions: ['into about its own impedance: far from it, later or sooner'],
  certainty: () => ({ band: 0.2, drawnOut: null }),
  compute: ({ L1, C }) => firstTop * Math.sqrt(L1 * C),
  inverse: { L1: ({ t = 0, C = 0 }) => (t / firstTop) ** 2 / C, C: ({ t = 0, L1 = 0 }) => (t / firstTop) ** 2 / L1 },
});

export const sectionCapacitance = defineFormula({
  id: 'section-capacitance',
  title: 'Capacitance of a section for a pulse that is wanted',
  subject,
  result: { symbol: 'C', ...capacitance('capacitance of a section') },
  inputs: { Z: impedance, tp: { ...time('pulse width'), open: true, display: 't_p' }, n: sections },
  expression: '{tp}/(2·{n}·{Z})',
  source: 't_p = 2·√(L·C) and Z = √(L/C) of the whole network',
  assumptions: [],
  compute: ({ Z, tp, n }) => tp / (2 * n * Z),
  inverse: { Z: ({ C = 0, tp = 0, n = 2 }) => tp / (2 * n * C), tp: ({ C = 0, Z = 0, n = 2 }) => 2 * n * Z * C },
});

export const sectionInductance = defineFormula({
  id: 'section-inductance',
  title: 'Inductance of a section for a pulse that is wanted',
  subject,
  result: { symbol: 'L', ...inductanceFromZero('inductance of a section') },
  inputs: {
    Z: impedance,
    tp: { ...time('pulse width'), open: true, display: 't_p' },
    n: sections,
    k: { ...fraction('coupling of neighbours'), max: 0.9 },
    e: { title: 'coil at each end over the others', unit: '1', min: 0.5, max: 3, default: 1 },
  },
  expression: '{Z}·{tp}/(2·({n} + 2·({e} − 1) + 2·{k}·({n} − 1)))',
  source: 't_p = 2·√(L·C) and Z = √(L/C) of the whole network, coils with their coupling',
  assumptions: [],
  compute: ({ Z, tp, n, k, e }) => (Z * tp) / (2 * (n + 2 * (e - 1) + 2 * k * (n - 1))),
  inverse: {
    Z: ({ L = 0, tp = 0, n = 2, k = 0, e = 1 }) => (2 * L * (n + 2 * (e - 1) + 2 * k * (n - 1))) / tp,
    tp: ({ L = 0, Z = 0, n = 2, k = 0, e = 1 }) => (2 * L * (n + 2 * (e - 1) + 2 * k * (n - 1))) / Z,
  },
});

export const lineCapacitance = defineFormula({
  id: 'line-capacitance',
  title: 'Capacitance of a line',
  subject,
  result: { symbol: 'Cn', ...capacitance('capacitance of the line'), display: 'C_n' },
  inputs: { Z: resistance('wave impedance'), td: { ...time('delay, one way'), open: true, display: 't_d' } },
  expression: '{td}/{Z}',
  source: 't_d = √(L·C) and Z = √(L/C) of the whole line',
  assumptions: ['a line without loss'],
  compute: ({ Z, td }) => td / Z,
  inverse: { Z: ({ Cn = 0, td = 0 }) => td / Cn, td: ({ Cn = 0, Z = 0 }) => Cn * Z },
});

export const lineInductance = defineFormula({
  id: 'line-inductance',
  title: 'Inductance of a line',
  subject,
  result: { symbol: 'Ln', ...inductance('inductance of the line'), display: 'L_n' },
  inputs: { Z: resistance('wave impedance'), td: { ...time('delay, one way'), open: true, display: 't_d' } },
  expression: '{td}·{Z}',
  source: 't_d = √(L·C) and Z = √(L/C) of the whole line',
  assumptions: ['a line without loss'],
  compute: ({ Z, td }) => td * Z,
  inverse: { Z: ({ Ln = 0, td = 0 }) => Ln / td, td: ({ Ln = 0, Z = 0 }) => Ln / Z },
});

/** m/s. */
const light = 299_792_458;

export const lineDelay = defineFormula({
  id: 'line-delay',
  title: 'Delay of a line, one way',
  subject,
  result: { symbol: 'td', ...time('delay, one way'), display: 't_d' },
  inputs: {
    l: { title: 'length', unit: 'm', min: 0, max: 1e6, open: true },
    v: { ...fraction('velocity over that of light'), min: 0.01, default: 0.66 },
  },
  expression: '{l}/(299792458·{v})',
  source: 'length over the velocity of its wave: 0.66 of light in solid polyethylene, 0.11 in water; from memory',
  assumptions: [],
  compute: ({ l, v }) => l / (light * v),
  inverse: { l: ({ td = 0, v = 1 }) => td * light * v, v: ({ td = 0, l = 0 }) => l / (td * light) },
});

export const edgeRise = defineFormula({
  id: 'edge-rise',
  title: 'Rise of a line’s pulse, 10 to 90 %',
  subject,
  result: { symbol: 'tr', ...time('rise time, 10 to 90 %'), display: 't_r' },
  inputs: {
    L: inductance('inductance beside the line'),
    Z: impedance,
    R: resistanceFromZero('resistance of the rest of the loop'),
  },
  expression: 'ln(9)·{L}/({Z} + {R})',
  source: 'one inductance behind the impedance of the line and the load: ln 9 time constants',
  assumptions: ['a switch that closes at once'],
  compute: ({ L, Z, R }) => (Math.log(9) * L) / (Z + R),
  inverse: {
    L: ({ tr = 0, Z = 0, R = 0 }) => (tr * (Z + R)) / Math.log(9),
    Z: ({ tr = 0, L = 0, R = 0 }) => (Math.log(9) * L) / tr - R,
    R: ({ tr = 0, L = 0, Z = 0 }) => (Math.log(9) * L) / tr - Z,
  },
});

export const inRowCapacitance = defineFormula({
  id: 'in-row-capacitance',
  title: 'Capacitance of lines one behind the other at the load',
  subject,
  result: { symbol: 'Cd', ...capacitance('capacitance that is discharged'), display: 'C_d' },
  inputs: {
    Cn: { ...capacitance('capacitance of all of them side by side'), display: 'C_n' },
    n: { title: 'one behind the other', unit: '1', min: 1, max: 100, integer: true },
  },
  expression: '{Cn}/{n}²',
  source: 'a share of the capacitance for each, and those in series',
  assumptions: ['all of them alike'],
  compute: ({ Cn, n }) => Cn / (n * n),
  inverse: { Cn: ({ Cd = 0, n = 1 }) => Cd * n * n },
});
