import { countOf, quantity, rating, above, fields } from '../../field/index.ts';
import { bleedFormulas, dischargeFormulas, meterFormulas, ruled, storeFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { stringFields, stringVoltageLimit } from '../../block/resistor-string.ts';
import { resistorInductorGlyph } from '../coil/glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/dummy-resistor': typeof dummyResistorFields;
  }
  interface FigureIds {
    'dummy-voltage': true;
    'load-energy': true;
    'dummy-energy': true;
    'dummy-inductance': true;
  }
}

/** Resistors in series, and such strings side by side. */
const counts = (own: Own<typeof dummyResistorFields>) => ({ ns: own.quantity('n'), np: own.quantity('m') });

const total = (own: Own<typeof dummyResistorFields>): Worked =>
  work(storeFormulas.bankResistance, { R: own.quantity('R'), ...counts(own) }, 'resistance of the dummy load');

const inductance = (own: Own<typeof dummyResistorFields>): Worked =>
  work(storeFormulas.bankInductance, { L: own.quantity('L'), ...counts(own) }, 'inductance of the dummy load');

/** Voltage across it at the peak of the current. */
const across = (rig: RigContext): Worked =>
  work(meterFormulas.shuntVoltage, { I: rig.figure('peak-current'), R: total(rig.own('load')) }, 'voltage across it at the peak');

const energyOf = (rig: RigContext): Worked =>
  work(dischargeFormulas.heatFromAction, { A: rig.figure('action-integral'), R: total(rig.own('load')) }, 'energy into it');

const energyOfOne = (rig: RigContext): Worked => {
  const { ns, np } = counts(rig.own('load'));
  const n = ruled('resistors in all', ns.value * np.value, '1', 'in series times side by side');
  return work(bleedFormulas.energyShare, { E: energyOf(rig), n }, 'energy into one');
};

const dummyResistorFields = fields({
  ...stringFields('1 Ω ±5 %'),
  m: countOf('Strings in parallel'),
  E: rating('Pulse energy, each', 'J', 1e9, {
    symbol: 'Er',
    help: 'Energy rating of one for one shot: high for bulk ceramic, low for film or wire-wound.',
  }),
  L: quantity('Inductance with leads, each', 'H', above(0, 1), '300 nH ±50 %', {
    tolerance: true,
    help: 'Wire-wound: some microhenries; bulk: that of its length, about 1 µH a metre.',
  }),
});

export const dummyResistor = defineBlock({
  slot: 'load',
  kind: 'dummy-resistor',
  title: 'Dummy resistor',
  glyph: () => resistorInductorGlyph,
  fields: dummyResistorFields,
  key: (own) => ({ text: printQuantity(total(own).value, 'Ω') }),
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', E: 'E' } },
  offers: (own) => ({ loopResistance: total(own), loopInductance: inductance(own) }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L: inductance(own).value, R: total(own).value },
      says: 'dummy resistor with its inductance',
    },
  ],
  figures: [
    { id: 'dummy-voltage', title: 'Voltage across it at the peak', slot: 'load', compute: across },
    { id: 'load-energy', title: 'Energy into the dummy resistor', slot: 'load', compute: energyOf },
    { id: 'dummy-energy', title: 'Energy into one of its resistors', slot: 'load', compute: energyOfOne },
    {
      id: 'dummy-inductance',
      title: 'Inductance of the dummy resistor',
      slot: 'load',
      compute: (rig) => inductance(rig.own('load')),
    },
  ],
  limits: [
    stringVoltageLimit('load', 'dummy-voltage', 'Dummy resistor', across, {
      levers: ['load.n', 'store.V0'],
      note: 'At peak current; the same voltage must not flash over along its body.',
    }),
    {
      id: 'dummy-energy',
      title: 'Dummy resistor: energy, each',
      slot: 'load',
      stress: energyOfOne,
      rating: (rig) => rig.own('load').optional('E'),
      levers: ['load.m', 'load.n', 'store.V0'],
      note: 'Heat of one shot; it has to cool before the next.',
    },
  ],
  steps: () => [
    {
      id: 'dummy-clear',
      phase: 'prepare',
      text: 'Dummy resistor fixed, leads bolted, nothing flammable near it, a shield around it: an overloaded one bursts.',
      hold: 'The shield is in place.',
    },
  ],
});
