import { wireMetals } from '../../material/index.ts';
import { mu0 } from '../../model/index.ts';
import { defineFormula, type SymbolSpec } from '../define.ts';
import { crossFieldLoss, layersRatio, medhurstCrowding, roundWireRatio } from '../../model/index.ts';
import { count, length } from '../symbol.ts';

const subject = 'Coil';
const wire = { ...length('diameter of the conductor'), max: 1 };
export const resistivity: SymbolSpec = {
  title: 'resistivity at 20 °C',
  unit: 'Ω·m',
  min: 1e-9,
  max: 1e-3,
  default: wireMetals[0]?.resistivity ?? 1.7241e-8,
  display: 'ρ',
};
const frequency: SymbolSpec = { title: 'frequency', unit: 'Hz', min: 0, max: 1e12, open: true };

/** What Medhurst's factors are worth: measured in a thin skin, carried over to lower frequency. */
const tabledRatio = (x: number) =>
  x >= 6 ? { band: 0.05, drawnOut: null } : { band: 0.1, drawnOut: 'the wire is below six skin depths: measured in a thin skin' };

export const skinDepth = defineFormula({
  id: 'skin-depth',
  title: 'Skin depth',
  subject,
  result: { symbol: 'delta', ...length('skin depth'), display: 'δ' },
  inputs: { f: frequency, rho: resistivity },
  expression: '√({rho}/(π·µ0·{f}))',
  source: 'diffusion of a field into a conductor',
  assumptions: ['not magnetic', 'a sine that goes on; a single pulse goes in about as deep'],
  compute: ({ f, rho }) => Math.sqrt(rho / (Math.PI * mu0 * f)),
  inverse: {
    f: ({ delta = 0, rho = 0 }) => rho / (Math.PI * mu0 * delta * delta),
    rho: ({ delta = 0, f = 0 }) => delta * delta * Math.PI * mu0 * f,
  },
});

export const skinRatio = defineFormula({
  id: 'skin-resistance-ratio',
  title: 'AC/DC resistance ratio of a round wire',
  subject,
  result: { symbol: 'k', title: 'factor on the resistance', unit: '1', min: 1, max: 1e6 },
  inputs: { d: wire, delta: { ...length('skin depth'), display: 'δ' } },
  expression: 'Re(κ·J0(κ)/2J1(κ)) with κ = (1 − j)·{d}/2{delta}',
  source: 'Kelvin; Bessel functions, exactly',
  assumptions: ['a wire far from others; wires side by side have more (single-layer-resistance-ratio, layer-resistance-ratio)'],
  relation: ({ d, delta }) => (d / delta <= 4e6 ? null : { symbol: 'delta', reason: 'is below a millionth of the wire' }),
  compute: ({ d, delta }) => roundWireRatio(d / delta),
});

export const singleLayerRatio = defineFormula({
  id: 'single-layer-resistance-ratio',
  title: 'AC/DC resistance ratio of a single layer',
  subject,
  result: { symbol: 'k', title: 'factor on the resistance', unit: '1', min: 1, max: 1e7 },
  inputs: {
    d: wire,
    delta: { ...length('skin depth'), display: 'δ' },
    p: { ...length('pitch of the turns') },
    l: length('winding length'),
    D: length('mean diameter'),
  },
  expression:
    'F + (φ − 1)·G,  F = Re(κ·J0(κ)/2J1(κ)), G = ½(½{d}/{delta})²·|Im(J2(κ)/J0(κ))|, κ = (1 − j)·½{d}/{delta}, φ from {d}/{p} and {l}/{D}',
  source:
    'Medhurst, H.F. resistance and self-capacitance of single-layer solenoids, Wireless Engineer 24 (1947), table of φ, measured, from memory; F and G: a round wire alone, and in a field across it, by Bessel functions',
  assumptions: [
    'an open single layer of round wire, 30 turns or more; fewer turns have less',
    'measured to about 3 % in a thin skin, at {d}/{p} of 0.1 to 1; at lower frequency the field of the neighbours is taken to grow as across a single wire',
    'a sine that goes on',
  ],
  certainty: ({ d, delta }) => tabledRatio(d / delta),
  relation: ({ d, p, delta }) =>
    p >= d * (1 - 1e-9)
      ? d / delta <= 4e6
        ? null
        : { symbol: 'delta', reason: 'is below a millionth of the wire' }
      : { symbol: 'p', reason: 'the pitch must not be below the wire' },
  compute: ({ d, delta, p, l, D }) =>
    roundWireRatio(d / delta) + (medhurstCrowding(Math.min(1, d / p), l / D) - 1) * crossFieldLoss(d / delta),
});

export const layerRatio = defineFormula({
  id: 'layer-resistance-ratio',
  title: 'AC/DC resistance ratio of a layered winding',
  subject,
  result: { symbol: 'k', title: 'factor on the resistance', unit: '1', min: 0.999, max: 1e9 },
  inputs: {
    d: wire,
    delta: { ...length('skin depth'), display: 'δ' },
    m: count('layers'),
    p: { ...length('pitch of the turns') },
  },
  expression: 'Dowell’s x·(skin + ⅔({m}² − 1)·near) with x = ½√π·{d}/{delta}·√(½√π·{d}/{p})',
  source: 'Dowell, Effects of eddy currents in transformer windings, Proceedings of the IEE 113 (1966); from memory',
  assumptions: [
    'layers that fill their window, as foils in a field along them: an estimate for an air coil, whose ends have less',
    'an open single layer has less: single-layer-resistance-ratio',
    'a sine that goes on',
  ],
  relation: ({ d, p }) => (p >= d * (1 - 1e-9) ? null : { symbol: 'p', reason: 'the pitch must not be below the wire' }),
  compute: ({ d, delta, m, p }) => {
    const side = (Math.sqrt(Math.PI) / 2) * d;
    return layersRatio((side / delta) * Math.sqrt(Math.min(1, side / p)), m);
  },
});
