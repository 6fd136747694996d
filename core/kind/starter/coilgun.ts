import type { Settings, Starter } from '../../block/index.ts';
import { quantity, whole, within } from '../../field/index.ts';
import { bankAt, capacitanceFor, wish } from './bank.ts';
import { hands, two } from './neighbours.ts';
import { pictures } from './pictures.ts';

/** Stores that are charged one after another: the first waits for all others, with the time of hands for each. */
const inTurn = (stages: number) => ({ stores: stages, charge: 3, waits: hands + 20 * (stages - 1) });

/** A coil about a slug, its pulse about as long as the slug takes to its middle, and the store that drives it. */
export function stageAt(d: number, V: number, E: number, supply: string, stages = 1): Settings {
  const C = capacitanceFor(E, V);
  const [Df, l, ls] = [two(d + 3e-3), two(2.2 * d), two(2 * d)];
  // Six per cent of the energy in motion: a first coil has little more. Common practice, no source.
  const mass = (7850 * Math.PI * d ** 2 * ls) / 4;
  const v = Math.sqrt((2 * 0.06 * E) / mass);
  const time = (l + ls) / Math.max(v, 1) / 2;
  const L = Math.min(20e-3, Math.max(4e-6, (time / Math.PI) ** 2 / C));
  const N = Math.round(
    Math.min(600, Math.max(12, Math.sqrt((L * (l + 0.6 * Df)) / (4e-7 * Math.PI * Math.PI * (0.6 * Df) ** 2)))),
  );
  const layers = Math.max(1, Math.min(8, Math.round(Math.sqrt(N / 14))));
  const wire = two(Math.min(4e-3, Math.max(0.3e-3, ((l * layers) / N) * 0.9)));
  return {
    ...bankAt(V, C, supply, { polarity: 'polar', Ri: two(6000 / C) }, stages > 1 ? inTurn(stages) : {}),
    load: {
      kind: 'coilgun-stage',
      fields: {
        Df,
        l,
        d: wire,
        build: 30e-6,
        N,
        tb: 1e-3,
        ds: d,
        ls,
        xs: two(0.75 * l),
        lb: two(6 * l),
        at: two(2.2 * l),
        diode: 'diode',
      },
    },
  };
}

const asks = {
  d: quantity('Diameter of the slug', 'm', within(4e-3, 60e-3), '12 mm'),
  V: quantity('Charged to', 'V', within(24, 900), '350 V', { tolerance: true }),
  E: quantity('Energy of a stage', 'J', within(2, 5000), '120 J'),
};
const typed = { d: 'load.ds', V: 'store.V0' } as const;
const words = ['launcher', 'projectile', 'slug', 'muzzle', 'gauss', 'accelerator'];

export const coilgunStarter: Starter = {
  id: 'coilgun',
  title: 'Coilgun, one stage',
  says: 'A coil that pulls a slug in and lets go before its centre.',
  words,
  picture: pictures.coilgun,
  asks,
  typed,
  settings: (wishes) => stageAt(wish(wishes, 'd'), wish(wishes, 'V'), wish(wishes, 'E'), 'source'),
};

export const coilgunsStarter: Starter = {
  id: 'coilgun-stages',
  title: 'Coilgun, several stages',
  says: 'Coils along a barrel, each with its own store, fired one after another.',
  words: [...words, 'multi-stage', 'sensor'],
  picture: pictures.coilguns,
  asks: { ...asks, n: quantity('Stages', '1', whole(2, 12), '3') },
  typed,
  channels: (wishes) => wish(wishes, 'n'),
  settings: (wishes) => {
    const made = stageAt(wish(wishes, 'd'), wish(wishes, 'V'), wish(wishes, 'E'), 'source', wish(wishes, 'n'));
    const length = Number(made.load?.fields?.['l']);
    const barrel = two(length * (2.2 * wish(wishes, 'n') + 4));
    return { ...made, load: { kind: 'coilgun-stage', fields: { ...made.load?.fields, lb: barrel } } };
  },
};

export const batteryStarter: Starter = {
  id: 'battery-launcher',
  title: 'Battery launcher',
  says: 'A coilgun that a battery charges through a step-up converter.',
  words: [...words, 'portable', 'converter'],
  picture: pictures.battery,
  asks: { ...asks, E0: quantity('Battery voltage', 'V', within(3, 60), '12 V') },
  typed: { ...typed, E0: 'supply.E' },
  settings: (wishes) => {
    const made = stageAt(wish(wishes, 'd'), wish(wishes, 'V'), wish(wishes, 'E'), 'battery');
    return { ...made, supply: { kind: 'battery-converter', fields: { ...made.supply?.fields, E: wish(wishes, 'E0') } } };
  },
};
