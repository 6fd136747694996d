import { above, fields, quantity, within } from '../../field/index.ts';
import { dischargeFormulas, sourceFormulas, storeFormulas, transferFormulas, work, type Worked } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import { fallingArc } from '../../block/arc.ts';
import { defineBlock } from '../../block/define.ts';
import { ifKnown } from '../../block/known.ts';
import { transferFigures } from './capacitive.ts';
import { gasChannelGlyph } from './glyphs.ts';
import {
  peakingBleed,
  peakingFields,
  peakingHeld,
  peakingOffers,
  peakingParts,
  peakingProblems,
  peakingVoltage,
} from './peaking.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/gas-channel': typeof gasChannelFields;
  }
  interface FigureIds {
    'channel-energy': true;
    'channel-current': true;
    'channel-rise': true;
    'channel-delay': true;
    'channel-power': true;
  }
}

const gasChannelFields = fields(
  {
    ...peakingFields,
    Vb: quantity('Breakdown of the channel', 'V', above(0, 1e7), '10 kV ±15 %', {
      symbol: 'Vb',
      tolerance: true,
      help: 'Measured, at the pressure and the gas it stands in: with a fast rise it is higher than with a slow one.',
    }),
    dc: quantity('Electrode distance of the channel', 'm', above(0, 1), '15 mm', { symbol: 'dc' }),
    Rc: quantity('Resistance of the channel, conducting', 'Ω', within(0, 1e4), '300 mΩ -60/+200 %', {
      symbol: 'Rc',
      tolerance: true,
    }),
    Lc: quantity('Inductance from capacitor to channel', 'H', above(0, 1e-3), '10 nH ±30 %', {
      symbol: 'Lc',
      tolerance: true,
      help: 'Plates or caps right at the electrodes: some nanohenries. It sets how fast the energy gets into the gas.',
    }),
  },
  { geometry: ['dc'] },
);

type ChannelOwn = Own<typeof gasChannelFields>;

const own = (rig: RigContext): ChannelOwn => rig.own('load');

/** The small loop that the channel closes: peaking capacitor, its lead, and the gas. */
const inner = (block: ChannelOwn) => ({
  V: block.quantity('Vb'),
  R: block.quantity('Rc'),
  L: block.quantity('Lc'),
  C: block.quantity('C'),
});

const energy = (block: ChannelOwn): Worked =>
  work(
    storeFormulas.storedEnergy,
    { C: block.quantity('C'), V: block.quantity('Vb') },
    'energy of the peaking capacitor as the channel strikes',
  );

function problems(block: ChannelOwn, rig: RigContext): Problem[] {
  const [Vb, peak] = [block.quantity('Vb').value, ifKnown(() => rig.figure('load-peak-voltage').value)];
  const found = peakingProblems(rig);
  if (peak === null) return found;
  const bars = `it breaks down at ${printQuantity(Vb, 'V')}, and the peaking capacitor comes to ${printQuantity(peak, 'V')}`;
  if (peak < Vb)
    found.push({
      severity: 'error',
      slot: 'load',
      field: 'Vb',
      text: `The channel does not strike: ${bars}, ${printPercent(peak / Vb, 2)} of it. Lower its pressure, charge higher, or take a smaller peaking capacitor. Until then the capacitor keeps its charge.`,
    });
  else if (peak < 1.15 * Vb)
    found.push({ severity: 'warning', slot: 'load', field: 'Vb', text: `The channel may miss shots: ${bars}, hardly more.` });
  return found;
}

/** A peaking capacitor at the electrodes of a gas: charged through the switch, emptied into the gas as it breaks down. */
export const gasChannel = defineBlock({
  slot: 'load',
  kind: 'gas-channel',
  title: 'Peaked gas channel',
  makes: 'Charge-transfer circuit',
  glyph: () => gasChannelGlyph,
  fields: gasChannelFields,
  takes: { part: 'capacitor', fields: { C: 'C', Vr: 'Vdc' } },
  key: (block) => ({
    text: printQuantity(block.quantity('Vb').value, 'V'),
    detail: printQuantity(block.quantity('C').value, 'F'),
  }),
  offers: peakingOffers,
  circuit: (block, _rig, at) => [
    ...peakingParts(block, at),
    {
      element: {
        kind: 'gap',
        name: `S${at.tag}`,
        nodes: [`${at.tag}c`, at.minus],
        breakdown: block.quantity('Vb').value,
        arc: fallingArc(block.quantity('dc').value, block.quantity('Rc').value),
        L: block.quantity('Lc').value,
      },
      says: 'gas channel',
      leftOut: { what: 'that the channel breaks down', instead: 'open' },
    },
  ],
  leavesOut: () => 'that the channel breaks down and empties the peaking capacitor',
  figures: [
    ...transferFigures,
    peakingBleed,
    {
      id: 'channel-energy',
      title: 'Energy into the channel, from its capacitor',
      slot: 'load',
      leads: true,
      compute: (rig) => energy(own(rig)),
    },
    {
      id: 'channel-current',
      title: 'Peak current in the channel',
      slot: 'load',
      compute: (rig) => work(dischargeFormulas.rlcPeakCurrent, inner(own(rig)), 'peak current in the channel'),
    },
    {
      id: 'channel-rise',
      title: 'Time to that peak',
      slot: 'load',
      compute: (rig) => {
        const { R, L, C } = inner(own(rig));
        return work(dischargeFormulas.rlcTimeToPeak, { R, L, C }, 'rise of the current in the channel');
      },
    },
    {
      id: 'channel-delay',
      title: 'From the switch to the channel striking',
      slot: 'load',
      mayBeMissing: true,
      compute: (rig) =>
        work(transferFormulas.transferTimeTo, {
          V: rig.figure('discharge-voltage'),
          C1: rig.figure('discharge-capacitance'),
          C2: own(rig).quantity('C'),
          L: rig.figure('loop-inductance'),
          V2: own(rig).quantity('Vb'),
        }),
    },
    {
      id: 'channel-power',
      title: 'Mean power into the gas, as fast as it charges',
      slot: 'load',
      mayBeMissing: true,
      compute: (rig) =>
        work(sourceFormulas.meanPower, { E: energy(own(rig)), t: rig.figure('charge-time') }, 'mean power into the gas'),
    },
  ],
  limits: [peakingVoltage],
  held: (_block, rig) => peakingHeld(rig),
  steps: () => [
    {
      id: 'channel-gas',
      phase: 'prepare',
      text: 'Gas flowing or filled, pressure read and written down: the breakdown of the channel goes with it. Room aired, exhaust led outside.',
      hold: 'The pressure is the one this sheet was made for.',
    },
    {
      id: 'channel-light',
      phase: 'prepare',
      text: 'If it lases: beam into a stop, eye protection for its wavelength on, nobody in line with it, ultraviolet shut in.',
      hold: 'The stop is in the beam.',
    },
  ],
  problems,
});
