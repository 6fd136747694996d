import { resistivity } from './coil-loss.ts';
import { mu0 } from '../../model/index.ts';
import { defineFormula, type SymbolSpec } from '../define.ts';
import { shellPulse, type ShellPulse } from './shell-pulse.ts';
import { current, length } from '../symbol.ts';

const subject = 'Coil';
const fluxDensity = { title: 'flux density', unit: 'T', min: 0, max: 1e4 } as const satisfies SymbolSpec;
const stress = (title: string) => ({ title, unit: 'Pa', min: 0, max: 1e13 }) as const satisfies SymbolSpec;

export const sheetField = defineFormula({
  id: 'sheet-field',
  title: 'Field at a conducting wall facing a coil',
  subject,
  result: { symbol: 'B', ...fluxDensity },
  inputs: {
    I: current('current in the coil'),
    k: { title: 'current in the wall for 1 A, on a metre', unit: 'm⁻¹', min: 0, max: 1e6 },
  },
  expression: 'µ0·{k}·{I}',
  source: 'Ampère’s law: the field outside a wall that keeps it out is µ0 times its current on a metre',
  assumptions: ['a wall so thick, or a pulse so short, that no field comes through'],
  compute: ({ I, k }) => mu0 * k * I,
  inverse: { I: ({ B = 0, k = 0 }) => B / (mu0 * k), k: ({ B = 0, I = 0 }) => B / (mu0 * I) },
});

const dampedShare = { title: 'damping over angular frequency', unit: '1', min: 0, max: 3 } as const satisfies SymbolSpec;

export const shellTimeConstant = defineFormula({
  id: 'shell-time-constant',
  title: 'Diffusion time of a field through a tube wall',
  subject,
  result: { symbol: 'tau', title: 'time constant', unit: 's', min: 0, max: 1e6, display: 'τ' },
  inputs: {
    D: length('diameter to the middle of the wall'),
    w: length('wall'),
    rho: resistivity,
  },
  expression: '¼µ0·{D}·{w}/{rho}',
  source: 'Faraday and Ampère for a long thin tube: µ0·σ·r·w/2',
  assumptions: ['the wall is thin beside the diameter and beside the skin depth', 'a long tube in a field along it'],
  compute: ({ D, w, rho }) => (mu0 * D * w) / (4 * rho),
  inverse: {
    D: ({ tau = 0, w = 0, rho = 0 }) => (4 * rho * tau) / (mu0 * w),
    w: ({ tau = 0, D = 0, rho = 0 }) => (4 * rho * tau) / (mu0 * D),
    rho: ({ tau = 0, D = 0, w = 0 }) => (mu0 * D * w) / (4 * tau),
  },
});

export const shellShielding = defineFormula({
  id: 'shell-shielding',
  title: 'Shielding of a thin tube',
  subject,
  result: { symbol: 'x', title: 'angular frequency times time constant', unit: '1', min: 0, max: 1e18, display: 'ωτ' },
  inputs: {
    f: { title: 'frequency', unit: 'Hz', min: 0, max: 1e12, open: true },
    tau: { title: 'time constant of the wall', unit: 's', min: 0, max: 1e6, open: true, display: 'τ' },
  },
  expression: '2π·{f}·{tau}',
  source: 'first-order equation of a thin shell',
  assumptions: ['far above 1 the field stays outside, far below 1 it is inside as outside'],
  compute: ({ f, tau }) => 2 * Math.PI * f * tau,
  inverse: { f: ({ x = 0, tau = 0 }) => x / (2 * Math.PI * tau), tau: ({ x = 0, f = 0 }) => x / (2 * Math.PI * f) },
});

export const pressureThroughWall = defineFormula({
  id: 'pressure-through-wall',
  title: 'Inward pressure on a partly transparent tube',
  subject,
  result: { symbol: 'pi', ...stress('inward pressure'), display: 'p_i' },
  inputs: {
    p: stress('pressure of the peak field with none inside'),
    k: { title: 'share of it', unit: '1', min: 0, max: 1 },
  },
  expression: '{k}·{p}',
  source: 'Maxwell’s stress on both sides of the wall',
  assumptions: ['the wall stays where it is'],
  compute: ({ p, k }) => p * k,
  inverse: { p: ({ pi = 0, k = 0 }) => pi / k, k: ({ pi = 0, p = 0 }) => pi / p },
});

const throughWall = (id: string, title: string, what: string, of: keyof ShellPulse) =>
  defineFormula({
    id,
    title,
    subject,
    result: { symbol: 'k', title: what, unit: '1', min: 0, max: 1 },
    inputs: {
      x: {
        title: 'angular frequency times the time constant of the wall',
        unit: '1',
        min: 0,
        max: 1e9,
        open: true,
        display: 'ωτ',
      },
      a: { ...dampedShare, display: 'α/ω' },
    },
    expression: 'from τ·dB_i/dt + B_i = B_o with B_o = B·exp(−α·t)·sin(ω·t), over the first peak of B_o: {x}, {a}',
    source: 'first-order equation of a thin shell; Faraday and Ampère',
    assumptions: ['the field outside is that of the pulse whatever the wall does', 'the wall stays where it is'],
    compute: ({ x, a }) => shellPulse(x, a)[of],
  });

export const shellPressure = throughWall(
  'shell-pressure-share',
  'Greatest inward pressure on a thin tube in a damped pulse',
  'over the pressure of the peak field with none inside',
  'inward',
);
export const shellField = throughWall(
  'shell-field-share',
  'First peak of the field inside a thin tube in a damped pulse',
  'over the first peak outside',
  'inside',
);

export const recoilPressure = defineFormula({
  id: 'recoil-pressure',
  title: 'Reaction pressure on a coil',
  subject,
  result: { symbol: 'pr', ...stress('pressure on the coil'), display: 'p_r' },
  inputs: {
    p: stress('pressure on the workpiece'),
    d: length('diameter of that'),
    D: { ...length('inner diameter of the coil'), display: 'D_1' },
  },
  expression: '{p}·{d}/{D}',
  source: 'action and reaction, over the larger face of the coil',
  assumptions: ['both are of like length'],
  compute: ({ p, d, D }) => (p * d) / D,
  inverse: {
    p: ({ pr = 0, d = 0, D = 0 }) => (pr * D) / d,
    d: ({ pr = 0, p = 0, D = 0 }) => (pr * D) / p,
    D: ({ pr = 0, p = 0, d = 0 }) => (p * d) / pr,
  },
});

export const wallYield = defineFormula({
  id: 'wall-yield-pressure',
  title: 'Yield pressure of a thin round wall',
  subject,
  result: { symbol: 'p', ...stress('pressure') },
  inputs: {
    s: { ...stress('yield stress'), display: 'σ' },
    t: length('wall'),
    D: length('diameter'),
  },
  expression: '2·{s}·{t}/{D}',
  source: 'Barlow; a thin shell under pressure',
  assumptions: [
    'it does not buckle first: a long thin can does at less',
    'static yield: over microseconds some metals withstand half as much again',
  ],
  compute: ({ s, t, D }) => (2 * s * t) / D,
  inverse: { s: ({ p = 0, t = 0, D = 0 }) => (p * D) / (2 * t), t: ({ p = 0, s = 0, D = 0 }) => (p * D) / (2 * s) },
});
