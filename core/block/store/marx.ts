import {
  chargeFormulas,
  gapFormulas,
  marxFormulas,
  ruled,
  sourceFormulas,
  storeFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { marxFields } from './marx-fields.ts';
import { Unavailable, type Own, type Problem, type RigContext } from '../context.ts';
import { defineBlock, type CircuitPart, type Scene, type Terminals } from '../define.ts';

const two = ruled('sides', 2, '1', 'a resistor on the live side and one on the earth side');

/** Resistance from one stage to the next, both sides together. */
const ladderResistance = (own: Own): Worked =>
  work(storeFormulas.seriesResistance, { R: own.quantity('Rc'), n: two }, 'charging resistance of a stage, both sides');

const ladderOf = (own: Own) => ({ n: own.quantity('n'), R: ladderResistance(own), C: own.quantity('C') });

const idealVoltage = (rig: RigContext): Worked =>
  work(marxFormulas.marxIdealVoltage, { n: rig.own('store').quantity('n'), V: rig.offer('chargedTo') });

/** Time until the last stage has a share of what it comes to. */
const ladderTimeTo = (rig: RigContext, share: number): Worked =>
  work(
    marxFormulas.ladderChargeTime,
    {
      ...ladderOf(rig.own('store')),
      x: ruled('share', share, '1', 'asked for'),
      Rs: rig.figure('charging-resistance'),
    },
    `last stage at ${share * 100} %`,
  );

const terminalRadius = (rig: RigContext): Worked => {
  const r = rig.own('store').optional('rt');
  if (!r) throw new Unavailable('store', 'the radius of the terminal is not given', 'rt');
  return r;
};

const loadCapacitance = (own: Own): Worked =>
  own.optional('CL') ?? ruled('capacitance of load and terminal', 0, 'F', 'not given');

const impulseInputs = (rig: RigContext) => {
  const own = rig.own('store');
  const [Rf, Rt, CL] = [own.optional('Rf'), own.optional('Rt'), own.optional('CL')];
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

/** Resistance of the first stage in the discharge, without its gap: ESR and front resistor. */
function firstResistance(own: Own): Worked {
  const Rf = own.optional('Rf');
  const ESR = own.quantity('ESR');
  return Rf ? work(chargeFormulas.seriesSum, { R1: ESR, R2: Rf }, 'ESR and front resistor of a stage') : ESR;
}

/** Resistance of a stage with its gap. */
const stageResistance = (own: Own): Worked =>
  work(chargeFormulas.seriesSum, { R1: firstResistance(own), R2: own.quantity('Ra') }, 'resistance of a stage');

function ladderParts(own: Own, { plus, minus, tag }: Terminals, scene: Scene): CircuitPart[] {
  const n = own.quantity('n').value;
  const side = own.quantity('Rc').value;
  const top = (k: number) => `T${k}`;
  const base = (k: number) => (k === 1 ? minus : `B${k}`);
  const V0 = scene.of === 'charge' ? 0 : own.quantity('V0').value;
  const parts: CircuitPart[] = [];
  for (let k = 1; k <= n; k++) {
    // The last stage is what a charge waits for: it is the store that is looked at.
    const mark = k === n ? '' : String(k);
    const R = k === 1 ? 2 * side : side;
    parts.push({
      element: { kind: 'resistor', name: `R${tag}a${k}`, nodes: [k === 1 ? plus : top(k - 1), top(k)], R },
      says: `charging resistor before stage ${k}, live side`,
    });
    if (k > 1)
      parts.push({
        element: { kind: 'resistor', name: `R${tag}b${k}`, nodes: [base(k - 1), base(k)], R: side },
        says: `charging resistor before stage ${k}, earth side`,
      });
    // The gap of a stage bears its resistance; the first gap is the switch of the rig and knows nothing of it.
    const R1 = scene.of === 'discharge' && k === 1 ? firstResistance(own).value : 0;
    const foot = R1 > 0 ? 'B1' : base(k);
    if (R1 > 0)
      parts.push({
        element: { kind: 'resistor', name: `R${tag}1`, nodes: [foot, minus], R: R1 },
        says: 'ESR and front resistor of stage 1',
      });
    parts.push({
      element: { kind: 'capacitor', name: `C${tag}${mark}`, nodes: [top(k), foot], C: own.quantity('C').value, V0 },
      says: `capacitor of stage ${k}`,
    });
    parts.push({
      element: { kind: 'resistor', name: `R${tag}i${k}`, nodes: [top(k), base(k)], R: own.quantity('Ri').value },
      says: `insulation of stage ${k}`,
      leftOut: { what: 'the insulation of the stages', instead: 'open' },
    });
  }
  return parts;
}

function shotParts(own: Own, tag: string, out: string): CircuitPart[] {
  const n = own.quantity('n').value;
  const Cs = own.optional('Cs')?.value ?? 0;
  const Rt = own.optional('Rt');
  const CL = own.optional('CL')?.value ?? 0;
  const V0 = own.quantity('V0').value;
  const parts: CircuitPart[] = [];
  for (let k = 1; k <= n; k++) {
    if (Cs > 0)
      parts.push({
        element: { kind: 'capacitor', name: `C${tag}s${k}`, nodes: [`T${k}`, '0'], C: Cs, V0 },
        says: `stray capacitance of the top of stage ${k}`,
        leftOut: { what: 'the stray capacitance', instead: 'open' },
      });
    if (Rt)
      parts.push({
        element: {
          kind: 'resistor',
          name: `R${tag}t${k}`,
          nodes: [`T${k}`, k === 1 ? '0' : `B${k}`],
          R: Math.max(Rt.value, 1e-6),
        },
        says: `tail resistor of stage ${k}`,
        leftOut: { what: 'the tail resistors', instead: 'open' },
      });
    // The first gap is the switch of the rig.
    if (k > 1)
      parts.push({
        element: {
          kind: 'gap',
          name: `S${tag}${k}`,
          nodes: [`T${k}`, k === n ? out : `B${k + 1}`],
          breakdown: own.quantity('Vg').value,
          scatter: own.quantity('sc').value,
          arc: { law: 'fixed', R: Math.max(stageResistance(own).value, 1e-6) },
          L: Math.max(own.quantity('L').value, 1e-12),
        },
        says: `gap ${k}, with the ESR, front resistor and inductance of its stage`,
      });
  }
  if (CL > 0)
    parts.push({
      element: { kind: 'capacitor', name: `C${tag}o`, nodes: [out, '0'], C: CL },
      says: 'capacitance of load and terminal',
      leftOut: { what: 'the capacitance of the output', instead: 'open' },
    });
  return parts;
}

function problems(own: Own, rig: RigContext): Problem[] {
  const n = own.quantity('n').value;
  const Vg = own.quantity('Vg').value;
  const V0 = rig.offer('chargedTo').value;
  const say = (field: string, text: string, severity: Problem['severity'] = 'warning'): Problem => ({
    severity,
    slot: 'store',
    field,
    text,
  });
  if (n === 1) return [];
  if (V0 >= Vg)
    return [
      say(
        'Vg',
        `The gaps between the stages fire by themselves before the charge is done: they break at ${printQuantity(Vg, 'V')}, the stages are charged to ${printQuantity(V0, 'V')}. Turn them out.`,
        'error',
      ),
    ];
  if (Vg > 2 * V0)
    return [
      say(
        'Vg',
        `It may not erect: without an overshoot the second gap sees at most twice the stage voltage, ${printQuantity(2 * V0, 'V')}, and breaks at ${printQuantity(Vg, 'V')}. Turn the gaps in, or charge higher.`,
      ),
    ];
  return [];
}

export const marx = defineBlock({
  slot: 'store',
  kind: 'marx',
  title: 'Marx generator',
  glyph: () => 'marx',
  fields: marxFields,
  takes: { part: 'capacitor', fields: { C: 'C', Vr: 'Vdc', ESR: 'ESR', Ri: 'Ri' } },
  key: (own) => ({
    text: printQuantity(own.quantity('n').value * own.quantity('V0').value, 'V'),
    detail: `${own.quantity('n').value} × ${printQuantity(own.quantity('C').value, 'F')}`,
  }),
  offers: (own) => {
    const n = own.quantity('n');
    const rated = own.optional('Vr');
    const behind = n.value - 1;
    // The first gap brings its own arc and inductance.
    const gaps = ruled('gaps behind the first', Math.max(1, behind), '1', 'one a stage, the first is the switch');
    const ofFirst = firstResistance(own);
    const single = ruled('in parallel', 1, '1', 'a Marx generator has one column');
    const others = work(
      storeFormulas.bankResistance,
      { R: stageResistance(own), ns: gaps, np: single },
      'stages behind the first',
    );
    return {
      capacitance: work(
        storeFormulas.seriesParallelCapacitance,
        { C: own.quantity('C'), ns: ruled('in series', 1, '1', 'charged in parallel'), np: n },
        'all stages in parallel',
      ),
      chargedTo: own.quantity('V0'),
      ladder: ladderOf(own),
      insulation: work(
        storeFormulas.bankResistance,
        { R: own.quantity('Ri'), ns: ruled('in series', 1, '1', 'charged in parallel'), np: n },
        'insulation of the stages',
      ),
      loopResistance: behind > 0 ? work(chargeFormulas.seriesSum, { R1: ofFirst, R2: others }, 'stages in series') : ofFirst,
      ...(behind > 0
        ? {
            loopInductance: work(
              storeFormulas.bankInductance,
              { L: own.quantity('L'), ns: gaps, np: single },
              'inductance of the stages behind the first gap',
            ),
          }
        : {}),
      ...(rated ? { ratedVoltage: rated } : {}),
    };
  },
  circuit: (own, _rig, at, scene) => [
    ...ladderParts(own, at, scene),
    ...(scene.of === 'discharge' ? shotParts(own, at.tag, 'out') : []),
  ],
  switchBetween: (own) => ({ plus: 'T1', minus: own.quantity('n').value > 1 ? 'B2' : 'out' }),
  figures: [
    { id: 'marx-ideal-voltage', title: 'Output, ideal', slot: 'store', compute: idealVoltage },
    {
      id: 'marx-output-voltage',
      title: 'Output, with strays and load',
      slot: 'store',
      compute: (rig) => {
        const own = rig.own('store');
        return work(marxFormulas.marxOutputVoltage, {
          n: own.quantity('n'),
          V: rig.offer('chargedTo'),
          C: own.quantity('C'),
          CL: loadCapacitance(own),
          Cs: own.optional('Cs') ?? ruled('stray capacitance of a stage', 0, 'F', 'not given'),
        });
      },
    },
    ...[0.9, 0.95, 0.99].map((share) => ({
      id: `ladder-${share * 100}`,
      title: `Last stage at ${share * 100} % of the supply`,
      slot: 'charging' as const,
      compute: (rig: RigContext) => ladderTimeTo(rig, share),
    })),
    {
      id: 'marx-front-time',
      title: 'Front time T1',
      slot: 'store',
      mayBeMissing: true,
      compute: (rig) => work(marxFormulas.impulseFrontTime, impulseInputs(rig)),
    },
    {
      id: 'marx-tail-time',
      title: 'Time to half value T2',
      slot: 'store',
      mayBeMissing: true,
      compute: (rig) => work(marxFormulas.impulseTailTime, impulseInputs(rig)),
    },
    {
      id: 'spark-length-short',
      title: 'Spark in open air, at least about',
      slot: 'store',
      compute: (rig) =>
        work(marxFormulas.sparkLength, {
          V: rig.figure('marx-output-voltage'),
          g: ruled('voltage a length', 2e6, 'V/m', 'common practice, no source: 10 to 20 kV/cm'),
        }),
    },
    {
      id: 'spark-length-long',
      title: 'Spark in open air, at most about',
      slot: 'store',
      compute: (rig) =>
        work(marxFormulas.sparkLength, {
          V: rig.figure('marx-output-voltage'),
          g: ruled('voltage a length', 1e6, 'V/m', 'common practice, no source: 10 to 20 kV/cm'),
        }),
    },
    {
      id: 'terminal-corona',
      title: 'Corona on the terminal from',
      slot: 'store',
      mayBeMissing: true,
      compute: (rig) =>
        work(gapFormulas.sphereCoronaVoltage, {
          r: terminalRadius(rig),
          delta: ruled('relative air density', 1, '1', '20 °C, 101.3 kPa'),
        }),
    },
  ],
  limits: [
    {
      id: 'capacitor-voltage',
      title: 'Stage capacitor voltage',
      slot: 'store',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('store').optional('Vr'),
      levers: ['store.V0', 'store.Vr'],
    },
    {
      id: 'gap-window',
      title: 'Gaps behind the first, firing by themselves',
      slot: 'store',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) =>
        work(gapFormulas.scatteredBreakdown, {
          Vb: rig.own('store').quantity('Vg'),
          s: rig.own('store').quantity('sc'),
          z: ruled('standard deviations', -3, '1', '1 in 700 lies beyond'),
        }),
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
      note: 'Sharp edges leak charge: a ball on the top, and nothing beside it that is sharper.',
    },
    {
      id: 'ladder-flashover',
      title: 'Charging resistor of a stage, flashover along it',
      slot: 'store',
      stress: (rig) =>
        work(
          sourceFormulas.surfaceStress,
          { V: rig.offer('chargedTo'), l: rig.own('store').quantity('lc') },
          'field along a charging resistor when the stages have erected',
        ),
      rating: (rig) => (rig.own('store').optional('lc') ? rig.own('store').quantity('Es') : null),
      onlyIfKnown: true,
      levers: ['store.lc', 'store.V0'],
      note: 'Arcs along the resistors mean that they are too short for the voltage.',
    },
  ],
  problems,
  steps: (own, rig) => [
    {
      id: 'discharged-before',
      phase: 'prepare',
      text: 'Before touching anything, take every stage for charged: with the earthed lead from top to bottom on both sides of each capacitor, then strap all of them.',
      hold: 'Each of them has been touched on both sides, and the straps are on.',
      caution: 'A stage that did not erect keeps its whole charge, and stages float: a meter on one says nothing of the next.',
    },
    {
      id: 'commission-low',
      phase: 'commission',
      text: `First run of a new or changed Marx: the first gap alone, then two stages, then all ${own.quantity('n').value}, each at the lowest voltage at which the gaps fire. One change at a time.`,
      hold: 'What fired, and at what voltage, is written down.',
    },
    {
      id: 'ladder-wait',
      phase: 'charge',
      text: `The far stages fill last: wait until the last has its voltage before it is fired.`,
      expect: [{ label: 'Last stage at 95 % after', worked: rig.figure('ladder-95'), print: 'duration', use: 'nominal' }],
    },
  ],
});
