import { fields, quantity, rating, within } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { ifKnown } from '../../block/known.ts';
import { crowbarFigures, crowbarLimits, crowbarRatings, leastResistance } from './crowbar.ts';
import { crowbarGapGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'crowbar/gap': typeof gapFields;
  }
}

const gapFields = fields({
  tc: quantity('Fired after the shot begins', 's', within(0, 1e3), null, {
    help: 'Empty: as the voltage of the load comes to zero, which is at about the peak of the current.',
  }),
  Va: quantity('Arc voltage', 'V', within(0, 1e4), '50 V', { help: 'Common practice, no source: 20 to 100 V in air.' }),
  R: quantity('Resistance of its path', 'Ω', within(0, 1e6), '5 mΩ', { tolerance: true }),
  Vh: rating('Hold-off voltage', 'V', 1e7, {
    help: 'Below it the gap does not fire by itself: it sees all of the voltage at the first instant.',
  }),
  ...crowbarRatings,
});

export const gapCrowbar = defineBlock({
  slot: 'crowbar',
  kind: 'gap',
  title: 'Triggered gap across the load',
  glyph: () => crowbarGapGlyph,
  fields: gapFields,
  key: (own) => {
    const tc = own.optional('tc');
    return { text: tc ? printQuantity(tc.value, 's') : 'at zero', detail: 'gap' };
  },
  offers: (own) => ({ freewheel: { Vf: own.quantity('Va'), R: own.quantity('R') } }),
  circuit: (own, rig, { plus, minus, tag }) => {
    const closeAt = own.optional('tc')?.value ?? ifKnown(() => rig.figure('time-to-peak').value) ?? 0;
    const inside = `${plus}a`;
    return [
      {
        element: {
          kind: 'switch',
          name: `S${tag}`,
          nodes: [plus, inside],
          Ron: leastResistance,
          control: { by: 'time', closeAt },
        },
        says: 'crowbar gap, fired by its trigger',
      },
      {
        element: {
          kind: 'thyristor',
          name: `X${tag}`,
          nodes: [inside, minus],
          Vf: own.quantity('Va').value,
          Ron: Math.max(own.quantity('R').value, leastResistance),
          gate: { from: 0, until: 1e9 },
          latching: 0,
          holding: 0,
          turnOff: 0,
          bothWays: true,
        },
        says: 'arc of the crowbar gap',
      },
    ];
  },
  leavesOut: () =>
    'the moment at which the crowbar fires: it takes the zero of the voltage; and its arc voltage while it carries the current, which ends it sooner',
  faults: (_own, _rig, { tag }) => [
    {
      id: 'silent',
      title: 'The crowbar gap does not fire',
      moment: 'shot',
      says: 'Nothing clamps the load: the store rings, and is reversed as it would be without it.',
      circuit: (parts) => parts.filter(({ element }) => element.name !== `S${tag}` && element.name !== `X${tag}`),
    },
    {
      id: 'early',
      title: 'The crowbar gap fires with the switch',
      moment: 'shot',
      says: 'The shot goes through it and not through the load.',
      circuit: (parts) =>
        parts.map((part) =>
          part.element.kind === 'switch' && part.element.name === `S${tag}`
            ? { ...part, element: { ...part.element, control: { by: 'time', closeAt: 0 } } }
            : part,
        ),
      into: [`X${tag}`],
      withstands: null,
    },
  ],
  figures: crowbarFigures,
  limits: [
    ...crowbarLimits,
    {
      id: 'crowbar-hold-off',
      title: 'Crowbar gap, hold-off',
      slot: 'crowbar',
      stress: (rig) => rig.figure('discharge-voltage'),
      rating: (rig) => rig.own('crowbar').optional('Vh'),
      levers: ['store.V0'],
      protects: true,
      note: 'What it does not hold it shorts at the first instant of the shot.',
    },
  ],
  problems: (own, rig) => {
    const [tc, peak] = [own.optional('tc')?.value, ifKnown(() => rig.figure('time-to-peak').value)];
    if (tc === undefined || peak === null || Math.abs(tc / peak - 1) < 0.2) return [];
    const text =
      tc < peak
        ? `It fires ${printQuantity(peak - tc, 's')} before the peak of the current: it shorts a store that is still charged, through nothing but its own path.`
        : `It fires ${printQuantity(tc - peak, 's')} after the peak of the current: the store is reversed by then.`;
    return [{ severity: 'warning', slot: 'crowbar', field: 'tc', text }];
  },
  steps: () => [
    {
      id: 'crowbar-check',
      phase: 'prepare',
      seconds: 60,
      text: 'Trigger of the crowbar gap set to its delay and tried with the strap on; its electrodes clean, its spacing as noted.',
      hold: 'It fires at the delay that is set.',
    },
  ],
});
