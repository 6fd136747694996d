import { quantity, within } from '../../../field/index.ts';
import { surroundings } from '../../../kind/index.ts';
import { printQuantity } from '../../../quantity/index.ts';
import { banksOf, familiesOf, withShelfBank, withStockBank } from '../banks.ts';
import type { DesignGoal, Draft } from '../goal.ts';
import { capacitorClasses } from '../stock.ts';
import { figureMeasure, made, switchesFor, switchSettings, withVoltage } from '../rigs.ts';

/** A bank at a voltage, into a load of one’s own. */
export const storeGoal: DesignGoal = {
  id: 'energy',
  title: 'Energy at a voltage',
  says: 'A bank that is charged to a voltage and discharged into a load of your own.',
  asks: {
    V: quantity('Charged to', 'V', within(20, 30e3), '2 kV'),
    E: quantity('Energy, at least', 'J', within(0.1, 100e3), null, { help: 'Empty: as much as the shelf gives.' }),
    R: quantity('Load resistance', 'Ω', within(1e-3, 10e3), '500 mΩ'),
    L: quantity('Load inductance', 'H', within(0, 0.1), '2 µH'),
  },
  lacks: ({ E }, { shelf }) =>
    Number.isFinite(Number(E)) || familiesOf(shelf).length > 0
      ? null
      : {
          asked: 'E',
          reason: 'Energy is asked for: without capacitors on the shelf that were found good there is no “as much as there is”.',
        },
  drafts: (wishes, { shelf, margin }) => {
    const [V, E] = [Number(wishes['V']), Number(wishes['E'])];
    const ofShelf = familiesOf(shelf).flatMap((family) => {
      const least = Math.max(1, Math.ceil((V * (1 + margin)) / family.V));
      return [least, least + 1, least + 2]
        .filter((ns) => ns <= family.pieces.length)
        .flatMap((ns) => banksOf(family, ns))
        .filter((bank) => !Number.isFinite(E) || 0.5 * bank.C * V ** 2 >= 0.9 * E);
    });
    const bought = Number.isFinite(E)
      ? capacitorClasses.filter(({ Cmax }) => Cmax > 1e-6).map(({ id }) => ({ from: 'stock', class: id }) as const)
      : [];
    return [...ofShelf, ...bought].flatMap((bank) =>
      switchesFor(V).map((switched): Draft => ({ bank, more: { switch: switched } })),
    );
  },
  make: (wishes, { bank, more }, { shelf, margin }) => {
    const [V, R, L] = [Number(wishes['V']), Number(wishes['R']), Number(wishes['L'])];
    const C = bank.from === 'shelf' ? bank.C : (2 * Number(wishes['E']) * 1.005) / V ** 2;
    const settings = {
      ...surroundings({ V, C }),
      ...switchSettings(String(more['switch']), V),
      load: { kind: 'resistor-inductor', fields: { R, L } },
    };
    return made(
      settings,
      (rig) => {
        const at = withVoltage(rig, V);
        return bank.from === 'shelf'
          ? (withShelfBank(at, 'store', bank, shelf)?.rig ?? null)
          : withStockBank(at, 'store', bank.class, C, V, margin);
      },
      margin,
    );
  },
  measures: ({ E }) =>
    Number.isFinite(Number(E))
      ? [
          figureMeasure('stored-energy', {
            title: `Energy, at least ${printQuantity(Number(E), 'J', { trim: true })}`,
            unit: 'J',
            wish: 'E',
            least: Number(E),
          }),
        ]
      : [],
  wantsEnergy: ({ E }) => !Number.isFinite(Number(E)),
};
