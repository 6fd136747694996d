import { onlyWith, above, choice, fields, quantity, whole, within } from '../../field/index.ts';
import { dielectricField } from './dielectric-field.ts';
import { insulationField } from './insulation-field.ts';
import { lifeFields } from './life.ts';
import { protectionFields } from './bank-protection.ts';

export const capacitorBankFields = fields(
  {
    C: quantity('Capacitance, each', 'F', above(0, 1e3), '1000 µF ±20 %', {
      tolerance: true,
      help: 'Measured if you can: labels are often far off.',
    }),
    ns: quantity('In series (per string)', '1', whole(1, 1000), '1'),
    np: quantity('Strings in parallel', '1', whole(1, 1000), '1'),
    share: quantity('Worst voltage share', '1', within(1e-3, 1), null, {
      symbol: 's',
      help: 'Share of the bank voltage on the group that sees most, from the composer. Empty: worked out from the tolerance.',
    }),
    V0: quantity('Charged to', 'V', above(0, 1e6), '48 V', {
      tolerance: true,
      help: 'Voltage across the whole bank. Its tolerance is how well one stops the charge.',
    }),
    Vr: quantity('DC rating, each', 'V', above(0, 1e6), null, { help: 'DC voltage one capacitor is rated for.' }),
    polarity: choice(
      'Polarity',
      { 'non-polar': 'non-polar', polar: 'polar' },
      { help: 'Electrolytics are polar; film, paper, ceramic and mica are not.' },
    ),
    dielectric: dielectricField,
    reversal: onlyWith(
      'polarity',
      ['non-polar'],
      quantity('Rated reversal', '1', within(0.01, 1), null, {
        symbol: 'kr',
        help: 'Voltage reversal as per cent of the charge voltage, from the data sheet. Polar capacitors are held to a reverse voltage instead.',
      }),
    ),
    Vrev: onlyWith(
      'polarity',
      ['polar'],
      quantity('Reverse voltage of a polar capacitor', 'V', above(0, 1e3), null, {
        help: 'Reverse voltage that one withstands for the length of the pulse, from its data sheet or maker. Empty: judged by how long it is reversed, from 1 V continuous to 2 % of its rating in a pulse of up to 10 ms.',
      }),
    ),
    ESR: quantity('ESR, each', 'Ω', within(0, 1e6), '20 mΩ ±30 %', { tolerance: true }),
    ESL: quantity('ESL, each', 'H', within(0, 1), '20 nH', { tolerance: true }),
    Ri: insulationField('Insulation, each'),
    ties: choice(
      'Strings',
      { strings: 'tied at both ends only', levels: 'tied at every level' },
      { help: 'Tied at every level, the neighbours of a capacitor that shorts discharge into it.' },
    ),
    ...protectionFields,
    ...lifeFields,
  },
  {
    geometry: ['share', 'polarity', 'dielectric', 'ESR', 'ESL', 'Ri', 'ties'],
    life: ['Nr', 'nl'],
  },
);
