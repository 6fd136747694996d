import { bleedFigures } from './bleed.ts';
import { chargeLaw } from './charge-law.ts';
import { freewheelOf, slots, Unavailable, type PulseLaw, type FigureSpec, type RigContext, type Slot } from '../block/index.ts';
import {
  chargeFormulas,
  chokeFormulas,
  dischargeFormulas,
  inductanceFormulas,
  marxFormulas,
  pulseLineFormulas,
  ruled,
  sourceFormulas,
  storeFormulas,
  supplyFormulas,
  transferFormulas,
  work,
  type Worked,
} from '../formula/index.ts';

declare module '../block/names.ts' {
  interface FigureIds {
    'stored-energy': true;
    'stored-charge': true;
    'discharge-voltage': true;
    'discharge-capacitance': true;
    'loop-capacitance': true;
    'loop-reversal': true;
    'bank-capacitance': true;
    'charge-time': true;
    'charge-time-fraction': true;
    'charging-voltage': true;
    'charging-resistance': true;
    'charge-towards': true;
    'charging-current': true;
    'charging-energy-lost': true;
    'source-energy': true;
    'charging-efficiency': true;
    'mean-charging-current': true;
    'source-mean-power': true;
    'repetition-rate': true;
    'peak-current': true;
    'time-to-peak': true;
    'damping-ratio': true;
    'voltage-reversal': true;
    'reversal-time': true;
    'action-integral': true;
    'peak-di-dt': true;
    'loop-resistance': true;
    'loop-inductance': true;
    'reversed-voltage': true;
  }
}

/** Blocks that stand in the discharge loop once in each of the channels that it takes in series. */
const inEachChannel: ReadonlySet<Slot> = new Set(['store', 'switch']);

/** All blocks' contributions of one name, in the order of the line; in the loop those of every channel in it. */
const contributions = (rig: RigContext, name: 'chargingResistance' | 'loopResistance' | 'loopInductance'): Worked[] =>
  slots.flatMap((slot) => {
    const offered = rig.offers(slot);
    const worked = (name === 'loopResistance' ? offered.pulseResistance?.(rig) : undefined) ?? offered[name];
    if (!worked) return [];
    return name !== 'chargingResistance' && inEachChannel.has(slot) ? rig.inSeries().map(() => worked) : [worked];
  });

const sumOf = (parts: Worked[], add: (a: Worked, b: Worked) => Worked, what: string, slot: Slot): Worked => {
  const [first, ...rest] = parts;
  if (!first) throw new Unavailable(slot, `${what}: no block gives any`);
  return rest.reduce(add, first);
};

function loopResistance(rig: RigContext): Worked {
  return sumOf(
    contributions(rig, 'loopResistance'),
    (R1, R2) => work(chargeFormulas.seriesSum, { R1, R2 }, 'loop resistance'),
    'loop resistance',
    'load',
  );
}

function loopInductance(rig: RigContext): Worked {
  const total = sumOf(
    contributions(rig, 'loopInductance'),
    (L1, L2) => work(inductanceFormulas.inductanceSum, { L1, L2 }, 'loop inductance'),
    'loop inductance',
    'load',
  );
  if (total.value > 0) return total;
  throw new Unavailable(
    'load',
    'the discharge loop has no inductance at all, which no real loop has: enter a lead length, an inductance or the ESL of the capacitors',
    'L',
  );
}

function dissipatingResistance(rig: RigContext): Worked {
  const R = rig.figure('loop-resistance');
  if (R.value > 0) return R;
  throw new Unavailable(
    'load',
    'the discharge loop has no resistance at all, so the energy goes nowhere: enter the ESR, the contact or the load resistance',
    'R',
  );
}

const one = ruled('the whole drop once', 1, '1', 'the drop is already that of the string');

/** What the channels of a discharge come to together; that of one alone is what it is. */
const together = (rig: RigContext, of: (channel: RigContext) => Worked, add: (a: Worked, b: Worked) => Worked): Worked =>
  rig.inSeries().map(of).reduce(add);

const inRow = (title: string) => (V1: Worked, V2: Worked) => work(chargeFormulas.voltageSum, { V1, V2 }, title);

/** Voltage that drives the discharge: that of the store, or of all its stages in series; of every channel in the loop. */
const erectedVoltage = (rig: RigContext): Worked =>
  together(
    rig,
    (channel) => {
      const V = channel.offer('chargedTo');
      const { ladder, pulse } = channel.offers('store');
      const n = ladder?.n ?? pulse?.inRow;
      return n ? work(marxFormulas.marxIdealVoltage, { n, V }) : V;
    },
    inRow('voltage from top to top'),
  );

/** Capacitance that is discharged: that of the store, or of all its stages in series; of every channel in the loop. */
const erectedCapacitance = (rig: RigContext): Worked =>
  together(
    rig,
    (channel) => {
      const Cp = channel.figure('bank-capacitance');
      const { ladder, pulse } = channel.offers('store');
      if (ladder) return work(marxFormulas.erectedCapacitance, { Cp, n: ladder.n });
      // All of them stand side by side for the charge, and one behind the other for the load.
      return pulse?.inRow ? work(pulseLineFormulas.inRowCapacitance, { Cn: Cp, n: pulse.inRow }) : Cp;
    },
    (C1, C2) => work(transferFormulas.loopOfTwoCapacitors, { C1, C2 }, 'both towers in series'),
  );

/** Capacitance in the loop of the discharge: what is discharged, and in series what is charged. */
function loopCapacitance(rig: RigContext): Worked {
  const C1 = erectedCapacitance(rig);
  const C2 = rig.offers('load').loadCapacitance;
  return C2 ? work(transferFormulas.loopOfTwoCapacitors, { C1, C2 }, 'capacitance of the loop') : C1;
}

/** Capacitance that is charged: of every channel that the discharge takes in series. */
const chargedCapacitance = (rig: RigContext): Worked =>
  together(
    rig,
    (channel) => channel.figure('bank-capacitance'),
    (C1, C2) => work(transferFormulas.parallelOfTwoCapacitances, { C1, C2 }, 'stages of both towers in parallel'),
  );

/** All that is stored, in all channels. */
function allEnergy(rig: RigContext): Worked {
  const V0 = rig.offer('chargedTo');
  const own = work(storeFormulas.storedEnergy, { C: chargedCapacitance(rig), V: V0 });
  return rig.channels().reduce((E1, other) => {
    if (other === rig) return E1;
    const given = { C: other.figure('bank-capacitance'), V: other.offer('chargedTo') };
    const E2 = work(storeFormulas.storedEnergy, given, 'energy of a further store');
    return work(sourceFormulas.energySum, { E1, E2 }, 'stored energy');
  }, own);
}

/** What one supply charges: the store of one channel. */
const ofOneChannel = (rig: RigContext) => ({ C: rig.figure('bank-capacitance'), V: rig.offer('chargedTo') });

/** What one supply brings into the store in a charge: with several channels that of one. */
const chargedEnergy = (rig: RigContext): Worked =>
  work(storeFormulas.storedEnergy, ofOneChannel(rig), 'energy brought in by one charge');
const chargedCharge = (rig: RigContext): Worked =>
  work(storeFormulas.storedCharge, ofOneChannel(rig), 'charge brought in by one charge');

/** Threshold of the switch, in every channel of the loop. */
export function thresholdOf(rig: RigContext): Worked | null {
  const VT = rig.offers('switch').threshold;
  return VT ? together(rig, () => VT, inRow('threshold of both switches')) : null;
}

function driveVoltage(rig: RigContext): Worked {
  const threshold = thresholdOf(rig);
  const V = erectedVoltage(rig);
  return threshold ? work(dischargeFormulas.driveVoltage, { V, VT: threshold }) : V;
}

const loop = (rig: RigContext) => ({
  R: rig.figure('loop-resistance'),
  L: rig.figure('loop-inductance'),
  C: loopCapacitance(rig),
});

/** Inductance that a network or line begins its pulse through: its first coil, and the rest of the loop. */
function firstInductance(rig: RigContext, { first }: PulseLaw): Worked {
  const rest = slots.flatMap((slot) => (slot === 'store' ? [] : (rig.offers(slot).loopInductance ?? [])));
  return sumOf(
    first ? [first.L, ...rest] : rest,
    (L1, L2) => work(inductanceFormulas.inductanceSum, { L1, L2 }, 'first coil with the rest of the loop'),
    'inductance beside the line',
    'load',
  );
}

/** Time to the first top of a pulse: of a network by its first section, of a line by what the rest of the loop does to its edge. */
const pulseTop = (rig: RigContext, pulse: PulseLaw): Worked =>
  pulse.first
    ? work(pulseLineFormulas.pulseRise, { L1: firstInductance(rig, pulse), C: pulse.first.C })
    : work(pulseLineFormulas.edgeRise, { L: firstInductance(rig, pulse), Z: pulse.Z, R: rig.figure('loop-resistance') });

const idealReversal = (rig: RigContext): Worked => {
  const { pulse } = rig.offers('store');
  return pulse
    ? work(pulseLineFormulas.pulseReversal, { Z: pulse.Z, R: rig.figure('loop-resistance') }, 'voltage reversal of the network')
    : work(dischargeFormulas.rlcVoltageReversal, loop(rig), 'voltage reversal of the loop');
};

/** Whether the loop rings so much that a freewheel diode has something to do. */
const rings = (rig: RigContext): boolean => work(dischargeFormulas.rlcDampingRatio, loop(rig)).value < 0.95;

/** Current that a freewheel diode takes over. */
const takenOver = (rig: RigContext): Worked => work(dischargeFormulas.freewheelCurrent, { ...loop(rig), V: driveVoltage(rig) });

/** Resistance of the loop once the current flows through a freewheel diode, and past the store. */
export function wheelResistance(rig: RigContext, path: Worked): Worked {
  const rest = slots.flatMap((slot) => {
    const offered = rig.offers(slot);
    // A crowbar lies across the load: the switch is out of its loop as well.
    const isPast = slot === 'store' || (slot === 'switch' && rig.offers('crowbar').freewheel !== undefined);
    return isPast ? [] : (offered.pulseResistance?.(rig) ?? offered.loopResistance ?? []);
  });
  return rest.reduce((R1, R2) => work(chargeFormulas.seriesSum, { R1, R2 }, 'loop through the diode'), path);
}

function reversal(rig: RigContext): Worked {
  if (rig.offers('store').pulse) return idealReversal(rig);
  const wheel = freewheelOf(rig);
  if (wheel && rings(rig))
    return work(dischargeFormulas.clampedReversal, { Vf: wheel.Vf, I: takenOver(rig), R: wheel.R, V: erectedVoltage(rig) });
  const threshold = thresholdOf(rig);
  const C2 = rig.offers('load').loadCapacitance;
  if (C2) return work(transferFormulas.transferReversal, { C1: erectedCapacitance(rig), C2, k: idealReversal(rig) });
  if (!threshold) return work(dischargeFormulas.rlcVoltageReversal, loop(rig), 'voltage reversal');
  return work(
    dischargeFormulas.storeReversal,
    { k: idealReversal(rig), V: erectedVoltage(rig), VT: threshold },
    'voltage reversal',
  );
}

/** How long the store stands reversed at a time. @throws Unavailable where it does not, or stays so */
function reversedFor(rig: RigContext): Worked {
  if (!(rig.figure('voltage-reversal').value > 0)) throw new Unavailable('store', 'the store is not reversed');
  const wheel = freewheelOf(rig);
  const { L, C } = { L: rig.figure('loop-inductance'), C: rig.figure('loop-capacitance') };
  if (wheel && rings(rig))
    return work(dischargeFormulas.freewheelDecay, { L, R: wheelResistance(rig, wheel.R) }, 'while the diode carries the current');
  if (rig.offers('switch').conduction === 'one-way')
    throw new Unavailable('switch', 'the switch opens there: the store stays reversed until it is bled');
  return work(chokeFormulas.resonantChargeTime, { L, C }, 'half a period of the ring');
}

function action(rig: RigContext): Worked {
  const R = dissipatingResistance(rig);
  const C = loopCapacitance(rig);
  const wheel = freewheelOf(rig);
  if (wheel && rings(rig)) {
    const rest = { L: rig.figure('loop-inductance'), I: takenOver(rig), R, Rw: wheelResistance(rig, wheel.R) };
    return work(dischargeFormulas.actionOfFreewheel, { C, V: driveVoltage(rig), ...rest });
  }
  if (rig.offers('switch').conduction === 'both-ways')
    return work(dischargeFormulas.actionIntegral, { C, V: erectedVoltage(rig), R });
  return work(dischargeFormulas.actionOfHalfCycle, { C, V: driveVoltage(rig), k: idealReversal(rig), R });
}

/** Figures that belong to the rig as a whole, in the order a person asks for them. */
export const wholeFigures: readonly FigureSpec[] = [
  {
    id: 'stored-energy',
    title: 'Stored energy',
    slot: 'store',
    compute: allEnergy,
  },
  {
    id: 'stored-charge',
    title: 'Stored charge',
    slot: 'store',
    compute: (rig) => work(storeFormulas.storedCharge, { C: chargedCapacitance(rig), V: rig.offer('chargedTo') }),
  },
  { id: 'discharge-voltage', title: 'Voltage of the discharge', slot: 'store', compute: erectedVoltage },
  { id: 'discharge-capacitance', title: 'Capacitance of the discharge', slot: 'store', compute: erectedCapacitance },
  { id: 'loop-capacitance', title: 'Capacitance of the discharge loop', slot: 'load', compute: loopCapacitance },
  { id: 'loop-reversal', title: 'Reversal of the discharge loop', slot: 'load', compute: idealReversal },
  { id: 'bank-capacitance', title: 'Bank capacitance', slot: 'store', compute: (rig) => rig.offer('capacitance') },
  {
    id: 'charge-time',
    title: 'Charge time',
    slot: 'charging',
    compute: (rig) => chargeLaw(rig).time(rig, rig.offer('chargedTo'), 'charge time'),
  },
  {
    id: 'charge-time-fraction',
    title: 'Charge time to the marked fraction',
    slot: 'charging',
    compute: (rig) =>
      chargeLaw(rig).time(
        rig,
        work(chargeFormulas.fractionOfVoltage, { V: rig.offer('chargedTo'), x: rig.own('charging').quantity('fraction') }),
        'time to the marked fraction',
      ),
  },
  {
    id: 'charging-voltage',
    title: 'Supply voltage after the charging diodes',
    slot: 'charging',
    compute: (rig) => {
      const Vs = rig.offer('sourceVoltage');
      const drop = rig.offers('charging').chargingDrop;
      return drop ? work(supplyFormulas.voltageLessDrops, { V: Vs, n: one, Vf: drop }, 'supply voltage after the diodes') : Vs;
    },
  },
  {
    id: 'charging-resistance',
    title: 'Charging resistance',
    slot: 'charging',
    compute: (rig) =>
      sumOf(
        contributions(rig, 'chargingResistance'),
        (R1, R2) => work(chargeFormulas.seriesSum, { R1, R2 }, 'charging resistance'),
        'charging resistance',
        'charging',
      ),
  },
  {
    id: 'charge-towards',
    title: 'Voltage the store is charged towards',
    slot: 'charging',
    compute: (rig) => chargeLaw(rig).reach(rig),
  },
  {
    id: 'charging-current',
    title: 'Peak charging current',
    slot: 'supply',
    compute: (rig) => chargeLaw(rig).peak(rig),
  },
  {
    id: 'charging-energy-lost',
    title: 'Energy lost while charging',
    slot: 'charging',
    compute: (rig) => chargeLaw(rig).loss(rig, rig.offer('chargedTo')),
  },
  {
    id: 'source-energy',
    title: 'Energy out of the supply, one charge',
    slot: 'supply',
    compute: (rig) =>
      work(
        sourceFormulas.energySum,
        { E1: chargedEnergy(rig), E2: rig.figure('charging-energy-lost') },
        'energy out of the supply',
      ),
  },
  {
    id: 'charging-efficiency',
    title: 'Charging efficiency',
    slot: 'charging',
    compute: (rig) => work(sourceFormulas.chargingEfficiency, { E: chargedEnergy(rig), El: rig.figure('charging-energy-lost') }),
  },
  {
    id: 'mean-charging-current',
    title: 'Mean charging current',
    slot: 'supply',
    compute: (rig) => work(sourceFormulas.meanChargingCurrent, { Q: chargedCharge(rig), t: rig.figure('charge-time') }),
  },
  {
    id: 'source-mean-power',
    title: 'Mean power out of the supply',
    slot: 'supply',
    compute: (rig) =>
      work(
        sourceFormulas.meanPower,
        { E: rig.figure('source-energy'), t: rig.figure('charge-time') },
        'mean power out of the supply',
      ),
  },
  {
    id: 'repetition-rate',
    title: 'Repetition rate, supply-limited',
    slot: 'supply',
    compute: (rig) =>
      work(sourceFormulas.repetitionRate, {
        I: rig.figure('mean-charging-current'),
        C: rig.figure('bank-capacitance'),
        V: rig.offer('chargedTo'),
      }),
  },
  {
    id: 'peak-current',
    title: 'Peak current',
    slot: 'switch',
    ofShot: true,
    compute: (rig) => {
      const { pulse } = rig.offers('store');
      return pulse
        ? work(pulseLineFormulas.pulseCurrent, { V: driveVoltage(rig), Z: pulse.Z, R: rig.figure('loop-resistance') })
        : work(dischargeFormulas.rlcPeakCurrent, { ...loop(rig), V: driveVoltage(rig) });
    },
  },
  {
    id: 'time-to-peak',
    title: 'Time to peak',
    slot: 'switch',
    ofShot: true,
    compute: (rig) => {
      const { pulse } = rig.offers('store');
      return pulse ? pulseTop(rig, pulse) : work(dischargeFormulas.rlcTimeToPeak, loop(rig));
    },
  },
  {
    id: 'damping-ratio',
    title: 'Damping ratio',
    slot: 'load',
    mayBeMissing: true,
    compute: (rig) => {
      if (rig.offers('store').pulse) throw new Unavailable('store', 'a pulse-forming network rings in steps, not as one loop');
      return work(dischargeFormulas.rlcDampingRatio, loop(rig));
    },
  },
  { id: 'voltage-reversal', title: 'Voltage reversal', slot: 'store', compute: reversal },
  { id: 'reversal-time', title: 'Reversed at a time for', slot: 'store', mayBeMissing: true, compute: reversedFor },
  { id: 'action-integral', asks: 'wears', title: 'Action integral', slot: 'switch', compute: action },
  {
    id: 'peak-di-dt',
    title: 'Steepest di/dt',
    slot: 'switch',
    compute: (rig) => {
      const { pulse } = rig.offers('store');
      const L = pulse ? firstInductance(rig, pulse) : rig.figure('loop-inductance');
      return work(dischargeFormulas.initialRateOfRise, { V: driveVoltage(rig), L });
    },
  },
  { id: 'loop-resistance', title: 'Loop resistance', slot: 'load', compute: loopResistance },
  { id: 'loop-inductance', title: 'Loop inductance', slot: 'load', compute: loopInductance },
  ...bleedFigures,
  {
    id: 'reversed-voltage',
    title: 'Reversed voltage left after the shot',
    slot: 'store',
    compute: (rig) => {
      const wheel = freewheelOf(rig);
      if (wheel)
        return ruled(
          'reversed voltage left after the shot',
          wheel.Vf.value,
          'V',
          'no more than the drop of what takes the current over',
        );
      if (rig.offers('switch').conduction !== 'one-way')
        return ruled(
          'reversed voltage left after the shot',
          0,
          'V',
          'the switch conducts both ways: the ring dies out in the loop',
        );
      return work(dischargeFormulas.reversedVoltage, { k: rig.figure('voltage-reversal'), V: rig.offer('chargedTo') });
    },
  },
];
