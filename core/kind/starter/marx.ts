import type { Settings, Starter, Wishes } from '../../block/index.ts';
import { choice, quantity, within } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { gapFor, gapTuned, triggeredAt, wish } from './bank.ts';
import { around, leakOf, sourceAndResistor, stepBelow, two } from './neighbours.ts';
import { pictures } from './pictures.ts';

/** F that a stage has to earth, and what share of all of them counts at the output. Common practice, no source. */
const [stray, counted] = [8e-12, 0.4];

interface Column {
  readonly V: number;
  readonly E: number;
  /** V a stage may be charged to, and m of its terminal. */
  readonly perStage: number;
  readonly r: number;
}

/** F that the erected column has beside its own capacitance. */
const loadOf = ({ V, perStage, r }: Column): number => 4 * Math.PI * 8.85e-12 * r + counted * stray * (V / perStage);

/** V that the stages have to come to, for so much of it to be left behind terminal and strays; NaN where the energy does not do it. */
function idealOf(column: Column): number {
  const { V, E } = column;
  // x = V·(1 + load·x²/2E)
  const a = (loadOf(column) * V) / (2 * E);
  return (1 - Math.sqrt(1 - 4 * a * V)) / (2 * a);
}

const lacksEnergy = (column: Column): string | null =>
  Number.isFinite(idealOf(column))
    ? null
    : `The energy does not charge terminal and strays to this voltage: that takes ${printQuantity(2 * loadOf(column) * column.V ** 2, 'J')}.`;

/** n stages of a capacitance, each charged to V0, and what stands about them. */
export function stagesAt(n: number, C: number, V0: number, resistor: number): Settings {
  const store = { V: V0, C: C * n, R: resistor };
  const Rc = stepBelow(Math.min(resistor, leakOf(store) * 0.05));
  return {
    ...sourceAndResistor(store),
    ...around(store),
    store: { kind: 'marx', fields: { n, C, V0, Vg: two(V0 * 1.3), Rc, Es: 3e5, Cs: stray } },
    switch: { kind: 'spark-gap', fields: { ...gapFor(V0 * triggeredAt), R: 1, L: 1e-7 } },
    trigger: { kind: 'trigger-generator' },
  };
}

/** Ω of a ladder’s resistors, by the energy that passes through them: a pulse of a few kilojoules is not to wait for minutes. */
export const ladderFor = (E: number): number => stepBelow(1e6 * Math.min(4.7, Math.max(0.1, 5 / E)));

/** A column of stages that comes to a voltage, and what stands about it. */
function column(asked: Column, resistor: number): { readonly settings: Settings; readonly V0: number } {
  const ideal = idealOf(asked);
  const n = Math.max(2, Math.ceil(ideal / asked.perStage));
  const V0 = two(ideal / n);
  const C = two((2 * asked.E) / n / V0 ** 2);
  return { V0, settings: stagesAt(n, C, V0, resistor) };
}

/** m of a terminal in whose open air no corona begins. Common practice, no source. */
const terminalFor = (V: number): number => two(Math.max(0.02, V / 1.15e6));
const wished = (wishes: Wishes, perStage: number, hasTerminal = true): Column => {
  const V = wish(wishes, 'V');
  return { V, E: wish(wishes, 'E'), perStage, r: hasTerminal ? terminalFor(V) : 0 };
};
const wishedMarx = (wishes: Wishes): Column => wished(wishes, 15e3, wishes['into'] === 'open-terminal');
const wishedSmall = (wishes: Wishes): Column => wished(wishes, 6e3);

export const marxStarter: Starter = {
  id: 'marx',
  title: 'Marx generator',
  says: 'Stages charged side by side and fired in series.',
  words: ['impulse generator', 'stage', 'erection', 'high voltage', 'lightning'],
  picture: pictures.marx,
  asks: {
    V: quantity('Output', 'V', within(20e3, 1e6), '120 kV'),
    E: quantity('Energy', 'J', within(0.1, 2000), '10 J'),
    into: choice('Load', {
      'open-terminal': 'Open terminal',
      spark: 'Spark through air',
      'dummy-resistor': 'Resistor',
    }),
  },
  typed: {},
  tuned: [gapTuned],
  lacks: (wishes) => lacksEnergy(wishedMarx(wishes)),
  settings: (wishes) => {
    const [V, E, into] = [wish(wishes, 'V'), wish(wishes, 'E'), wishes['into']];
    const { settings } = column(wishedMarx(wishes), ladderFor(E));
    const load: Settings =
      into === 'spark'
        ? { load: { kind: 'spark', fields: { d: two(V / 7e5) } } }
        : into === 'dummy-resistor'
          ? { load: { kind: 'dummy-resistor', fields: { R: 470 } } }
          : { load: { kind: 'open-terminal', fields: { r: terminalFor(V) } } };
    return { ...settings, ...load };
  },
};

export const multiplierStarter: Starter = {
  id: 'multiplier-marx',
  title: 'Multiplier and small Marx',
  says: 'A low voltage stepped up by diodes and capacitors, then erected by a few stages.',
  words: ['cascade', 'diode', 'voltage multiplier', 'villard', 'low voltage'],
  picture: pictures.multiplier,
  asks: {
    V: quantity('Output', 'V', within(10e3, 120e3), '40 kV'),
    E: quantity('Energy', 'J', within(0.02, 20), '0.5 J'),
    Vp: quantity('Peak of the drive', 'V', within(200, 5000), '1 kV'),
  },
  typed: { Vp: 'supply.Vp' },
  tuned: [gapTuned],
  lacks: (wishes) => lacksEnergy(wishedSmall(wishes)),
  settings: (wishes) => {
    const [V, Vp] = [wish(wishes, 'V'), wish(wishes, 'Vp')];
    const { settings, V0 } = column(wishedSmall(wishes), 2.2e6);
    return {
      ...settings,
      supply: { kind: 'multiplier', fields: { Vp, n: Math.ceil((V0 * 1.35) / (2 * Vp)), C: 10e-9 } },
      load: { kind: 'open-terminal', fields: { r: terminalFor(V) } },
    };
  },
};
