import { units, type UnitId } from './unit.ts';

/** Why a text is not a quantity: data, worded in one place below. */
export type QuantityIssue =
  | { readonly code: 'empty'; readonly unit: UnitId }
  | { readonly code: 'not_a_number'; readonly unit: UnitId; readonly text: string }
  | { readonly code: 'thousands_or_decimal'; readonly unit: UnitId; readonly text: string }
  | { readonly code: 'point_or_thousands'; readonly unit: UnitId; readonly text: string }
  | { readonly code: 'unknown_unit'; readonly unit: UnitId; readonly found: string }
  | { readonly code: 'wrong_unit'; readonly unit: UnitId; readonly found: string; readonly measures: string }
  | { readonly code: 'doubtful'; readonly unit: UnitId; readonly found: string; readonly hint: string }
  | { readonly code: 'bad_tolerance'; readonly unit: UnitId; readonly text: string }
  | { readonly code: 'too_large'; readonly unit: UnitId; readonly text: string }
  | { readonly code: 'zero_denominator'; readonly unit: UnitId; readonly text: string }
  | { readonly code: 'gauge_out_of_range'; readonly unit: UnitId; readonly text: string };

/** How a field's unit is named in a message: "Ω", or "a plain number" where there is none. */
export const unitName = (unit: UnitId): string => (unit === '1' ? 'a plain number' : units[unit].print.symbol);

const example: { readonly [K in UnitId]: string } = {
  '1': '0.9 or 90 %',
  A: '2.5 kA',
  'A/s': '50 A/µs',
  'A²s': '61e3 A²s',
  C: '12 mC',
  F: '4u7 or 100 µF ±20 %',
  H: '1.2 µH',
  Hz: '50 Hz',
  J: '400 J',
  K: '20 °C',
  N: '40 N',
  Pa: '18 psi',
  T: '1.4 T',
  'm/s': '12 m/s',
  V: '1.2 kV',
  'V/m': '20 kV/mm',
  'V/s': '500 V/µs',
  W: '10 W',
  s: '250 ms',
  m: '40 cm, 3/8 in or 16 AWG',
  'm²': '2.5 mm²',
  'm³': '40 m³',
  kg: '20 g',
  Ω: '4k7 or 2.2 MΩ',
  'Ω·m': '28 nΩ·m',
  'K⁻¹': '0.0039 K⁻¹',
  'm⁻¹': '12 m⁻¹',
  'A²s/m⁴': '8e16 A²s/m⁴',
  'J/kg': '5e6 J/kg',
  'J/(kg·K)': '385 J/(kg·K)',
  'J/(m³·K)': '3.4e6 J/(m³·K)',
  'W/(m²·K)': '10 W/(m²·K)',
  'kg/m³': '8960 kg/m³',
  'g/m³': '11 g/m³',
};

const shown = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text);

/** The sentence a person reads. It never repeats more than 40 characters of what was typed. */
export function wordQuantityIssue(issue: QuantityIssue): string {
  const wants = `write ${units[issue.unit].measures}, such as ${example[issue.unit]}`;
  switch (issue.code) {
    case 'empty':
      return `is empty: ${wants}`;
    case 'not_a_number':
      return `"${shown(issue.text)}" is not a quantity: ${wants}`;
    case 'thousands_or_decimal':
      return `"${shown(issue.text)}" is doubtful: the comma could mark thousands or decimals; write it with a point or without the comma`;
    case 'point_or_thousands':
      return `"${shown(issue.text)}" is doubtful: the point could mark thousands or decimals; write it with a comma or without the point`;
    case 'unknown_unit':
      return `"${shown(issue.found)}" is not a unit known here: ${wants}`;
    case 'wrong_unit':
      return `"${shown(issue.found)}" is the unit of ${issue.measures}, and this takes ${units[issue.unit].measures} in ${unitName(issue.unit)}`;
    case 'doubtful':
      return issue.found === '' ? `lacks its unit: ${issue.hint}` : `"${shown(issue.found)}" is doubtful here: ${issue.hint}`;
    case 'bad_tolerance':
      return `"${shown(issue.text)}" is not a tolerance: write ±20 % or -10/+50 %, the minus side below 100 %`;
    case 'too_large':
      return `"${shown(issue.text)}" is beyond any number this program can hold`;
    case 'zero_denominator':
      return `"${shown(issue.text)}" divides by zero`;
    case 'gauge_out_of_range':
      return `"${shown(issue.text)}" is not a wire gauge: AWG runs from 0000 (4/0) through 0 to 50`;
    default:
      return issue satisfies never;
  }
}
