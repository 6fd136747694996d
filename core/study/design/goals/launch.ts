import type { Wishes } from '../../../block/index.ts';
import { quantity, within } from '../../../field/index.ts';
import { rigOfSettings } from '../../../evaluation/index.ts';
import { stageAt, type Block } from '../../../kind/index.ts';
import { printQuantity } from '../../../quantity/index.ts';
import { blockIn, spotIn, withBlock, withChannelAdded, type Rig } from '../../../rig/index.ts';
import type { Piece } from '../../../part/index.ts';
import { ifKnown } from '../../../figure/index.ts';
import { bestSensors, launchSpeed, launchSpeedRange } from '../../coil/launch/index.ts';
import { banksOf, familiesOf, piecesOfBank, withAssumed, withShelfBank, withStockBank } from '../banks.ts';
import type { AtHand, DesignGoal, Draft, ShelfBank } from '../goal.ts';
import { valueIn } from '../fit.ts';
import { checked } from '../rigs.ts';

/** kg/m³ of a slug of iron, as the launch takes it. */
const iron = 7850;
const mostStages = 5;
/** V that are tried where capacitors are bought: one, two and three electrolytics in series at the most. */
const voltages = [200, 350, 420, 800];
/** Share of what is stored that a stage puts into motion, to begin with. Common practice, no source. */
const about = 0.02;

const speedOf = (rig: Rig): number => ifKnown(() => launchSpeed(rig)) ?? NaN;

type Stores = readonly Block[];

/** What the stages of a draft are charged into: of the shelf each of pieces of its own, alike or not; null where they do not do it. */
function shelfStores(bank: ShelfBank, n: number, shelf: AtHand['shelf']): Stores | null {
  const rig = rigOfSettings({ store: { kind: 'capacitor-bank' } });
  let left: readonly Piece[] = piecesOfBank(bank, shelf);
  const stores: Block[] = [];
  for (let k = 0; k < n; k++) {
    const made = withShelfBank(rig, 'store', bank, shelf, left);
    if (!made) return null;
    left = made.left;
    stores.push(blockIn(made.rig, 'store'));
  }
  return stores;
}

function stockStore(id: string, V: number, E: number, margin: number): Block | null {
  const made = withStockBank(rigOfSettings({ store: { kind: 'capacitor-bank' } }), 'store', id, (2 * E) / V ** 2, V, margin);
  return made && blockIn(made, 'store');
}

/** Where the slug is when a coil behind the first fires: before the middle of it, in lengths of the coil. */
type Sensors = readonly number[];

/** Common practice, no source: as the slug begins to be in it. */
const usualSensor = 0.9;

/** The sensors of a launcher where they do best, in lengths of its coils. */
function sensorsOf(rig: Rig): Sensors | null {
  const places = ifKnown(() => bestSensors(rig));
  return places?.map((x, k) => (atOf(rig, k + 1) - x) / valueIn(blockIn(rig, 'load'), 'l')) ?? null;
}

/** m: the place of a coil. */
const atOf = (rig: Rig, channel: number): number => valueIn(blockIn(rig, spotIn('load', channel)), 'at');

function withSensors(rig: Rig, sensors: Sensors): Rig {
  const l = valueIn(blockIn(rig, 'load'), 'l');
  return rig.channels.slice(1).reduce((made, _, k) => {
    const spot = spotIn('load', k + 1);
    const xf = Number((atOf(made, k + 1) - (sensors[k] ?? usualSensor) * l).toFixed(4));
    return withBlock(made, spot, withAssumed(blockIn(made, spot), 'load', { fired: 'sensor', xf }));
  }, rig);
}

/** A launcher of stages with E in each, charged to V; the slug as it was asked for. */
function launcher(wishes: Wishes, V: number, E: number, stores: Stores, sensors: Sensors): Rig {
  const [d, m, n] = [Number(wishes['d']), Number(wishes['m']), stores.length];
  const settings = stageAt(d, V, E, 'source', n);
  let rig = rigOfSettings(settings);
  const ls = Number((m / ((iron * Math.PI * d ** 2) / 4)).toPrecision(3));
  const l = Number(settings.load?.fields?.['l']);
  const lb = Number((l * (2.2 * n + 4)).toPrecision(2));
  rig = withBlock(rig, 'load', withAssumed(blockIn(rig, 'load'), 'load', { ls, lb }));
  for (let k = 1; k < n; k++) rig = withChannelAdded(rig) ?? rig;
  rig = stores.reduce((made, store, k) => withBlock(made, spotIn('store', k), withAssumed(store, 'store', { V0: V })), rig);
  return withSensors(rig, sensors);
}

/** A slug thrown by coils. */
export const launchGoal: DesignGoal = {
  id: 'launch',
  title: 'A slug at a speed',
  says: 'Coils along a barrel that throw a slug of iron, each with its own store.',
  asks: {
    v: quantity('Speed at the muzzle', 'm/s', within(0.5, 200), '20 m/s'),
    m: quantity('Mass of the slug', 'kg', within(0.2e-3, 2), '30 g'),
    d: quantity('Diameter of the slug', 'm', within(4e-3, 60e-3), '14 mm'),
  },
  lacks: ({ m, d }) => {
    const length = Number(m) / ((iron * Math.PI * Number(d) ** 2) / 4);
    const [low, high] = [0.5 * Number(d), 8 * Number(d)];
    if (length >= low && length <= high) return null;
    const mass = (l: number) => printQuantity((l * iron * Math.PI * Number(d) ** 2) / 4, 'kg');
    return {
      asked: 'm',
      reason: `A slug of this mass would be ${printQuantity(length, 'm')} long. For this diameter, ${mass(low)} to ${mass(high)} is half to eight diameters long.`,
    };
  },
  drafts: (wishes, { shelf }) => {
    const [v, m] = [Number(wishes['v']), Number(wishes['m'])];
    const E = (0.5 * m * v ** 2) / about;
    const stages = Array.from({ length: mostStages }, (_, k) => k + 1);
    const ofShelf = familiesOf(shelf)
      .filter(({ V }) => V < 1000)
      .flatMap((family) =>
        stages.flatMap((n) =>
          [1, 2]
            .flatMap((ns) => banksOf(family, ns))
            .filter((bank) => bank.np * bank.ns * n <= family.pieces.length)
            .filter((bank) => 0.5 * bank.C * bank.V ** 2 * n > 0.3 * E)
            .slice(-2)
            .map((bank): Draft => ({ bank, more: { n } })),
        ),
      );
    const bought = stages.flatMap((n) =>
      voltages.map((V): Draft => ({ bank: { from: 'stock', class: 'electrolytic' }, more: { n, V, E: E / n } })),
    );
    return [...ofShelf, ...bought];
  },
  make: (wishes, { bank, more }, at) => {
    const [v, n] = [Number(wishes['v']), Number(more['n'])];
    // Of a bank that is there the voltage is what can be chosen; of one that is bought the energy.
    const most = bank.from === 'shelf' ? bank.V / (1 + at.margin) / 1.03 : Number(more['V']);
    const there = bank.from === 'shelf' ? shelfStores(bank, n, at.shelf) : null;
    if (bank.from === 'shelf' && !there) return { ok: false, reason: 'there are too few of these capacitors' };
    let sensors: Sensors = [];
    const rigAt = (share: number): Rig | null => {
      const V = bank.from === 'shelf' ? Number((most * share).toPrecision(3)) : most;
      const E = Number((bank.from === 'shelf' ? 0.5 * bank.C * V ** 2 : Number(more['E']) * share).toPrecision(3));
      if (there) return launcher(wishes, V, E, there, sensors);
      const one = bank.from === 'stock' ? stockStore(bank.class, V, E, at.margin) : null;
      return one && launcher(wishes, V, E, new Array<Block>(n).fill(one), sensors);
    };
    const speedAt = (share: number): number => {
      const rig = rigAt(share);
      return rig ? speedOf(rig) : NaN;
    };
    const shares = bank.from === 'shelf' ? [0.55, 0.7, 0.85, 1] : [0.25, 0.5, 1, 2, 4];
    const [middle = 1] = shares.slice(2);
    const started = rigAt(middle);
    // Once, in the middle of what is tried; the places scale with the coils.
    sensors = (started && sensorsOf(started)) ?? [];
    let [below, above, fastest] = [0, 0, 0];
    for (const share of shares) {
      const speed = speedAt(share);
      fastest = Math.max(fastest, speed || 0);
      if (speed >= v) {
        above = share;
        break;
      }
      below = share;
    }
    if (above === 0) return { ok: false, reason: `it comes to ${printQuantity(fastest, 'm/s')} at the most` };
    for (let round = 0; round < 4; round++) {
      const between = (Math.max(below, above / 4) + above) / 2;
      if (speedAt(between) >= v) above = between;
      else below = between;
    }
    const rig = rigAt(above);
    return rig ? checked(rig) : { ok: false, reason: 'the bank takes more capacitors than are looked for' };
  },
  measures: (wishes) => [
    {
      title: 'Speed at the muzzle',
      unit: 'm/s',
      wish: 'v',
      least: Number(wishes['v']),
      of: speedOf,
      model: (rig) => ifKnown(() => launchSpeedRange(rig)) ?? { low: NaN, high: NaN },
    },
  ],
};
