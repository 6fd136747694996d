import { quantity, within } from '../../../field/index.ts';
import { ladderFor, stagesAt } from '../../../kind/index.ts';
import { blockIn, withBlock, type Rig } from '../../../rig/index.ts';
import { familiesOf, withAssumed, withSpread, type Family } from '../banks.ts';
import type { AtHand, DesignGoal, Draft } from '../goal.ts';
import { capacitorClasses } from '../stock.ts';
import { figureMeasure, figureOf, made, pulseWidth, upTo3, voltageFor, withVoltage } from '../rigs.ts';

/** V of one resistor in the load: a body of about a tenth of a metre. Common practice, no source. */
const perResistor = 14e3;
/** V of a stage that are tried where its capacitors are bought. */
const perStage = [6e3, 10e3, 15e3, 20e3, 25e3, 30e3];
const mostStages = 40;
/** More capacitors side by side in a stage are a bank. */
const mostBeside = 6;

/** F of all stages in series that leave the load above half of its peak for so long. */
const erected = (t: number, R: number): number => t / (R * Math.LN2);

/** What a Marx loses between what its stages add up to and what the load sees, to begin with. */
const begins = 1.1;

/** Stages of a family of the shelf, each of so many side by side. */
function withFamily(rig: Rig, family: Family, n: number, beside: number, shelf: AtHand['shelf']): Rig {
  const block = blockIn(rig, 'store');
  const pieces = [...family.pieces].sort((a, b) => b.capacitance - a.capacitance).slice(0, n * beside);
  const C = pieces.reduce((sum, piece) => sum + piece.capacitance, 0) / n;
  const spread = Math.max(...pieces.map((piece) => Math.abs((piece.capacitance * beside) / C - 1) + piece.uncertainty));
  const set = withSpread(
    withAssumed(block, 'store', { C: Number(C.toPrecision(3)), Vr: family.V }),
    'C',
    Math.min(0.9, Number(spread.toPrecision(2))),
  );
  const counts = new Map<string, number>();
  for (const { id } of pieces) {
    const part = id.split('#')[0] ?? id;
    counts.set(part, (counts.get(part) ?? 0) + 1);
  }
  const parts = [...counts].map(([id, count]) => ({
    id,
    tag: shelf.find((kept) => kept.id === id)?.part.tag ?? '',
    ...(count > 1 ? { count } : {}),
  }));
  return withBlock(rig, 'store', { ...set, parts });
}

/** A pulse of high voltage into a resistor. */
export const pulseGoal: DesignGoal = {
  id: 'pulse',
  title: 'A pulse of high voltage',
  says: 'A Marx generator that gives a voltage at a load, above half of it for a time.',
  asks: {
    V: quantity('Voltage at the load', 'V', within(10e3, 1e6), '200 kV'),
    t: quantity('Above half of it for', 's', within(5e-9, 100e-6), '50 ns'),
    R: quantity('Load resistance', 'Ω', within(10, 1e5), '400 Ω'),
  },
  drafts: (wishes, { shelf, margin }) => {
    const [V, t, R] = [Number(wishes['V']), Number(wishes['t']), Number(wishes['R'])];
    const C = erected(t, R);
    const bought = perStage.flatMap((one) => {
      const n = Math.ceil((V * begins) / one);
      return n < 2 || n > mostStages
        ? []
        : capacitorClasses
            .filter(({ Vmax }) => Vmax >= one * (1 + margin))
            .map(({ id }): Draft => ({ bank: { from: 'stock', class: id }, more: { n, V: (V * begins) / n, C: C * n } }));
    });
    const ofShelf = familiesOf(shelf).flatMap((family) => {
      const most = family.V / (1 + margin) / 1.05;
      const least = Math.max(2, Math.ceil((V * begins) / most));
      return [least, least + 1, least + 2, least + 4].flatMap((n) =>
        Array.from({ length: mostBeside }, (_, k) => k + 1)
          .filter((beside) => n <= mostStages && n * beside <= family.pieces.length && family.C * beside >= 0.7 * C * n)
          .map((beside): Draft => {
            const { title, ids } = family;
            const bank = { from: 'shelf', title, ids, ns: 1, np: n * beside, C: family.C * beside, V: family.V } as const;
            return { bank, more: { n, beside, V: (V * begins) / n, C: family.C * beside } };
          }),
      );
    });
    return [...ofShelf, ...bought];
  },
  make: (wishes, { bank, more }, at) => {
    const [wanted, t, R] = [Number(wishes['V']), Number(wishes['t']), Number(wishes['R'])];
    const n = Number(more['n']);
    let [V, C] = [Number(more['V']), Number(more['C'])];
    const ofShelf = bank.from === 'shelf' ? familiesOf(at.shelf).find(({ ids }) => ids.join() === bank.ids.join()) : undefined;
    const resistors = Math.max(1, Math.ceil(wanted / perResistor));
    const built = () => {
      const settings = stagesAt(n, Number(C.toPrecision(3)), upTo3(V), ladderFor(0.5 * C * n * V ** 2));
      // So far apart as all of them bear along their bodies.
      const load = { kind: 'dummy-resistor', fields: { R: Number((R / resistors).toPrecision(3)), n: resistors, L: 60e-9 } };
      const put = (rig: Rig) => (ofShelf ? withFamily(rig, ofShelf, n, Number(more['beside']), at.shelf) : rig);
      return made({ ...settings, load }, put, at.margin);
    };
    let tried = built();
    for (let round = 0; round < 3 && tried.ok; round++) {
      const found = voltageFor(tried.rig, (one) => figureOf(one, 'dummy-voltage'), wanted, V / 3, V * 3);
      if (!(found > 500)) return { ok: false, reason: 'no voltage of its stages gives the pulse' };
      V = found;
      const lasts = pulseWidth(withVoltage(tried.rig, V));
      if (!ofShelf && Number.isFinite(lasts) && round < 2) C *= Math.min(3, Math.max(0.3, t / lasts)) * 1.01;
      tried = built();
    }
    return tried;
  },
  measures: (wishes) => [
    figureMeasure('dummy-voltage', { title: 'Voltage at the load', unit: 'V', wish: 'V', least: Number(wishes['V']) }),
    { title: 'Above half of it for', unit: 's', wish: 't', least: Number(wishes['t']), of: pulseWidth },
  ],
};
