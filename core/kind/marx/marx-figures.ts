import {
  bleedFormulas,
  chargeFormulas,
  coronaFormulas,
  gapFormulas,
  marxFormulas,
  ruled,
  sourceFormulas,
  storeFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { likelySpark, sparkClearance } from '../../block/spark.ts';
import { airOf, inStandardAir } from '../../block/standard-air.ts';
import { Unavailable, type FigureSpec, type LimitSpec, type RigContext } from '../../block/context.ts';
import { chargeLeak } from '../../block/charge-leak.ts';
import { goalBeside, setVoltage } from '../../block/goal.ts';
import { ifKnown } from '../../block/known.ts';
import { lifeFigure } from '../bank/life.ts';
import {
  breaksBehind,
  gapStray,
  hardlyBelowBehind,
  ladderOf,
  outputOf,
  stageCapacitance,
  stageStray,
  topCapacitance,
} from './marx-own.ts';
import type { FieldId } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'ladder-90': true;
    'ladder-95': true;
    'ladder-99': true;
    'marx-ideal-voltage': true;
    'marx-output-voltage': true;
    'marx-top-to-top': true;
    'marx-efficiency': true;
    'stage-energy': true;
    'stage-self-break': true;
    'stage-stray': true;
    'gap-stray': true;
    'erected-hold': true;
    'marx-front-time': true;
    'marx-tail-time': true;
    'marx-impulse-efficiency': true;
    'spark-length': true;
    'spark-clearance': true;
    'terminal-corona': true;
    'stage-float-time': true;
  }
}

const idealVoltage = (rig: RigContext): Worked =>
  work(marxFormulas.marxIdealVoltage, { n: rig.own('store').quantity('n'), V: rig.offer('chargedTo') });

/** Time until the last stage has a share of what it comes to, by the law of the supply that charges it. */
const ladderTimeTo = (rig: RigContext, share: number): Worked => {
  const V = work(
    gapFormulas.timesShare,
    { V: rig.figure('charge-towards'), k: ruled('share', share, '1', 'asked for') },
    `${share * 100} % of the final voltage`,
  );
  return rig.chargeTime(V, `last stage at ${share * 100} %`);
};

const terminalRadius = (rig: RigContext): Worked => {
  const r = rig.own('store').optional('rt');
  if (!r) throw new Unavailable('store', 'the radius of the terminal is not given', 'rt');
  return r;
};

const impulseInputs = (rig: RigContext) => {
  const own = rig.own('store');
  const [Rf, Rt, CL] = [own.optional('Rf'), own.optional('Rt'), topCapacitance(rig)];
  if (!Rf || !Rt || !CL)
    throw new Unavailable(
      'store',
      'front and tail resistors and the capacitance of the load are not all given',
      Rf ? (Rt ? 'CL' : 'Rt') : 'Rf',
    );
  const n = own.quantity('n');
  return {
    C1: work(marxFormulas.erectedCapacitance, { Cp: rig.figure('bank-capacitance'), n }),
    C2: CL,
    Rf: work(storeFormulas.seriesResistance, { R: Rf, n }, 'front resistors in series'),
    Rt: work(storeFormulas.seriesResistance, { R: Rt, n }, 'tail resistors in series'),
  };
};

const needed = (worked: Worked | null, reason: string, field: FieldId<'store'>): Worked => {
  if (!worked) throw new Unavailable('store', reason, field);
  return worked;
};

/** What throws a spark: from top to top where there are two towers. */
const topVoltage = (rig: RigContext): Worked => rig.figure(outputOf(rig.own('store')));

export const marxFigures: readonly FigureSpec[] = [
  lifeFigure((rig) => rig.offer('chargedTo')),
  { id: 'marx-ideal-voltage', title: 'Output of a tower, ideal', slot: 'store', compute: idealVoltage },
  {
    id: 'marx-output-voltage',
    title: 'Output of a tower to earth, with strays and load',
    slot: 'store',
    ofShot: true,
    leads: true,
    compute: (rig) => {
      const own = rig.own('store');
      return work(marxFormulas.marxOutputVoltage, {
        n: own.quantity('n'),
        V: rig.offer('chargedTo'),
        C: stageCapacitance(own),
        CL: topCapacitance(rig) ?? ruled('capacitance of load and terminal', 0, 'F', 'not given'),
        Cs: stageStray(own) ?? ruled('stray capacitance of a stage', 0, 'F', 'not given'),
      });
    },
  },
  {
    id: 'marx-top-to-top',
    title: 'Output from top to top',
    slot: 'store',
    ofShot: true,
    leads: true,
    mayBeMissing: true,
    compute: (rig) => {
      const towers = rig.inSeries();
      if (towers.length < 2) throw new Unavailable('store', 'there is one tower: its output is to earth', 'towers');
      return towers
        .map((tower) => tower.figure('marx-output-voltage'))
        .reduce((V1, V2) => work(chargeFormulas.voltageSum, { V1, V2 }, 'from top to top'));
    },
  },
  {
    id: 'marx-efficiency',
    title: 'Output against ideal',
    slot: 'store',
    compute: (rig) =>
      work(
        marxFormulas.voltageEfficiency,
        { Vo: rig.figure('marx-output-voltage'), Vi: idealVoltage(rig) },
        'output against ideal',
      ),
  },
  {
    id: 'stage-energy',
    title: 'Energy left per stage that does not erect',
    slot: 'store',
    compute: (rig) =>
      work(storeFormulas.storedEnergy, { C: stageCapacitance(rig.own('store')), V: rig.offer('chargedTo') }, 'energy per stage'),
  },
  {
    id: 'stage-self-break',
    title: 'Self-break, later gaps',
    slot: 'store',
    compute: (rig) => breaksBehind(rig.own('store')),
  },
  {
    id: 'stage-stray',
    title: 'Stray capacitance of a stage to earth',
    slot: 'store',
    mayBeMissing: true,
    compute: (rig) =>
      needed(
        stageStray(rig.own('store')),
        'the stray capacitance is not given, nor height and width of a stage to estimate it',
        'Cs',
      ),
  },
  {
    id: 'gap-stray',
    title: 'Stray capacitance across a gap',
    slot: 'store',
    mayBeMissing: true,
    compute: (rig) => needed(gapStray(rig.own('store')), 'it is not given, nor spacing and sphere diameter to work it out', 'Cg'),
  },
  {
    id: 'erected-hold',
    title: 'Decay time of erected stages',
    slot: 'store',
    compute: (rig) => {
      const own = rig.own('store');
      const C = stageCapacitance(own);
      const L = own.optional('Lc');
      return L ? work(marxFormulas.erectedHoldOfChokes, { C, L }) : work(marxFormulas.erectedHold, { C, R: own.quantity('Rc') });
    },
  },
  ...([90, 95, 99] as const).map((percent) => ({
    id: `ladder-${percent}` as const,
    title: `Last stage at ${percent} % of the final voltage`,
    slot: 'charging' as const,
    compute: (rig: RigContext) => ladderTimeTo(rig, percent / 100),
  })),
  {
    id: 'marx-front-time',
    title: 'Front time T1',
    slot: 'store',
    leads: true,
    mayBeMissing: true,
    compute: (rig) => work(marxFormulas.impulseFrontTime, impulseInputs(rig)),
  },
  {
    id: 'marx-tail-time',
    title: 'Time to half value T2',
    slot: 'store',
    leads: true,
    mayBeMissing: true,
    compute: (rig) => work(marxFormulas.impulseTailTime, impulseInputs(rig)),
  },
  {
    id: 'marx-impulse-efficiency',
    title: 'Impulse efficiency',
    slot: 'store',
    mayBeMissing: true,
    compute: (rig) => work(marxFormulas.impulseEfficiencyOf, impulseInputs(rig)),
  },
  {
    id: 'spark-length',
    title: 'Likely spark length in open air',
    slot: 'store',
    compute: (rig) => likelySpark(inStandardAir(rig, topVoltage(rig))),
  },
  {
    id: 'spark-clearance',
    title: 'Minimum clearance around the output',
    slot: 'store',
    compute: (rig) => sparkClearance(inStandardAir(rig, topVoltage(rig))),
  },
  {
    id: 'terminal-corona',
    title: 'Corona onset at the terminal',
    slot: 'store',
    mayBeMissing: true,
    compute: (rig) =>
      work(coronaFormulas.sphereCoronaVoltage, {
        r: terminalRadius(rig),
        delta: airOf(rig).density,
      }),
  },
  {
    id: 'stage-float-time',
    title: 'Stage cut off from its ladder, time to its goal by leakage',
    slot: 'bleeder',
    compute: (rig) => {
      const own = rig.own('store');
      const V0 = rig.offer('chargedTo');
      return work(
        bleedFormulas.rcBleedTime,
        { R: own.quantity('Ri'), C: stageCapacitance(own), V0, V: goalBeside(V0, rig.figure('stage-energy')) },
        'a stage that floats, to below its goal',
      );
    },
  },
];

/**
 * The first stage when the last is full, V: it fills first, and goes on towards the supply while the far ones are waited for. Of a supply with
 * a law of its own it is not known.
 */
function firstStage(rig: RigContext): Worked {
  if (rig.offers('supply').chargeLaw ?? rig.offers('charging').chargeLaw)
    throw new Unavailable('store', 'the charge follows a law of its own: see the page of the stages', 'V0');
  const leak = chargeLeak(rig);
  const R1 = rig.figure('charging-resistance');
  const Rs = leak
    ? work(chargeFormulas.parallelResistance, { R1, R2: leak }, 'charging resistance beside bleeder and meter')
    : R1;
  const m = ruled('stage next to the supply', 1, '1', 'it fills first');
  const x = work(
    marxFormulas.ladderShare,
    { ...ladderOf(rig.own('store')), m, t: rig.figure('charge-time'), Rs },
    'how full it is then',
  );
  return work(chargeFormulas.fractionOfVoltage, { V: rig.figure('charge-towards'), x }, 'first stage when the last is full');
}

/** What a surface of the column bears as it is, V/m. */
const surfaceBears = (rig: RigContext): Worked => {
  const own = rig.own('store');
  return work(sourceFormulas.surfaceStrength, { Es: own.quantity('Es'), k: own.quantity('ks') });
};

/** What stands at the top until something breaks: the output, or what an output gap holds where that is less, V. */
function standsAtTop(rig: RigContext): Worked {
  const out = rig.figure('marx-output-voltage');
  const { holdsOutput } = rig.offers('load');
  const across = holdsOutput ? ifKnown(() => rig.figure(holdsOutput)) : null;
  const n = ruled('towers', rig.inSeries().length, '1', 'a gap from top to top has a share of each');
  const holds =
    across && n.value > 1 ? work(storeFormulas.shareOfString, { V: across, n }, 'what the output gap leaves a tower') : across;
  return holds && holds.value < out.value ? holds : out;
}

/** Charging resistors of one side, end to end: the way of an arc from the top to earth, m. */
const columnLength = (rig: RigContext): Worked => {
  const own = rig.own('store');
  return work(marxFormulas.columnLength, { n: own.quantity('n'), l: own.quantity('lc') });
};

/** The stage voltage along a body when the stages have erected, against what its surface bears. */
const flashover = (id: string, what: string, field: 'lc' | 'lb' | 'lf' | 'lt', note: string): LimitSpec => ({
  id,
  title: `${what}, flashover along it`,
  slot: 'store',
  stress: (rig) =>
    work(
      sourceFormulas.surfaceStress,
      { V: rig.offer('chargedTo'), l: rig.own('store').quantity(field) },
      `field along it when the stages have erected`,
    ),
  rating: (rig) => (rig.own('store').optional(field) ? surfaceBears(rig) : null),
  onlyIfKnown: true,
  levers: [`store.${field}`, 'store.V0', 'store.ks'],
  note,
});

export const marxLimits: readonly LimitSpec[] = [
  {
    id: 'capacitor-voltage',
    title: 'Stage capacitor voltage',
    slot: 'store',
    stress: (rig) => rig.offer('chargedTo'),
    rating: (rig) => rig.own('store').optional('Vr'),
    levers: ['store.V0', 'store.Vr'],
    protects: true,
  },
  {
    id: 'first-stage-voltage',
    title: 'First stage, when the last is full',
    slot: 'store',
    stress: firstStage,
    rating: (rig) => rig.own('store').optional('Vr'),
    onlyIfKnown: true,
    levers: ['store.V0', 'supply.V', 'store.Vr'],
    note: 'The stages next to the supply fill first and go on towards its voltage while the far ones still charge.',
  },
  {
    id: 'gap-window',
    title: 'Self-break of the later gaps',
    slot: 'store',
    stress: setVoltage,
    rating: (rig) => hardlyBelowBehind(rig.own('store'), rig.figure('stage-self-break')),
    levers: ['store.Vg', 'store.V0'],
  },
  {
    id: 'terminal-corona',
    title: 'Terminal, corona',
    slot: 'store',
    stress: (rig) => rig.figure('marx-output-voltage'),
    rating: (rig) => (rig.own('store').optional('rt') ? rig.figure('terminal-corona') : null),
    onlyIfKnown: true,
    levers: ['store.rt', 'store.n', 'store.V0'],
    note: 'Sharp edges leak charge: a sphere on the top, and nothing beside it that is sharper.',
  },
  {
    id: 'output-lead',
    title: 'Output lead, voltage to earth',
    slot: 'store',
    stress: idealVoltage,
    rating: (rig) => rig.own('store').optional('Vw'),
    onlyIfKnown: true,
    levers: ['store.Vw', 'store.n', 'store.V0'],
    note: 'The ideal voltage: with a light load the ring may go above it.',
  },
  flashover(
    'ladder-flashover',
    'Charging resistor of a stage',
    'lc',
    'Arcs along the resistors mean they are too short for the voltage.',
  ),
  {
    id: 'column-flashover',
    title: 'Charging resistors from top to earth, flashover along them',
    slot: 'store',
    stress: (rig) =>
      work(
        sourceFormulas.surfaceStress,
        { V: standsAtTop(rig), l: columnLength(rig) },
        'field along the column while the output gap holds',
      ),
    rating: (rig) => (rig.own('store').optional('lc') ? surfaceBears(rig) : null),
    onlyIfKnown: true,
    levers: ['load.d', 'store.lc', 'store.V0'],
    note: 'The column sees what the output gap holds: a shorter output gap breaks first and takes the voltage off it.',
  },
  flashover('body-flashover', 'Stage capacitor', 'lb', 'From terminal to terminal along its body.'),
  flashover('front-flashover', 'Front resistor of a stage', 'lf', 'It sees the whole stage voltage in the first moment.'),
  flashover('tail-flashover', 'Tail resistor of a stage', 'lt', 'It sees the whole stage voltage for the whole pulse.'),
];
