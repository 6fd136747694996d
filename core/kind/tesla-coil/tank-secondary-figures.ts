import {
  bleedFormulas,
  coilFormulas,
  ringFormulas,
  ruled,
  secondaryFormulas,
  sourceFormulas,
  tankFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { once, type FigureSpec, type LimitSpec, type RigContext } from '../../block/context.ts';
import {
  primaryInductance,
  primaryOf,
  primaryResistance,
  secondaryCapacitance,
  secondaryInductance,
  secondaryResistance,
  selfCapacitance,
  topCapacitance,
  windingInductance,
  wireOfSecondary,
} from './tank-secondary-own.ts';
import type { FigureId } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'secondary-peak': true;
    'tuning-tap': true;
    'primary-inductance': true;
    'primary-wheeler': true;
    'primary-resonance': true;
    'secondary-inductance': true;
    'secondary-wheeler': true;
    'secondary-self-capacitance': true;
    'top-capacitance': true;
    'secondary-resonance': true;
    'mutual-inductance': true;
    coupling: true;
    'loop-coupling': true;
    'low-mode': true;
    'high-mode': true;
    'transfer-time': true;
    'secondary-peak-time': true;
    'secondary-energy-voltage': true;
    'tank-peak-current': true;
    'secondary-current': true;
    'ring-action': true;
    'tank-slope': true;
    'tank-rms': true;
    'secondary-rms': true;
    'primary-heat': true;
    'secondary-heat': true;
    'spark-length-short': true;
    'spark-length-long': true;
    'primary-turn-voltage': true;
    'secondary-turn-voltage': true;
    'primary-secondary-voltage': true;
    'secondary-wire': true;
  }
}

const own = (rig: RigContext) => rig.own('load');

const figure = (id: FigureId, title: string, compute: FigureSpec['compute'], more: Partial<FigureSpec> = {}): FigureSpec => ({
  id,
  title,
  slot: 'load',
  compute,
  ...more,
});

const mutual = once((rig: RigContext): Worked => {
  const { D, l, N } = wireOfSecondary(own(rig));
  const km = own(rig).optional('km');
  if (km)
    return work(
      secondaryFormulas.mutualOfCoupling,
      { k: km, L1: primaryInductance(own(rig)), L2: windingInductance(own(rig)) },
      'mutual inductance by the coupling that was measured',
    );
  return work(
    secondaryFormulas.spiralMutual,
    { ...primaryOf(own(rig)), h: own(rig).quantity('h'), D2: D, l2: l, N },
    'mutual inductance of primary and secondary',
  );
});

/** Both loops as the formulas of the ring take them. */
const loops = once((rig: RigContext) => ({
  R1: rig.figure('loop-resistance'),
  L1: rig.figure('loop-inductance'),
  C1: rig.figure('bank-capacitance'),
  R2: secondaryResistance(own(rig)),
  L2: secondaryInductance(own(rig)),
  C2: secondaryCapacitance(own(rig)),
  k: rig.figure('loop-coupling'),
  V: rig.offer('chargedTo'),
}));
const lossless = (rig: RigContext) => {
  const { L1, C1, L2, C2, k } = loops(rig);
  return { L1, C1, L2, C2, k };
};

const all = ruled('share of the energy', 1, '1', 'all of it, once: more than any coil reaches');
const best = ruled('share of the best', 1, '1', 'a coil in good tune with a gap that opens quickly');
const poor = ruled('share of the best', 0.4, '1', 'common practice, no source: many coils reach no more');

/** Heat of a resistance that carries an rms current. */
const heat = (I: Worked, R: Worked, title: string): Worked => work(bleedFormulas.resistorPowerFromCurrent, { I, R }, title);

const missing = { mayBeMissing: true } as const;

export const secondaryFigures: readonly FigureSpec[] = [
  figure(
    'secondary-peak',
    'Peak voltage of the secondary',
    (rig) => work(ringFormulas.coupledPeakVoltage, loops(rig), 'peak voltage of the secondary'),
    { leads: true },
  ),
  figure('tuning-tap', 'Tap in tune, turns', (rig) => {
    const { L2, C2, C1 } = loops(rig);
    // What of the loop is not the primary: leads, gap, capacitors.
    const primary = primaryInductance(own(rig));
    const rest = work(secondaryFormulas.restOfLoop, { Lt: rig.figure('loop-inductance'), L: primary }, 'rest of the loop');
    const wanted = work(secondaryFormulas.tunedInductance, { L2, C2, C1, Lr: rest }, 'primary that is in tune');
    const { r0, p, a } = primaryOf(own(rig));
    return work(secondaryFormulas.tuningTap, { r0, p, a, d: own(rig).quantity('d1'), L: wanted });
  }),
  figure('primary-inductance', 'Primary up to its tap', (rig) => primaryInductance(own(rig))),
  figure(
    'primary-wheeler',
    'Primary by the approximate formula',
    (rig) => {
      const { r0, p, a, n } = primaryOf(own(rig));
      const r = work(secondaryFormulas.meanRadius, { r0, p, a, n }, 'mean radius of the primary');
      const c = work(secondaryFormulas.spiralDepth, { p, n }, 'depth of the primary');
      const D = work(secondaryFormulas.twiceRadius, { r }, 'mean diameter of the primary');
      if (a.value === 0) return work(secondaryFormulas.wheelerFlat, { r, c, n });
      const helix = work(coilFormulas.wheelerSingle, { N: n, D, l: c });
      if (a.value === 1) return helix;
      return work(secondaryFormulas.conicalInductance, { Lh: helix, Lf: work(secondaryFormulas.wheelerFlat, { r, c, n }), a });
    },
    missing,
  ),
  figure('primary-resonance', 'Resonance of the primary tank alone', (rig) =>
    work(
      coilFormulas.selfResonance,
      { L: rig.figure('loop-inductance'), C: rig.figure('bank-capacitance') },
      'resonance of the tank',
    ),
  ),
  figure('secondary-inductance', 'Secondary', (rig) => windingInductance(own(rig))),
  figure(
    'secondary-wheeler',
    'Secondary by the approximate formula',
    (rig) => {
      const { N, D, l } = wireOfSecondary(own(rig));
      return work(coilFormulas.wheelerSingle, { N, D, l });
    },
    missing,
  ),
  figure('secondary-self-capacitance', 'Self-capacitance of the secondary', (rig) => selfCapacitance(own(rig))),
  figure('top-capacitance', 'Capacitance of the top load', (rig) => topCapacitance(own(rig))),
  figure('secondary-resonance', 'Resonance of the secondary', (rig) =>
    work(
      coilFormulas.selfResonance,
      { L: secondaryInductance(own(rig)), C: secondaryCapacitance(own(rig)) },
      'resonance of the secondary',
    ),
  ),
  figure('mutual-inductance', 'Mutual inductance', mutual),
  figure('coupling', 'Coupling of the coils', (rig) =>
    work(secondaryFormulas.couplingFactor, {
      M: rig.figure('mutual-inductance'),
      L1: primaryInductance(own(rig)),
      L2: windingInductance(own(rig)),
    }),
  ),
  figure('loop-coupling', 'Coupling of the circuits, leads and all', (rig) =>
    work(
      secondaryFormulas.couplingFactor,
      { M: rig.figure('mutual-inductance'), L1: rig.figure('loop-inductance'), L2: secondaryInductance(own(rig)) },
      'coupling of the circuits',
    ),
  ),
  figure('low-mode', 'Lower coupled frequency', (rig) => work(ringFormulas.coupledLowMode, lossless(rig))),
  figure('high-mode', 'Upper coupled frequency', (rig) => work(ringFormulas.coupledHighMode, lossless(rig))),
  figure('transfer-time', 'Energy transfer time', (rig) =>
    work(ringFormulas.transferTime, { fl: rig.figure('low-mode'), fh: rig.figure('high-mode') }),
  ),
  figure('secondary-peak-time', 'Time to the secondary’s peak', (rig) => work(ringFormulas.coupledPeakTime, loops(rig))),
  figure('secondary-energy-voltage', 'Ideal secondary voltage, all energy transferred', (rig) =>
    work(ringFormulas.energyVoltage, {
      V: rig.offer('chargedTo'),
      C1: rig.figure('bank-capacitance'),
      C2: secondaryCapacitance(own(rig)),
      q: all,
    }),
  ),
  figure('tank-peak-current', 'Peak tank current, with the secondary', (rig) =>
    work(ringFormulas.coupledPrimaryCurrent, loops(rig)),
  ),
  figure('secondary-current', 'Peak secondary base current', (rig) => work(ringFormulas.coupledSecondaryCurrent, loops(rig))),
  figure('ring-action', 'Action integral of the tank, per break', (rig) =>
    work(ringFormulas.coupledPrimaryAction, loops(rig), 'action of a ring'),
  ),
  figure('tank-slope', 'dV/dt at the tank capacitor', (rig) =>
    work(tankFormulas.capacitorSlope, { I: rig.figure('tank-peak-current'), C: rig.figure('bank-capacitance') }),
  ),
  figure(
    'tank-rms',
    'Tank current, RMS',
    (rig) => work(tankFormulas.breakRms, { S: rig.figure('ring-action'), n: rig.figure('break-rate') }),
    missing,
  ),
  figure(
    'secondary-rms',
    'Secondary current, RMS',
    (rig) =>
      work(tankFormulas.breakRms, { S: work(ringFormulas.coupledSecondaryAction, loops(rig)), n: rig.figure('break-rate') }),
    missing,
  ),
  figure(
    'primary-heat',
    'Heat in the primary',
    (rig) => heat(rig.figure('tank-rms'), primaryResistance(own(rig)), 'heat in the primary'),
    { ...missing, asks: 'wears' },
  ),
  figure(
    'secondary-heat',
    'Heat in the secondary and its earth',
    (rig) => heat(rig.figure('secondary-rms'), secondaryResistance(own(rig)), 'heat in the secondary'),
    { ...missing, asks: 'wears' },
  ),
  figure(
    'spark-length-short',
    'Spark length, at least about',
    (rig) => work(tankFormulas.sparkOfPower, { P: rig.figure('tank-power'), q: poor }, 'sparks, at least about'),
    missing,
  ),
  figure(
    'spark-length-long',
    'Spark length, at most about',
    (rig) => work(tankFormulas.sparkOfPower, { P: rig.figure('tank-power'), q: best }, 'sparks, at most about'),
    { ...missing, leads: true },
  ),
  figure('primary-turn-voltage', 'Primary: turn-to-turn voltage', (rig) =>
    work(coilFormulas.turnVoltage, { V: rig.offer('chargedTo'), N: own(rig).quantity('n') }, 'turn-to-turn voltage'),
  ),
  figure('secondary-turn-voltage', 'Secondary: turn-to-turn voltage', (rig) =>
    work(coilFormulas.turnVoltage, { V: rig.figure('secondary-peak'), N: own(rig).quantity('N2') }, 'turn-to-turn voltage'),
  ),
  figure('primary-secondary-voltage', 'Between primary and secondary', (rig) => {
    const { p, a, n } = primaryOf(own(rig));
    return work(secondaryFormulas.betweenCoils, {
      V1: rig.offer('chargedTo'),
      V2: rig.figure('secondary-peak'),
      p,
      a,
      n,
      h: own(rig).quantity('h'),
      l: own(rig).quantity('l2'),
    });
  }),
  figure('secondary-wire', 'Wire of the secondary', (rig) => {
    const { D, l, N } = wireOfSecondary(own(rig));
    return work(secondaryFormulas.layerWire, { D, l, N });
  }),
];

const airBears = ruled(
  'field that air is trusted with',
  1e6,
  'V/m',
  'common practice, no source: a third of its strength, for edges and damp',
);

/** Turn to turn there is enamel or air. */
export const secondaryLimits: readonly LimitSpec[] = [
  {
    id: 'primary-secondary-field',
    title: 'Between primary and secondary, field',
    slot: 'load',
    stress: (rig) =>
      work(
        sourceFormulas.surfaceStress,
        {
          V: rig.figure('primary-secondary-voltage'),
          l: work(
            secondaryFormulas.clearance,
            { r0: own(rig).quantity('r0'), d1: own(rig).quantity('d1'), D2: own(rig).quantity('D2') },
            'clearance of primary and secondary',
          ),
        },
        'mean field between primary and secondary',
      ),
    rating: () => airBears,
    levers: ['load.r0', 'load.h', 'store.V0'],
    note: 'With the secondary’s voltage at the height of the primary’s top turn. A spark here carries the whole supply.',
  },
  {
    id: 'primary-turn-field',
    title: 'Primary: field between turns',
    slot: 'load',
    stress: (rig) =>
      work(
        sourceFormulas.surfaceStress,
        {
          V: rig.figure('primary-turn-voltage'),
          l: work(
            secondaryFormulas.betweenTurns,
            { p: own(rig).quantity('p'), d: own(rig).quantity('d1') },
            'clearance between turns',
          ),
        },
        'mean field between turns',
      ),
    rating: () => airBears,
    levers: ['load.p', 'store.V0'],
  },
];
