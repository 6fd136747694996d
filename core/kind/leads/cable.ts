import { above, fields, quantity, rating, whole, within } from '../../field/index.ts';
import {
  leadsFormulas,
  pulseLineFormulas,
  ruled,
  storeFormulas,
  switchFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own, RigContext } from '../../block/context.ts';
import { defineBlock, type CircuitPart } from '../../block/define.ts';
import { ifKnown } from '../../block/known.ts';
import { cableGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'leads/cable': typeof cableFields;
  }
  interface FigureIds {
    'leads-inductance': true;
    'cable-delay': true;
    'cable-over-rise': true;
    'cable-capacitance': true;
  }
}

const cableFields = fields({
  Z0: quantity('Wave impedance of a cable', 'Ω', above(0, 1e5), '50 Ω'),
  l: quantity('Length', 'm', above(0, 1e5), '5 m', { tolerance: true }),
  v: quantity('Velocity over that of light', '1', within(0.01, 1), '66 %', { help: 'Solid polyethylene 66 %, foam 80 %.' }),
  np: quantity('Cables side by side', '1', whole(1, 1000), '1'),
  R: quantity('Resistance of a cable, both conductors', 'Ω', within(0, 1e6), '60 mΩ', { tolerance: true }),
  Vr: rating('Voltage rating', 'V', 1e7, { help: 'For pulses, if its maker says so; that for radio signals is another.' }),
  I: rating('Peak current of a cable', 'A', 1e8, { symbol: 'Ip', help: 'Joints and screen give way first.' }),
});

type Cable = Own<typeof cableFields>;

const even = ruled('excess of one cable', 0, '1', 'all of one length: a shorter one takes more');
const one = ruled('one length', 1, '1', 'cables stand side by side');
const delay = (own: Cable): Worked => work(pulseLineFormulas.lineDelay, { l: own.quantity('l'), v: own.quantity('v') });
const asOne = (own: Cable) => ({ ns: one, np: own.quantity('np') });
const inductance = (own: Cable): Worked =>
  work(
    storeFormulas.bankInductance,
    { L: work(pulseLineFormulas.lineInductance, { Z: own.quantity('Z0'), td: delay(own) }), ...asOne(own) },
    'inductance of the cables',
  );
const capacitance = (own: Cable): Worked =>
  work(
    storeFormulas.seriesParallelCapacitance,
    { C: work(pulseLineFormulas.lineCapacitance, { Z: own.quantity('Z0'), td: delay(own) }), ...asOne(own) },
    'capacitance of the cables',
  );
const resistance = (own: Cable): Worked =>
  work(storeFormulas.bankResistance, { R: own.quantity('R'), ...asOne(own) }, 'resistance of the cables');

/** Delay over rise below which a cable is inductance and capacitance alone. Common practice, no source. */
const lumpedBelow = 0.1;

const overRise = (rig: RigContext): Worked =>
  work(leadsFormulas.lineLumped, { td: delay(rig.own('leads')), tr: rig.figure('time-to-peak') });
const isLine = (rig: RigContext): boolean => (ifKnown(() => overRise(rig).value) ?? 0) >= lumpedBelow;

export const cable = defineBlock({
  slot: 'leads',
  kind: 'cable',
  title: 'Coaxial cable',
  glyph: () => cableGlyph,
  fields: cableFields,
  key: (own) => ({
    text: printQuantity(own.quantity('l').value, 'm'),
    detail: printQuantity(own.quantity('Z0').value / own.quantity('np').value, 'Ω'),
  }),
  offers: (own) => ({ loopInductance: inductance(own), loopResistance: resistance(own) }),
  circuit: (own, rig, { plus, minus, tag }): CircuitPart[] => {
    const [R, np] = [Math.max(resistance(own).value, 1e-6), own.quantity('np').value];
    if (isLine(rig)) {
      const line = { kind: 'line-end', Z0: own.quantity('Z0').value / np, delay: delay(own).value } as const;
      const [near, far] = [`${tag}i`, `${tag}o`];
      return [
        { element: { kind: 'resistor', name: `R${tag}a`, nodes: [plus, near], R: R / 2 }, says: 'half of the loss of the cable' },
        { element: { ...line, name: `T${tag}`, nodes: [near, '0'], far: `T${tag}_far` }, says: 'cable, a line with its delay' },
        { element: { ...line, name: `T${tag}_far`, nodes: [far, '0'], far: `T${tag}` }, says: 'the far end of the cable' },
        {
          element: { kind: 'resistor', name: `R${tag}b`, nodes: [far, minus], R: R / 2 },
          says: 'the other half of the loss of the cable',
        },
      ];
    }
    return [
      {
        element: { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L: inductance(own).value, R },
        says: 'cable, shorter than a tenth of the rise: its inductance',
      },
      {
        element: { kind: 'capacitor', name: `C${tag}`, nodes: [minus, '0'], C: capacitance(own).value },
        says: 'cable, shorter than a tenth of the rise: its capacitance',
        leftOut: { what: 'the capacitance of the cable', instead: 'open' },
      },
    ];
  },
  leavesOut: (own) =>
    `the delay of the cable, ${printQuantity(delay(own).value, 's')} one way, and its reflections: it takes its inductance`,
  figures: [
    { id: 'leads-inductance', title: 'Inductance of the cable', slot: 'leads', compute: (rig) => inductance(rig.own('leads')) },
    {
      id: 'cable-capacitance',
      title: 'Capacitance of the cable',
      slot: 'leads',
      compute: (rig) => capacitance(rig.own('leads')),
    },
    { id: 'cable-delay', title: 'Delay of the cable, one way', slot: 'leads', compute: (rig) => delay(rig.own('leads')) },
    { id: 'cable-over-rise', title: 'Delay of the cable over the rise', slot: 'leads', compute: overRise },
  ],
  limits: [
    {
      id: 'cable-voltage',
      title: 'Cable voltage',
      slot: 'leads',
      stress: (rig) => rig.figure('discharge-voltage'),
      rating: (rig) => rig.own('leads').optional('Vr'),
      levers: ['store.V0'],
      protects: true,
      note: 'An open far end doubles it for as long as the wave takes there and back.',
    },
    {
      id: 'cable-current',
      title: 'Cable, peak current of one',
      slot: 'leads',
      stress: (rig) =>
        work(
          switchFormulas.parallelShare,
          { I: rig.figure('peak-current'), n: rig.own('leads').quantity('np'), s: even },
          'current in one cable',
        ),
      rating: (rig) => rig.own('leads').optional('I'),
      levers: ['leads.np', 'store.V0'],
      onlyIfKnown: true,
    },
  ],
  problems: (own, rig) => {
    const share = ifKnown(() => overRise(rig).value);
    if (share === null || share < lumpedBelow) return [];
    const text = `Its delay of ${printQuantity(delay(own).value, 's')} is ${printPercent(share, 2)} of the time to peak: what is calculated without the solver takes it for an inductance; the solver has it as a line, with its reflections.`;
    return [{ severity: 'warning', slot: 'leads', field: 'l', text }];
  },
});
