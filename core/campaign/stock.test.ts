import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { newDocument, withBlock, type Rig } from '../rig/index.ts';
import { blockDefinition, newBlock } from '../kind/index.ts';
import { testCampaign, testId, testShot } from '../test/campaigns.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { entrySchema, type Campaign } from './campaign.ts';
import { isSetTo, rigSetTo, turnsTold } from './hands.ts';
import { planSeries, rigAtSetting, variedFields, type AskedStock, type CampaignPlan } from './plan.ts';
import type { KeptShot } from './place.ts';
import { progressOf, replan, restAfter } from './progress.ts';
import { stockWords } from './report.ts';
import { coolingOf, lastingFor, printStock, restFor, takesOf } from './stock.ts';

const begin = Date.parse('2026-12-05T10:00:00.000Z');
const sessions = [{ start: begin, seconds: 8 * 3600, people: 'AB holds the key' }];

/** A Marx whose first gap is dressed after 30 mC and set by a screw of 1 mm a turn. */
const bench = rigWith({ 'switch.Q': '30 mC', 'switch.Vg': '0.8 cm³', 'switch.pt': '1 mm' }, demoRig('kittiwake'));
/** The voltages that it is fired at. */
const [lower, higher] = [15e3, 16.5e3];

function planned(rig: Rig, path: string, levels: number[], stocks: AskedStock[] = [], rest = 0): CampaignPlan {
  const document = { ...newDocument('Bench'), rig };
  const made = planSeries(document, {
    varied: [{ path, levels }],
    design: 'factorial',
    replicates: 3,
    order: 'rising',
    seed: 1,
    rest,
    sessions,
    stocks,
  });
  if (!made.ok) throw new Error(`${made.field} ${made.reason}`);
  return made.plan;
}

const campaignOf = ({ settings, row, before, after, stocks }: CampaignPlan): Campaign =>
  testCampaign({ settings, row, before, after, sessions, stocks: stocks.map(({ stock }) => stock) });

const shotAt = (n: number, place: number, outcome: 'fired' | 'misfire' = 'fired'): KeptShot =>
  testShot(n, place, begin + 600_000 * n, { outcome });

describe('what a shot takes', () => {
  test('electrodes last for the shots that the page of the rig says, and gas is what it says to blow through', () => {
    const evaluation = evaluateRig(bench);
    const reading = evaluation.corners.nominal();
    const takes = takesOf(evaluation);
    const electrodes = takes.find((one) => one.id === 'switch.electrodes');
    expect((electrodes?.lasts ?? NaN) / (electrodes?.each ?? NaN)).toBeCloseTo(reading.figure('gap-wear').value, 9);
    expect(takes.find((one) => one.id === 'switch.gas')?.each).toBe(reading.figure('gap-gas').value);
  });

  test('wire is taken at its length, each of those in parallel; of a can one', () => {
    const block = newBlock(blockDefinition('load', 'exploding-wire'));
    const wire = rigWith({ 'load.n': '3' }, withBlock(demoRig('thimble'), 'load', block));
    const [taken] = takesOf(evaluateRig(wire)).filter((one) => one.id === 'load.wire');
    expect(taken?.each).toBeCloseTo(0.18, 12);
    expect(taken?.title).toBe('Wire of copper, 0.2 mm');
  });

  test('from shot to shot no less than what its power allows: the rate that the page of the rig says, asked backwards', () => {
    const thimble = demoRig('thimble');
    const none = { 'charging.P': '', 'bleeder.P': '' };
    const evaluation = evaluateRig(rigWith({ ...none, 'charging.P': '1 W' }, thimble));
    expect(coolingOf(evaluation)?.title).toBe('Charging resistor');
    expect(1 / (coolingOf(evaluation)?.seconds ?? NaN)).toBeCloseTo(
      evaluation.corners.bandOf((reading) => reading.figure('charging-resistor-rate')).low,
      9,
    );
    // A weaker one that is warmed by all that is stored decides.
    expect(coolingOf(evaluateRig(rigWith({ 'charging.P': '1 MW', 'bleeder.P': '1 mW' }, thimble)))?.title).toBe('Bleeder');
    expect(coolingOf(evaluateRig(rigWith(none, thimble)))).toBeNull();
  });

  test('a coil that is fired at its rest is at the worst as warm on the mean as its rest is made for', () => {
    const coil = rigWith({ 'charging.P': '', 'bleeder.P': '' }, demoRig('anvil'));
    const cooling = coolingOf(evaluateRig(coil));
    expect(cooling?.title).toBe('Coil');
    const warm = evaluateRig(rigWith({ 'load.f': `${1 / (cooling?.seconds ?? NaN)} Hz` }, coil));
    expect(warm.corners.bandOf((reading) => reading.figure('coil-steady')).high).toBeCloseTo(90, 3);
  });
});

describe('stocks of a campaign', () => {
  test('a plan says for how many of its shots what is there lasts, and what is missing', () => {
    const plan = planned(
      bench,
      'store.V0',
      [lower, higher],
      [
        { title: 'Foil', unit: 'sheets', each: 1, onHand: 4 },
        { title: 'Tape', unit: '', each: 0.5, onHand: null },
        { id: 'switch.gas', onHand: 5e-6 },
      ],
    );
    const words = plan.stocks.map((one) => stockWords(one, plan.shots));
    expect(words).toContain('Foil: all 6 shots take 6 sheets, 4 sheets are there: for 4, then 2 sheets more');
    expect(words).toContain('Tape: all 6 shots take 3; how much is there is not counted');
    const gas = plan.stocks.find(({ stock }) => stock.id === 'switch.gas');
    expect(gas?.lastsFor).toBe(Math.min(6, Math.floor(5e-6 / ((gas?.needed ?? NaN) / 6) + 1e-6)));
    // As much more charge as voltage.
    const [low, high] = plan.settings.map(({ uses }) => uses['switch.electrodes'] ?? NaN);
    expect((high ?? NaN) / (low ?? NaN)).toBeCloseTo(higher / lower, 9);
  });

  test('each shot takes its share, a misfire none; a count starts anew; the gate names what is done', () => {
    const campaign = campaignOf(
      planned(bench, 'store.V0', [lower, higher], [{ title: 'Foil', unit: 'sheets', each: 1, onHand: 2 }]),
    );
    const own = campaign.stocks.find(({ title }) => title === 'Foil')?.id ?? '';
    const left = (shots: KeptShot[], entries: object[] = []) =>
      progressOf(
        campaign,
        entries.map((one) => entrySchema.parse(one)),
        shots,
      ).stocks.find(({ stock }) => stock.id === own);
    expect(left([])).toMatchObject({ left: 2, next: 1, needed: 6, lastsFor: 2 });
    expect(left([shotAt(1, 0), shotAt(2, 1, 'misfire')])).toMatchObject({ left: 1, needed: 5, lastsFor: 1 });
    const fired = [shotAt(1, 0), shotAt(2, 1)];
    expect(left(fired)).toMatchObject({ left: 0, lastsFor: 0 });
    const counted = {
      id: testId(501),
      at: new Date(begin + 25 * 60_000).toISOString(),
      by: 'AB',
      kind: 'stock',
      of: own,
      amount: 10,
      text: 'A new pack.',
    };
    expect(left([...fired, shotAt(3, 2)], [counted])).toMatchObject({ left: 9, needed: 3, lastsFor: 3 });
  });

  test('a law: what is left and what was taken is what was there, and it lasts for no shot too many', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 10, noNaN: true }), { maxLength: 12 }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        (takes, amount) => {
          const { shots, needed } = lastingFor(takes, amount);
          const sum = (n: number) => takes.slice(0, n).reduce((a, b) => a + b, 0);
          expect(needed).toBeCloseTo(sum(takes.length), 9);
          expect(sum(shots)).toBeLessThanOrEqual(amount * (1 + 1e-8) + 1e-12);
          if (shots < takes.length) expect(sum(shots + 1)).toBeGreaterThan(amount);
        },
      ),
      { seed: 24 },
    );
  });

  test('an amount is printed in its unit, or counted in its word', () => {
    expect([printStock(0.06, 'm'), printStock(3, 'sheets'), printStock(3, '1'), printStock(2, '')]).toEqual(
      ['60 mm', '3 sheets', '3', '2 '].map((text) => text.trim()),
    );
  });
});

describe('rest and hands', () => {
  test('the rest after a shot is what is entered or what has to cool, whichever is longer; what is left is laid out with it', () => {
    const coil = { title: 'Coil', seconds: 600, says: 'Coil: worst case 6 kJ a shot, and it may lose 10 W' };
    expect(restFor(coil, 400, 60)).toEqual({ rest: 200, cools: coil.says });
    expect(restFor(coil, 400, 300)).toEqual({ rest: 300, cools: '' });
    expect(restFor(coil, 700, 0)).toEqual({ rest: 0, cools: '' });
    expect(restFor(null, 100, 30)).toEqual({ rest: 30, cools: '' });
    // Kept with each setting, it is what stands between two shots of the hours that are left.
    const plan = planned(bench, 'store.V0', [lower], [], 30);
    const [setting] = plan.settings;
    expect(setting).toMatchObject({ rest: 30, cools: '' });
    const kept = campaignOf({ ...plan, settings: plan.settings.map((one) => ({ ...one, rest: 900, cools: 'Coil' })) });
    expect(restAfter(kept, kept.settings[0] ?? null)).toBe(900);
    const { sessions: laid } = replan(kept, progressOf(kept, [], []), begin - 1);
    const [first, second] = laid[0]?.shots ?? [];
    expect(((second?.start ?? NaN) - (first?.start ?? NaN)) / 1000).toBeCloseTo(900 + (setting?.seconds ?? NaN), 3);
  });

  test('a screw of known travel is told in turns; a pressure in the unit that was typed', () => {
    expect(turnsTold(bench, 'switch.d', 5e-3, 4.6e-3)).toBe('turn it in by 0.4 turns of 1 mm, and measure');
    expect(turnsTold(bench, 'switch.d', 5e-3, 6e-3)).toBe('turn it out by 1 turn of 1 mm, and measure');
    expect(turnsTold(bench, 'switch.d', 5e-3, 5e-3)).toBeNull();
    expect(turnsTold(rigWith({ 'switch.pt': '' }, bench), 'switch.d', 5e-3, 6e-3)).toBeNull();
    expect(turnsTold(bench, 'store.V0', 100, 200)).toBeNull();
    // In the unit that the rig has it in, else in that of who asks for it.
    const spacing = [7.1e-3, 7.2136e-3];
    const text = (rig: Rig) => planned(rig, 'switch.d', spacing).settings.map(({ values }) => values[0]?.text);
    expect(text(bench)).toEqual(['7.1 mm', '7.2136 mm']);
    expect(text(rigWith({ 'switch.d': '0.28 in' }, bench))).toEqual(['0.279527559055 in', '0.284 in']);
  });
});

describe('a launcher of three stages', () => {
  const shuttle = demoRig('shuttle');
  const at = (rig: Rig) => rig.channels.map(({ store }) => (store.fields['V0'] as { value: number }).value);
  const set = (value: number, path = 'store.V0') => [{ path, value, text: `${value} V` }];

  test('is charged alike: one field for every stage, which is at it only where all of them are', () => {
    const [first] = variedFields(shuttle).filter(({ path }) => path.endsWith('.V0'));
    expect(first).toMatchObject({ path: 'store.V0', title: 'Charged to, every stage' });
    const made = rigSetTo(shuttle, set(300));
    expect(at(made)).toEqual([300, 300, 300]);
    expect(at(rigAtSetting(shuttle, set(300)))).toEqual([300, 300, 300]);
    expect(isSetTo(made, set(300))).toBe(true);
    // One that somebody has set otherwise since is not at it, and is set with the others.
    const strange = rigWith({ 'store@2.V0': '250 V' }, made);
    expect(isSetTo(strange, set(300))).toBe(false);
    expect(at(rigSetTo(strange, set(300)))).toEqual([300, 300, 300]);
    // Tolerances stay as they were entered.
    expect((made.channels[1]?.store.fields['V0'] as { tolerance?: object }).tolerance).toEqual(
      (shuttle.channels[1]?.store.fields['V0'] as { tolerance?: object }).tolerance,
    );
  });

  test('whose stages differ is varied stage by stage, and only the one that is named moves', () => {
    const mixed = rigWith({ 'store@3.V0': '250 V' }, shuttle);
    const fields = variedFields(mixed).filter(({ path }) => path.endsWith('.V0'));
    expect(fields.map(({ path, title }) => [path, title])).toEqual([
      ['store@1.V0', 'Charged to, stage 1'],
      ['store@2.V0', 'Charged to, stage 2'],
      ['store@3.V0', 'Charged to, stage 3'],
    ]);
    expect(at(rigAtSetting(mixed, set(300, 'store@1.V0')))).toEqual([300, 340, 250]);
    expect(isSetTo(mixed, set(250, 'store@3.V0'))).toBe(true);
    // What stands in the first stage for all of them is one field.
    expect(variedFields(mixed).filter(({ path }) => path.endsWith('.ms'))).toHaveLength(1);
  });
});
