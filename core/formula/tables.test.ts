import { describe, expect, test } from 'vitest';
import { gasById } from '../material/index.ts';
import { holds, witness } from '../test/evidence.ts';
import { table } from '../test/fixtures.ts';
import { evaluateFormula, formulaById } from './index.ts';
import { gasBreakdown } from '../model/index.ts';

/** A row of a table: numbers by the heading of their column. */
type Row = Readonly<Record<string, number>> & { readonly text: Readonly<Record<string, string>> };

/** One formula held against one column of a table. */
interface Check {
  readonly table: string;
  /** Rows that are meant: one cell and how it begins. */
  readonly only?: readonly [string, string];
  readonly formula: string;
  readonly at: (row: Row) => Readonly<Record<string, number>>;
  readonly gives: (row: Row) => number;
  /** How close; without it what the table says of itself. */
  readonly within?: number;
}

const rowOf = (cells: Record<string, string>): Row =>
  ({
    ...Object.fromEntries(Object.entries(cells).map(([key, text]) => [key, text === '' ? NaN : Number(text)])),
    text: cells,
  }) as unknown as Row;
const by =
  (column: string, times = 1) =>
  (row: Row) =>
    (row[column] ?? NaN) * times;
/** Inputs of a formula out of columns: `pick({ R: 'R_ohm' })`. */
const pick =
  (columns: Readonly<Record<string, string>>, fixed: Readonly<Record<string, number>> = {}) =>
  (row: Row) => ({
    ...Object.fromEntries(Object.entries(columns).map(([symbol, column]) => [symbol, row[column] ?? NaN])),
    ...fixed,
  });

const [cm, mm, kV] = [0.01, 1e-3, 1e3];
const air = { p: 101_300, T: 293.15 };
const rlc = { R: 'R_ohm', L: 'L_H', C: 'C_F' };
const impulse = pick({ C1: 'C1_F', C2: 'C2_F', Rf: 'R_front_ohm', Rt: 'R_tail_ohm' });
const coupled = pick({ L1: 'L1_H', C1: 'C1_F', R1: 'R1_ohm', L2: 'L2_H', C2: 'C2_F', R2: 'R2_ohm', k: 'k', V: 'V_V' });
const multiplier = { n: 'stages', I: 'load_A', f: 'frequency_Hz', C: 'capacitance_F' };
const shell = pick({ x: 'omega_tau', a: 'alpha_over_omega' });

const checks: readonly Check[] = [
  { table: 'rlc-discharge', formula: 'rlc-damping-ratio', at: pick(rlc), gives: by('damping_ratio') },
  { table: 'rlc-discharge', formula: 'rlc-peak-current', at: pick({ ...rlc, V: 'V0_V' }), gives: by('peak_current_A') },
  { table: 'rlc-discharge', formula: 'rlc-time-to-peak', at: pick(rlc), gives: by('time_to_peak_s') },
  { table: 'rlc-discharge', formula: 'rlc-voltage-reversal', at: pick(rlc), gives: by('voltage_reversal') },
  { table: 'rlc-discharge', formula: 'stored-energy', at: pick({ C: 'C_F', V: 'V0_V' }), gives: by('stored_energy_J') },
  { table: 'rlc-discharge', formula: 'action-integral', at: pick({ C: 'C_F', V: 'V0_V', R: 'R_ohm' }), gives: by('action_A2s') },
  ...(
    [
      [
        'constant voltage through R',
        'rc-charge-time',
        pick({ R: 'R_or_first', C: 'C_F', Vs: 'Vs_V', V: 'V_V' }),
        by('time_s'),
        1e-5,
      ],
      ['constant current', 'constant-current-charge-time', pick({ I: 'R_or_first', C: 'C_F', V: 'V_V' }), by('time_s'), 1e-5],
      // The general one, its limit far away and its leak nothing, is the same.
      [
        'constant current',
        'current-limited-charge-time',
        pick({ I: 'R_or_first', C: 'C_F', V: 'V_V' }, { R: 1e-3, Vs: 1e6, Rb: 1e14 }),
        by('time_s'),
        1e-5,
      ],
      ['constant power', 'constant-power-charge-time', pick({ P: 'R_or_first', C: 'C_F', V: 'V_V' }), by('time_s'), 1e-5],
      [
        'constant power',
        'power-limited-charge-time',
        (row) => ({
          P: by('R_or_first')(row),
          C: by('C_F')(row),
          V: by('V_V')(row),
          I: 1e6,
          R: 0,
          Vs: 2 * by('V_V')(row),
          Rb: 1e14,
        }),
        by('time_s'),
        1e-5,
      ],
      ['lossless choke', 'resonant-charge-time', pick({ L: 'R_or_first', C: 'C_F' }), by('time_s'), 1e-5],
      ['lossless choke', 'resonant-charge-voltage', pick({ L: 'R_or_first', C: 'C_F', Vs: 'Vs_V' }, { R: 0 }), by('V_V'), 1e-9],
      [
        'lossless choke',
        'choke-charge-time',
        pick({ L: 'R_or_first', C: 'C_F', Vs: 'Vs_V', V: 'V_V' }, { R: 0 }),
        by('time_s'),
        1e-5,
      ],
    ] as const satisfies readonly (readonly [string, string, Check['at'], Check['gives'], number])[]
  ).map(([way, formula, at, gives, within]): Check => ({ table: 'charging', only: ['way', way], formula, at, gives, within })),
  {
    table: 'capacitance',
    only: ['shape', 'parallel'],
    formula: 'plate-capacitance',
    at: pick({ er: 'p1', A: 'p2', t: 'p3' }),
    gives: by('capacitance_F'),
  },
  {
    table: 'capacitance',
    only: ['shape', 'coaxial'],
    formula: 'cylinder-capacitance',
    at: pick({ er: 'p1', h: 'p2', d: 'p3', t: 'p4' }),
    gives: by('capacitance_F'),
  },
  {
    table: 'capacitance',
    only: ['shape', 'rolled'],
    formula: 'rolled-capacitance',
    at: pick({ er: 'p1', w: 'p2', l: 'p3', t: 'p4' }),
    gives: by('capacitance_F'),
  },
  {
    table: 'bleed',
    formula: 'rc-bleed-time',
    at: pick({ R: 'R_ohm', C: 'C_F', V0: 'V0_V', V: 'V_V' }),
    gives: by('time_s'),
    within: 1e-5,
  },
  { table: 'bleed', formula: 'bleed-peak-power', at: pick({ R: 'R_ohm', V: 'V0_V' }), gives: by('peak_power_W'), within: 1e-5 },
  {
    table: 'wire-and-loop-inductance',
    only: ['shape', 'straight'],
    formula: 'straight-wire-inductance',
    at: pick({ l: 'length_or_loop_diameter_m', d: 'wire_diameter_m' }),
    gives: by('inductance_H'),
  },
  {
    table: 'wire-and-loop-inductance',
    only: ['shape', 'circular'],
    formula: 'loop-inductance',
    at: pick({ D: 'length_or_loop_diameter_m', d: 'wire_diameter_m' }),
    gives: by('inductance_H'),
  },
  // Nagaoka's coefficient is the inductance over that of an infinitely long sheet.
  {
    table: 'nagaoka',
    formula: 'solenoid-inductance',
    at: (row) => ({ N: 1, D: by('diameter_over_length')(row), l: 1 }),
    gives: (row) => (by('K')(row) * 4e-7 * Math.PI * Math.PI * by('diameter_over_length')(row) ** 2) / 4,
  },
  {
    table: 'solenoid-inductance',
    formula: 'solenoid-inductance',
    at: pick({ N: 'turns', D: 'diameter_m', l: 'length_m' }),
    gives: by('inductance_H'),
  },
  {
    table: 'solenoid-field',
    formula: 'solenoid-field',
    at: (row) => ({
      ...pick({ N: 'turns', I: 'current_A', l: 'length_m', z: 'axial_position_m' })(row),
      D1: by('inner_radius_m', 2)(row),
      D2: by('outer_radius_m', 2)(row),
    }),
    gives: by('B_T'),
  },
  {
    table: 'multilayer-inductance',
    formula: 'multilayer-inductance',
    at: (row) => ({
      N: 260,
      D1: 0.043 * (1 - by('depth_over_D')(row)),
      D2: 0.043 * (1 + by('depth_over_D')(row)),
      l: by('length_over_D', 0.043)(row),
    }),
    gives: by('L_H_N260_D0.043m'),
    within: 1e-5,
  },
  {
    table: 'medhurst',
    formula: 'coil-self-capacitance',
    at: (row) => ({ D: 0.1, l: by('length_over_diameter', 0.1)(row) }),
    gives: by('H_pF_per_cm_of_diameter', 1e-11),
  },
  { table: 'awg', formula: 'awg-diameter', at: pick({ n: 'awg' }), gives: by('diameter_mm', mm) },
  {
    table: 'awg',
    formula: 'wire-resistance',
    at: (row) => ({ l: 1, d: by('diameter_mm', mm)(row) }),
    gives: by('resistance_mohm_per_m', mm),
  },
  {
    table: 'wire-burst-action',
    formula: 'wire-fusing-action',
    at: (row) => ({ d: by('diameter_mm', mm)(row) }),
    gives: by('action_to_melt_A2s'),
  },
  {
    table: 'wire-burst-action',
    formula: 'wire-burst-action',
    at: (row) => ({ d: by('diameter_mm', mm)(row) }),
    gives: by('action_to_burst_A2s'),
  },
  {
    table: 'skin-proximity',
    only: ['kind', 'round wire'],
    formula: 'skin-resistance-ratio',
    at: (row) => ({ d: by('first', 2e-3)(row), delta: 1e-3 }),
    gives: by('ratio'),
    within: 1e-5,
  },
  {
    table: 'skin-proximity',
    only: ['kind', 'Dowell'],
    formula: 'layer-resistance-ratio',
    // A square conductor that fills its pitch is a foil; of wire the thickness that counts is corrected for how far the layer is filled.
    at: (row) => {
      const d = mm;
      const side = (Math.sqrt(Math.PI) / 2) * d;
      return { d, delta: (side / by('first')(row)) * Math.sqrt(side / d), m: by('second')(row), p: d };
    },
    gives: by('ratio'),
    within: 1e-5,
  },
  {
    table: 'skin-proximity',
    only: ['kind', 'single-layer'],
    formula: 'single-layer-resistance-ratio',
    at: (row) => ({ d: mm, delta: mm / 400, p: mm / by('first')(row), l: by('second', 0.1)(row), D: 0.1 }),
    // The table is against the same wire stretched out, far above where its skin begins.
    gives: (row) =>
      by('ratio')(row) * evaluateFormula(formulaById.get('skin-resistance-ratio') as never, { d: mm, delta: mm / 400 }),
    within: 0.012,
  },
  { table: 'thin-shell', formula: 'shell-field-share', at: shell, gives: by('peak_in_over_peak_out'), within: 2e-5 },
  { table: 'thin-shell', formula: 'shell-pressure-share', at: shell, gives: by('pressure_in_ratio'), within: 2e-5 },
  { table: 'coupled-action', formula: 'coupled-primary-action', at: coupled, gives: by('action1_A2s'), within: 1e-6 },
  { table: 'coupled-action', formula: 'coupled-secondary-action', at: coupled, gives: by('action2_A2s'), within: 1e-6 },
  {
    table: 'multiplier',
    formula: 'multiplier-no-load-voltage',
    at: pick({ n: 'stages', Vp: 'input_peak_V' }),
    gives: by('no_load_V'),
  },
  { table: 'multiplier', formula: 'multiplier-drop', at: pick(multiplier), gives: by('drop_V') },
  { table: 'multiplier', formula: 'multiplier-ripple', at: pick(multiplier), gives: by('ripple_pp_V') },
  {
    table: 'multiplier',
    formula: 'multiplier-resistance',
    at: pick({ n: 'stages', f: 'frequency_Hz', C: 'capacitance_F' }),
    gives: (row) => by('drop_V')(row) / by('load_A')(row),
  },
  {
    table: 'ladder-charging',
    formula: 'ladder-charge-time',
    at: pick({ n: 'stages', R: 'R_ohm', C: 'C_F', x: 'fraction' }, { Rs: 0 }),
    gives: by('time_s'),
    within: 1e-6,
  },
  { table: 'impulse', formula: 'impulse-efficiency', at: impulse, gives: by('efficiency') },
  { table: 'impulse', formula: 'impulse-front-time', at: impulse, gives: by('T1_s') },
  { table: 'impulse', formula: 'impulse-tail-time', at: impulse, gives: by('T2_s') },
  // Closer than the tables claim of themselves.
  {
    table: 'sphere-gap-breakdown',
    formula: 'sphere-gap-breakdown',
    at: (row) => ({ d: by('spacing_cm', cm)(row), D: by('sphere_diameter_cm', cm)(row), ...air }),
    gives: by('breakdown_kV_peak', kV),
    within: 0.025,
  },
  {
    table: 'gap-long',
    only: ['gap', 'sphere gap'],
    formula: 'sphere-gap-breakdown',
    at: (row) => ({ d: by('spacing', cm)(row), D: by('size', cm)(row), ...air }),
    gives: by('breakdown', kV),
    within: 0.025,
  },
  {
    table: 'gap-long',
    only: ['gap', 'rod-rod'],
    formula: 'rod-gap-breakdown',
    at: (row) => ({ d: by('spacing', mm)(row), delta: 1 }),
    gives: by('breakdown', kV),
    within: 1e-6,
  },
  {
    table: 'gap-long',
    only: ['gap', 'needle'],
    formula: 'needle-gap-breakdown',
    at: (row) => ({ d: by('spacing', mm)(row), delta: 1 }),
    gives: by('breakdown', kV * Math.SQRT2),
    within: 0.005,
  },
  {
    table: 'gap-long',
    only: ['gap', 'rod-plane'],
    formula: 'rod-plane-breakdown',
    at: (row) => ({ d: by('spacing')(row), delta: 1 }),
    gives: by('breakdown', kV),
    within: 1e-6,
  },
  {
    table: 'gap-long',
    only: ['gap', 'SF6'],
    formula: 'paschen-breakdown-sulphur-hexafluoride',
    at: (row) => ({ p: 1e5, d: by('spacing', cm)(row) }),
    gives: by('breakdown', kV),
    within: 0.01,
  },
  {
    table: 'uniform-gap-breakdown',
    formula: 'uniform-gap-breakdown',
    at: (row) => ({ d: by('spacing_cm', cm)(row), p: by('relative_air_density', 101_300)(row), T: 293.15 }),
    gives: by('breakdown_kV_peak', kV),
  },
  {
    table: 'air-density-factor',
    formula: 'air-density-factor',
    at: (row) => ({ p: by('pressure_kPa', 1e3)(row), T: by('temperature_degC')(row) + 273.15 }),
    gives: by('delta'),
  },
  ...(
    [
      ['wire in coaxial', 'wire-corona-onset'],
      ['parallel wires', 'parallel-wire-corona-onset'],
      ['sphere', 'sphere-corona-onset'],
    ] as const
  ).map(([geometry, formula]): Check => ({
    table: 'corona-onset',
    only: ['geometry', geometry],
    formula,
    at: (row) => ({ r: by('radius_cm', cm)(row), delta: by('relative_air_density')(row) }),
    gives: by('onset_gradient_kV_per_cm', kV / cm),
  })),
];

const against = (row: Row, within: number) => ({
  source: row.text['source'] ?? '',
  memory: (row.text['provenance'] ?? '').includes('memory'),
  within,
});

describe('formulas against tables made outside this project', () => {
  test.each(checks)('$formula: $table $only.1', ({ table: name, only, formula, at, gives, within }) => {
    const rows = table(name).filter((cells) => !only || cells[only[0]]?.startsWith(only[1]));
    expect(rows.length).toBeGreaterThan(0);
    for (const row of rows.map(rowOf))
      holds(formula, at(row), gives(row), against(row, within ?? (row['tolerance_pct'] ?? NaN) / 100));
  });

  test('the Paschen minimum of each gas lies where the table has it, looked for by trying', () => {
    let seen = 0;
    for (const row of table('paschen-minimum').map(rowOf)) {
      const gas = gasById((row.text['gas'] ?? '').replace(' ', '-'));
      if (!gas) continue;
      seen += 1;
      const products = Array.from({ length: 200 }, (_, i) => gas.minimumProduct * 0.5 * 1.01 ** i);
      const best = products.reduce((a, b) => (gasBreakdown(gas, a) <= gasBreakdown(gas, b) ? a : b));
      const id = gas.id === 'air' ? 'paschen-breakdown' : `paschen-breakdown-${gas.id}`;
      const close = against(row, by('tolerance_pct', cm)(row));
      witness({ kind: 'formula', id }, gasBreakdown(gas, best), by('breakdown_min_V')(row), close, { 'p·d': best });
      witness({ kind: 'formula', id }, best, by('pd_min_Torr_cm', 1.33322)(row), close, { 'p·d': best });
    }
    expect(seen).toBe(4);
  });
});
