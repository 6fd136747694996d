import { choice, fields, onlyWith, quantity, within } from '../../field/index.ts';
import { airFormulas, gapFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import { printFixed, printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own, Problem } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { nothing } from '../../block/glyph.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'air/day': typeof dayFields;
  }
}

const dayFields = fields({
  by: choice('Pressure known by', { barometer: 'barometer', height: 'height' }),
  pa: onlyWith(
    'by',
    ['barometer'],
    quantity('Pressure of the air, absolute', 'Pa', within(58e3, 110e3), '101.3 kPa', {
      help: 'As a barometer at the place reads, not as the weather report has it: that is reduced to sea level.',
    }),
  ),
  ha: onlyWith('by', ['height'], quantity('Height above the sea', 'm', within(-500, 4500), '0 m')),
  Ta: quantity('Temperature of the air', 'K', within(243.15, 323.15), '20 °C'),
  rh: quantity('Relative humidity', '1', within(0.05, 1), '49 %', {
    help: 'As a hygrometer reads. At 20 °C and 49 % the tables of breakdown hold: 8.5 g/m³.',
  }),
});

const pressureOf = (own: Own<typeof dayFields>): Worked =>
  own.is('by', 'height') ? work(airFormulas.pressureAtHeight, { h: own.quantity('ha') }) : own.quantity('pa');

/** g/m³ between which the factor of breakdown for humidity holds. */
const [dry, wet] = [1, 25];

/** Water in the air, as far as the factor for it goes. */
function humidityOf(own: Own<typeof dayFields>): Worked {
  const h = work(airFormulas.absoluteHumidity, { rh: own.quantity('rh'), T: own.quantity('Ta') });
  const held = Math.min(Math.max(h.value, dry), wet);
  return held === h.value
    ? h
    : ruled('water in the air, as far as its factor goes', held, 'g/m³', `measured at ${dry} to ${wet}`);
}

/** Beyond this water condenses on insulators, and every table of breakdown ends. Common practice, no source. */
const damp = 0.8;

function problems(own: Own<typeof dayFields>): Problem[] {
  const { value } = own.quantity('rh');
  if (value <= damp) return [];
  const text = `At ${printPercent(value, 2)} relative humidity surfaces are damp: what stands in the air holds as calculated, what is held along a surface may flash over at half of it. Dry and warm the insulators, and measure leakage with an insulation tester before the charge.`;
  return [{ severity: 'warning', slot: 'air', field: 'rh', text }];
}

/** Air as it is on the day: gaps that are open to it, sparks and corona follow. */
export const airOfTheDay = defineBlock({
  slot: 'air',
  kind: 'day',
  title: 'Air of the day',
  glyph: () => nothing,
  fields: dayFields,
  key: (own) => ({
    text: printQuantity(pressureOf(own).value, 'Pa'),
    detail: `${printFixed(own.quantity('Ta').value - 273.15, 0)} °C`,
  }),
  offers: (own) => {
    const pressure = pressureOf(own);
    const temperature = own.quantity('Ta');
    return {
      air: {
        pressure,
        temperature,
        humidity: humidityOf(own),
        density: work(gapFormulas.airDensityFactor, { p: pressure, T: temperature }, 'relative density of the air'),
      },
    };
  },
  problems,
});
