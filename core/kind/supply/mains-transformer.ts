import { onlyWith, quantity, rating, above, choice, fields, within } from '../../field/index.ts';
import { ruled, sourceFormulas, storeFormulas, supplyFormulas, tankFormulas, work, type Worked } from '../../formula/index.ts';
import { choiceOf } from '../../part/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { diodeFields, diodeLimits } from '../charging/diode-link.ts';
import { defineBlock, type CircuitPart, type Terminals } from '../../block/define.ts';
import { Unavailable, type ChargeLaw, type LimitSpec, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { acrossStore, currentRating, empty, fuseFigure, leftOnProblem, supplySteps } from './shared.ts';
import { transformerGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'supply/mains-transformer': typeof mainsTransformerFields;
  }
  interface FigureIds {
    'doubler-energy': true;
    'leakage-reactance': true;
    'empty-current': true;
    'input-current': true;
  }
}

const isDoubler = (own: Own<typeof mainsTransformerFields>) => own.is('rectifier', 'doubler');

/** Inductance in series with the secondary: as given, or what limits to the short-circuit current of the label. */
export const leakage = (own: Own<typeof windingFields & typeof impedanceFields>): Worked =>
  own.is('impedance', 'inductance')
    ? own.quantity('Ll')
    : work(supplyFormulas.leakageInductance, {
        V: own.quantity('V'),
        I: own.quantity('Isc'),
        R: own.quantity('Rw'),
        f: own.quantity('f'),
      });

const reactance = (own: Own<typeof mainsTransformerFields>): Worked =>
  work(supplyFormulas.reactance, { L: leakage(own), f: own.quantity('f') });

const two = ruled('two halves of the doubler', 2, '1', 'each half wave charges one of its capacitors');
const pulses = (own: Own<typeof mainsTransformerFields>): Worked =>
  ruled('pulses a cycle', own.is('rectifier', 'bridge') ? 2 : 1, '1', 'the rectifier as chosen');
const diodesInWay = (own: Own<typeof mainsTransformerFields>): Worked =>
  own.is('rectifier', 'bridge')
    ? ruled('diodes in the way of the current', 2 * own.quantity('nd').value, '1', 'two arms of the bridge')
    : own.quantity('nd');

const peak = (own: Own<typeof mainsTransformerFields>): Worked =>
  work(supplyFormulas.rectifiedPeakVoltage, { Vrms: own.quantity('V') });
const behindDiodes = (own: Own<typeof mainsTransformerFields>): Worked =>
  work(supplyFormulas.voltageLessDrops, { V: peak(own), n: diodesInWay(own), Vf: own.quantity('Vf') });

/** The rectifier seen from the store: what the formulas of a charge take. */
const single = (rig: RigContext) => {
  const own = rig.own('supply');
  return { Vp: rig.figure('charging-voltage'), R: rig.figure('charging-resistance'), X: reactance(own), p: pulses(own) };
};
const none = ruled('charging resistance', 0, 'Ω', 'the charging path has none');
const doubled = (rig: RigContext) => {
  const own = rig.own('supply');
  return {
    Vp: work(storeFormulas.shareOfString, { V: rig.figure('charging-voltage'), n: two }, 'voltage of each half'),
    R: own.quantity('Rw'),
    X: reactance(own),
    f: own.quantity('f'),
    Cd: own.quantity('Cd'),
    Rc: rig.offers('charging').chargingResistance ?? none,
  };
};
const loaded = (rig: RigContext) => ({ C: rig.figure('bank-capacitance'), Rb: acrossStore(rig) });

const rectifierLaw: ChargeLaw = {
  reach: (rig) => work(supplyFormulas.rectifierReach, { ...single(rig), Rb: acrossStore(rig) }),
  time: (rig, V, title) => work(supplyFormulas.rectifierChargeTime, { ...single(rig), ...loaded(rig), V }, title),
  loss: (rig, V) => work(supplyFormulas.rectifierChargingLoss, { ...single(rig), ...loaded(rig), V }),
  peak: (rig) => {
    const { Vp, R, X } = single(rig);
    return work(sourceFormulas.impedanceCurrent, { V: Vp, R, X }, 'peak charging current');
  },
};

const doublerLaw: ChargeLaw = {
  reach: (rig) => work(supplyFormulas.doublerReach, { ...doubled(rig), Rb: acrossStore(rig) }),
  time: (rig, V, title) => work(supplyFormulas.doublerChargeTime, { ...doubled(rig), ...loaded(rig), V }, title),
  loss: (rig, V) => work(supplyFormulas.doublerChargingLoss, { ...doubled(rig), ...loaded(rig), V }),
  peak: (rig) =>
    work(
      sourceFormulas.impedanceCurrent,
      { V: rig.figure('charging-voltage'), R: rig.figure('charging-resistance'), X: reactance(rig.own('supply')) },
      'peak charging current, both halves full',
    ),
};

/** Mean current into an empty store: what heats the winding while it charges, or feeds a short. */
const meanIntoEmpty = (rig: RigContext): Worked =>
  isDoubler(rig.own('supply'))
    ? work(supplyFormulas.doublerCurrent, { ...doubled(rig), V: empty })
    : work(supplyFormulas.rectifierCurrent, { ...single(rig), V: empty });

/** Highest reverse voltage on a string of diodes: in a half-wave rectifier the store and the other peak add. */
const reverse = (rig: RigContext): Worked => {
  const own = rig.own('supply');
  const Vp = peak(own);
  return own.is('rectifier', 'bridge') ? Vp : work(storeFormulas.bankRating, { V: Vp, ns: two }, 'reverse voltage, two peaks');
};

const doublerLimit: LimitSpec = {
  id: 'doubler-capacitor',
  title: 'Doubler capacitor: voltage, each',
  slot: 'supply',
  stress: (rig) => peak(rig.own('supply')),
  rating: (rig) => (isDoubler(rig.own('supply')) ? rig.own('supply').optional('Vc') : null),
  levers: ['supply.V', 'supply.Vc'],
  onlyIfKnown: true,
};

function doublerProblem(own: Own<typeof mainsTransformerFields>): Problem[] {
  if (!isDoubler(own)) return [];
  const V = 2 * peak(own).value;
  const E = own.quantity('Cd').value * (V / 2) ** 2;
  const text = `The doubler’s own two capacitors hold ${printQuantity(E, 'J')} at ${printQuantity(V, 'V')} and no bleeder of the store reaches them past the isolator: each needs its own${own.optional('Rd') ? ', which it has and which may be open' : ''}, and each is probed and shorted before anyone touches it.`;
  return [{ severity: 'warning', slot: 'supply', field: 'Cd', text }];
}

/** J in both capacitors of the doubler. */
const doublerEnergy = (own: Own<typeof mainsTransformerFields>): Worked =>
  work(
    storeFormulas.storedEnergy,
    {
      C: work(
        storeFormulas.seriesParallelCapacitance,
        { C: own.quantity('Cd'), ns: two, np: one },
        'doubler capacitors in series',
      ),
      V: work(storeFormulas.bankRating, { V: peak(own), ns: two }, 'voltage of the doubler'),
    },
    'energy in the doubler',
  );
const one = ruled('in parallel', 1, '1', 'one row of two');

/** What takes a capacitor of the doubler down. */
const bledBy = (own: Own<typeof mainsTransformerFields>): { R?: Worked; C?: Worked } => {
  const R = own.optional('Rd');
  return R ? { R, C: own.quantity('Cd') } : {};
};

const diode = (name: string, from: string, to: string, own: Own<typeof mainsTransformerFields>, says: string): CircuitPart => ({
  element: { kind: 'diode', name, nodes: [from, to], Vf: own.quantity('nd').value * own.quantity('Vf').value, Ron: 1e-2 },
  says,
});

/** Winding with its leakage between two nodes; a source that stands on no earth keeps a little resistance in itself. */
function winding(own: Own<typeof mainsTransformerFields>, from: string, to: string, tag: string): CircuitPart[] {
  const [R, L] = [own.quantity('Rw').value, leakage(own).value];
  const inside = L > 0 ? `${to}w` : to;
  const source: CircuitPart = {
    element: {
      kind: 'voltage-source',
      name: `V${tag}`,
      nodes: [inside, from],
      wave: { kind: 'sine', offset: 0, amplitude: peak(own).value, frequency: own.quantity('f').value },
      R: Math.max(R, 1e-3),
    },
    says: 'secondary with the resistance of its winding',
  };
  if (L === 0) return [source];
  return [
    source,
    { element: { kind: 'inductor', name: `L${tag}`, nodes: [inside, to], L }, says: 'leakage inductance or ballast' },
  ];
}

/** The winding as its label says it. */
export const windingFields = fields({
  V: quantity('Secondary voltage, rms', 'V', above(0, 1e6), '230 V', { tolerance: true, help: 'Without load.' }),
  f: quantity('Mains frequency', 'Hz', within(1, 1e4), '50 Hz'),
});

/** What limits its current. */
export const impedanceFields = fields({
  impedance: choice(
    'Limit given as',
    { inductance: 'leakage or ballast inductance', 'short-circuit': 'short-circuit current' },
    { help: 'A current-limited transformer, such as for signs, has its short-circuit current on the label.' },
  ),
  Ll: onlyWith(
    'impedance',
    ['inductance'],
    quantity('Leakage or ballast inductance', 'H', within(0, 1e5), '0 H', { tolerance: true, help: 'Seen from the secondary.' }),
  ),
  Isc: onlyWith(
    'impedance',
    ['short-circuit'],
    quantity('Short-circuit current, rms', 'A', above(0, 1e4), '1 A', { tolerance: true }),
  ),
  Rw: quantity('Winding resistance', 'Ω', within(0, 1e6), '10 Ω', {
    tolerance: true,
    help: 'Secondary, with that of the primary times the ratio of turns squared.',
  }),
});

/** Ω from a floating winding to earth: far above all that counts, far below an open diode. */
const floatingLeak = 1e7;

function circuit(own: Own<typeof mainsTransformerFields>, { plus, minus, tag }: Terminals, held: number): CircuitPart[] {
  const a = `${plus}a`;
  if (own.is('rectifier', 'half-wave'))
    return [...winding(own, minus, a, tag), diode(`D${tag}`, a, plus, own, 'half-wave rectifier')];
  const b = `${plus}b`;
  // A winding that floats has a leakage to earth; without one nothing says where it stands while no diode conducts.
  const leak: CircuitPart = {
    element: { kind: 'resistor', name: `R${tag}`, nodes: [b, minus], R: floatingLeak },
    says: 'leakage of the floating winding',
  };
  if (own.is('rectifier', 'bridge'))
    return [
      ...winding(own, b, a, tag),
      leak,
      diode(`D${tag}1`, a, plus, own, 'bridge'),
      diode(`D${tag}2`, b, plus, own, 'bridge'),
      diode(`D${tag}3`, minus, a, own, 'bridge'),
      diode(`D${tag}4`, minus, b, own, 'bridge'),
    ];
  const C = own.quantity('Cd').value;
  return [
    ...winding(own, b, a, tag),
    diode(`D${tag}1`, a, plus, own, 'doubler, upper half'),
    diode(`D${tag}2`, minus, a, own, 'doubler, lower half'),
    { element: { kind: 'capacitor', name: `C${tag}1`, nodes: [plus, b], C, V0: held }, says: 'doubler capacitor, upper' },
    { element: { kind: 'capacitor', name: `C${tag}2`, nodes: [b, minus], C, V0: held }, says: 'doubler capacitor, lower' },
  ];
}

const mainsTransformerFields = fields({
  ...windingFields,
  rectifier: choice(
    'Rectifier',
    { 'half-wave': 'half-wave', bridge: 'full-wave bridge', doubler: 'voltage doubler' },
    { initial: 'bridge' },
  ),
  ...impedanceFields,
  Cd: onlyWith('rectifier', ['doubler'], quantity('Doubler capacitor, each', 'F', above(0, 10), '10 µF', { tolerance: true })),
  Vc: onlyWith('rectifier', ['doubler'], rating('Doubler capacitor, DC rating', 'V', 1e6)),
  Rd: onlyWith(
    'rectifier',
    ['doubler'],
    quantity('Bleeder across each doubler capacitor', 'Ω', above(0, 1e12), null, {
      tolerance: true,
      help: 'Always fit one; always assume it is open.',
    }),
  ),
  ...diodeFields,
  I: { ...currentRating, title: 'DC output current rating', help: 'Mean current its winding and cooling allow.' },
  V1: quantity('Mains voltage, rms', 'V', above(0, 1e5), '230 V'),
});

export const mainsTransformer = defineBlock({
  slot: 'supply',
  kind: 'mains-transformer',
  title: 'Transformer with rectifier',
  glyph: () => transformerGlyph,
  fields: mainsTransformerFields,
  key: (own) => ({ text: printQuantity(own.quantity('V').value, 'V'), detail: own.choice('rectifier') }),
  takes: {
    part: 'transformer',
    fields: { V: 'V', Rw: 'R', I: 'I' },
    unsuited: (part) => (choiceOf(part, 'output') === 'ac' ? null : 'it gives DC voltage'),
  },
  offers: (own) => {
    const Vp = behindDiodes(own);
    return isDoubler(own)
      ? {
          sourceVoltage: work(storeFormulas.bankRating, { V: Vp, ns: two }, 'voltage of the doubler without load'),
          chargingResistance: own.quantity('Rw'),
          chargeLaw: doublerLaw,
          meanResistance: work(tankFormulas.doublerMeanResistance, { f: own.quantity('f'), Cd: own.quantity('Cd') }),
          frequency: own.quantity('f'),
        }
      : {
          sourceVoltage: Vp,
          chargingResistance: own.quantity('Rw'),
          chargeLaw: rectifierLaw,
          frequency: own.quantity('f'),
        };
  },
  circuit: (own, rig, at, scene) => {
    if (scene.of === 'charge' && !scene.cycles)
      throw new Unavailable(
        'supply',
        'this charge has more cycles of the mains than are simulated at a time; the closed form stands alone',
      );
    // A choke swings the store up from a doubler that is full; without one the first charge fills the doubler too.
    const swings = rig.offers('charging').chargingInductance !== undefined;
    return circuit(own, at, swings ? behindDiodes(own).value : 0);
  },
  leavesOut: (own) =>
    isDoubler(own)
      ? 'the cycles of the doubler and, without a choke, how its two capacitors fill in the first of them: it takes their mean'
      : 'the cycles themselves: it takes the mean of each, and a charge of few cycles comes in steps',
  warns: [{ figure: 'doubler-energy', says: 'in the doubler behind it' }],
  held: (own) =>
    isDoubler(own)
      ? [
          {
            id: 'doubler',
            one: 'capacitor of the doubler',
            count: 2,
            title: 'Each of the two capacitors of the doubler',
            V: peak(own),
            E1: work(storeFormulas.storedEnergy, { C: own.quantity('Cd'), V: peak(own) }, 'energy of one of them'),
            E: doublerEnergy(own),
            through: own.optional('Rd')
              ? 'its own bleeder; with that open by nothing that is known'
              : 'nothing that is known: no bleeder of the store reaches them past the isolator',
            ...bledBy(own),
            then: 'A bleeder across each, assumed open; stick, meter and strap across each before anyone touches it.',
          },
        ]
      : [],
  figures: [
    {
      id: 'doubler-energy',
      title: 'Energy in the doubler',
      slot: 'supply',
      mayBeMissing: true,
      compute: (rig) => {
        if (!isDoubler(rig.own('supply'))) throw new Unavailable('supply', 'the supply is no doubler');
        return doublerEnergy(rig.own('supply'));
      },
    },
    { id: 'leakage-reactance', title: 'Reactance of the supply', slot: 'supply', compute: (rig) => reactance(rig.own('supply')) },
    { id: 'empty-current', title: 'Mean current into an empty store', slot: 'supply', compute: meanIntoEmpty },
    {
      id: 'input-current',
      title: 'Mains current into an empty store',
      slot: 'supply',
      compute: (rig) => {
        const own = rig.own('supply');
        const R = isDoubler(own) ? own.quantity('Rw') : rig.figure('charging-resistance');
        const I2 = work(
          sourceFormulas.impedanceCurrent,
          { V: own.quantity('V'), R, X: reactance(own) },
          'secondary current, rms',
        );
        return work(sourceFormulas.primaryCurrent, { I2, V2: own.quantity('V'), V1: own.quantity('V1') });
      },
    },
    fuseFigure((rig) => rig.figure('input-current')),
  ],
  limits: [
    {
      id: 'supply-current',
      title: 'Supply current',
      slot: 'supply',
      stress: meanIntoEmpty,
      rating: (rig) => rig.own('supply').optional('I'),
      levers: ['charging.R', 'supply.V'],
      note: 'Mean current into an empty store; it falls as the store fills. Saturation of the core is not modelled: measure the no-load current.',
    },
    ...diodeLimits('supply', 'supply-diode', 'Rectifier', reverse, (rig) => rig.figure('charging-current'), ['supply.V']),
    doublerLimit,
  ],
  problems: (own, rig) => [...leftOnProblem(rig, 'V'), ...doublerProblem(own)],
  steps: (own) =>
    supplySteps(
      `It gives ${printQuantity(own.quantity('V').value, 'V')} rms, a peak of ${printQuantity(peak(own).value, 'V')}, with the store connected or not. Keep the unplugged plug in sight.`,
    ),
});
