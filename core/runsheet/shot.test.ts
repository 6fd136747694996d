import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { printDuration, printQuantity } from '../quantity/index.ts';
import { noSheetEdits, type Rig, type SheetEdits } from '../rig/index.ts';
import { decades, oneCapacitor } from '../test/by-hand.ts';
import { offBy } from '../test/fixtures.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { runSheetOf, type RunSheet } from './index.ts';

const sheetOf = (rig: Rig, edits: Partial<SheetEdits> = {}): RunSheet => {
  const made = runSheetOf('Bench', evaluateRig(rig), { ...noSheetEdits, ...edits });
  if (!made.ok) throw new Error(made.reason);
  return made.sheet;
};

/** s of the steps from the supply off to the shot, as they stand on the sheet. */
const neededOn = ({ main }: RunSheet): number => {
  const [from, to] = ['isolate', 'fire'].map((does) => main.findIndex((step) => step.does === does)) as [number, number];
  return main.slice(from, to + 1).reduce((sum, { seconds, wait = 0 }) => sum + seconds + wait, 0);
};

/** A bank of which only the bleeder takes charge, and a sheet whose every step takes `pace` seconds. */
const bank = fc.record({
  C: decades(1e-4, 1e-2),
  Rb: decades(1e3, 1e6),
  V0: decades(60, 400),
  t: fc.integer({ min: 0, max: 20 }),
});
type Bank = typeof bank extends fc.Arbitrary<infer T> ? T : never;
const rigOf = ({ C, Rb, V0, t }: Bank): Rig =>
  rigWith({
    ...oneCapacitor({ C, V0 }, 4),
    'supply.R': '0 Ω',
    'store.Ri': '999 TΩ',
    'meter.R': '999 TΩ',
    'meter.V': '2 kV',
    'charging.R': '10 Ω',
    'bleeder.R': `${Rb} Ω ±${t} %`,
    'bleeder.n': '1',
  });

const cutToTwo = (value: number): number => {
  const step = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Math.floor(value / step + 1e-9) * step;
};

describe('what the time of people makes of the voltage, worked out beside the program', () => {
  test('it falls by the bleeder for as long as the steps take; the band is that of the time within which it is fired', () => {
    fc.assert(
      fc.property(bank, fc.integer({ min: 1, max: 90 }), (one, pace) => {
        const sheet = sheetOf(rigOf(one), { pace });
        const { shot } = sheet;
        const needed = neededOn(sheet);
        // An exponential with the bleeder's own time; at its lowest tolerance it falls fastest.
        const [tau, fastest] = [one.Rb * one.C, one.Rb * one.C * (1 - one.t / 100)];
        expect(shot.needed).toBe(needed);
        expect(offBy(shot.tau, tau)).toBeLessThan(1e-6);
        expect(offBy(shot.expected, one.V0 * Math.exp(-needed / tau))).toBeLessThan(1e-6);
        // Four times what is needed or what costs 5 %, from 10 s to 300 s, and never what costs more than 38 %; two digits of it.
        const wanted = Math.min(300, Math.max(10, 4 * needed, -Math.log(0.95) * fastest));
        const most = Math.min(wanted, Math.max(0.1, -Math.log(0.62) * fastest));
        // On the edge of a digit what leaks besides may decide it.
        const within = [1 - 1e-6, 1, 1 + 1e-6].map((k) => cutToTwo(most * k));
        expect(
          within.some((one) => offBy(shot.within ?? NaN, one) < 1e-9),
          `${shot.within ?? NaN} of ${most}`,
        ).toBe(true);
        expect(shot.high).toBe(one.V0);
        expect(offBy(shot.low, one.V0 * Math.exp(-(shot.within ?? NaN) / fastest))).toBeLessThan(1e-6);
        // Nobody fires a shot that has lost two fifths, or comes after its time.
        const isLate = needed > (shot.within ?? NaN) || shot.low < 0.6 * one.V0;
        expect(shot.against !== null, `${needed} s within ${shot.within ?? NaN} s`).toBe(isLate);
        expect(sheet.cannot.includes(shot.against ?? 'nothing')).toBe(isLate);
        // On the sheet it stands where it is fired, and what is not fired in time is bled.
        const fire = sheet.main.find(({ does }) => does === 'fire');
        const soon = fire?.expect.find(({ label }) => label === 'Fire within');
        if (isLate)
          expect([soon, fire?.expect.at(-1)?.printed]).toEqual([
            undefined,
            `${printQuantity(shot.expected, 'V')}: not to be fired`,
          ]);
        else {
          expect(soon?.worked.value).toBe(shot.within);
          expect(fire?.hold).toContain(`Not fired within ${printDuration(shot.within ?? NaN)}: bleed, and begin again.`);
        }
        const lost = 1 - shot.expected / one.V0;
        expect(shot.mends.length > 0).toBe(lost > 0.05);
        // Of one store nothing stands at its charge but what it is charged to, and what it is at by then at each step to the shot.
        const labels = sheet.main.find(({ does }) => does === 'charge')?.expect.map(({ label }) => label);
        expect(labels?.filter((label) => /By then|All stores/.test(label))).toEqual([]);
        for (const { step, volts } of shot.course.slice(1)) {
          const at = sheet.main.find(({ id }) => id === step)?.expect.find(({ label }) => label === 'By then it is at');
          expect(at?.printed, step).toBe(printQuantity(volts[0] ?? NaN, 'V'));
        }
      }),
      { numRuns: 25 },
    );
  });

  test('what it costs is mended by numbers that are true: a slower bleeder loses 5 %, fewer acts what they say, a held one nothing', () => {
    fc.assert(
      fc.property(bank, (one) => {
        const rig = rigOf({ ...one, t: 0 });
        const sheet = sheetOf(rig, { pace: 20 });
        const { shot } = sheet;
        fc.pre(shot.mends.length > 0);
        const text = shot.mends.join('\n');
        const half = 100 * (1 - Math.exp(-shot.needed / 2 / shot.tau));
        expect(text).toContain(`half of them, ${printDuration(shot.needed / 2)}, cost ${half.toFixed(0)} %`);
        expect(text).toContain(`${printDuration(-Math.log(0.95) * shot.tau)} cost 5 %`);
        // Beside a bleeder that is held off nothing takes charge here.
        expect(text).toContain('only 0.0 % would be lost');
        // R·C such that what is needed costs a twentieth.
        const slower = shot.needed / -Math.log(0.95) / one.C;
        expect(text).toContain(`A slower bleeder: ${printQuantity(slower, 'Ω', { digits: 2 })} lose 5 %`);
        const mended = sheetOf(rigWith({ 'bleeder.R': `${slower.toPrecision(6)} Ω` }, rig), { pace: 20 });
        expect(offBy(mended.shot.expected, 0.95 * one.V0)).toBeLessThan(1e-4);
        const goal = figureIn(evaluateRig(rig), 'bleed-time')?.worked.value ?? NaN;
        expect(text).toContain(`take ${printDuration((goal * slower) / one.Rb)} to the goal`);
      }),
      { numRuns: 12 },
    );
  });

  test('without a bleeder the meter is what costs: one of more resistance loses 5 % together with what leaks', () => {
    const bare = (Rm: string, Ri: string) =>
      rigWith({ 'bleeder.kind': 'none', 'meter.R': Rm, 'store.Ri': Ri }, rigOf({ C: 2e-4, Rb: 1e6, V0: 200, t: 0 }));
    const sheet = sheetOf(bare('500 kΩ', '20 MΩ'), { pace: 10 });
    const { needed, mends } = sheet.shot;
    // Rates add: what the allowed fall leaves beside the leakage is the meter's.
    const Rm = 1 / (2e-4 * (-Math.log(0.95) / needed - 1 / (20e6 * 2e-4)));
    expect(mends.join('\n')).toContain(`A meter of more resistance: ${printQuantity(Rm, 'Ω', { digits: 2 })} lose 5 %`);
    expect(offBy(sheetOf(bare(`${Rm.toPrecision(6)} Ω`, '20 MΩ'), { pace: 10 }).shot.expected, 190)).toBeLessThan(1e-4);
    // Where the leakage alone costs more, no meter mends it, and the sheet says what leaks.
    const leaky = sheetOf(bare('5 MΩ', '1 MΩ'), { pace: 10 }).shot;
    const leaks = (100 * (1 - Math.exp(-leaky.needed / (1e6 * 2e-4)))).toFixed(1);
    expect(leaky.mends.join('\n')).toContain(`leakage alone then takes ${leaks} %`);
  });
});

describe('several stores, charged one after the other', () => {
  const rig = demoRig('shuttle');
  const sheet = sheetOf(rig);
  const evaluation = evaluateRig(rig);
  const V0 = evaluation.corners.nominal().offer('chargedTo').value;
  const others = rig.channels.length - 1;
  const turn = sheet.main.find(({ does }) => does === 'charge')?.seconds ?? NaN;
  const charges = evaluation.corners
    .nominal()
    .channels()
    .slice(1)
    .map((channel) => channel.figure('charge-time').value);

  test('the first waits while the others are charged, each for its own time and a person for the change', () => {
    const most = evaluation.corners.nominal().channels().slice(1).length;
    expect(most).toBe(others);
    const waits = evaluation.corners
      .nominal()
      .channels()
      .flatMap((channel, k) => {
        if (k === 0) return [];
        const nominal = channel.figure('charge-time').value;
        const high = evaluation.corners.bandOf((reading) => (reading.channels()[k] ?? reading).figure('charge-time')).high;
        return [Math.max(30, 2 * turn) + Math.min(high, 2 * nominal)];
      });
    expect(
      offBy(
        sheet.shot.turns ?? NaN,
        waits.reduce((a, b) => a + b, 0),
      ),
    ).toBeLessThan(1e-9);
    const each = turn + charges.reduce((a, b) => a + b, 0) / others;
    expect(offBy(sheet.shot.expected, V0 * Math.exp(-(sheet.shot.needed + others * each) / sheet.shot.tau))).toBeLessThan(1e-9);
  });

  test('at each step all of them stand lower than before, the one charged first lowest, and at the shot as the sheet says', () => {
    const { course, expected, tau, needed } = sheet.shot;
    const steps = sheet.main.slice(
      sheet.main.findIndex(({ does }) => does === 'charge'),
      sheet.main.findIndex(({ does }) => does === 'fire'),
    );
    expect(course.map(({ step }) => step)).toEqual(steps.map(({ id }) => id));
    for (const { volts } of course) {
      expect(volts).toHaveLength(others + 1);
      expect([...volts].sort((a, b) => a - b)).toEqual([...volts]);
    }
    // The charge ends with the last of them full.
    expect(course[0]?.volts.at(-1)).toBe(V0);
    for (const [k, { volts }] of course.entries()) {
      const after = steps.slice(1, k + 1).reduce((sum, { seconds, wait = 0 }) => sum + seconds + wait, 0);
      expect(offBy(volts.at(-1) ?? NaN, V0 * Math.exp(-after / tau))).toBeLessThan(1e-9);
    }
    // The first falls until the shot, which comes when all of these steps are done and it is fired.
    const isolated = steps
      .slice(
        1,
        steps.findIndex(({ does }) => does === 'isolate'),
      )
      .reduce((sum, { seconds, wait = 0 }) => sum + seconds + wait, 0);
    const fire = sheet.main.find(({ does }) => does === 'fire')?.seconds ?? NaN;
    expect(offBy((course.at(-1)?.volts[0] ?? NaN) * Math.exp((isolated - fire) / tau), expected)).toBeLessThan(1e-9);
    expect(needed).toBe(neededOn(sheet));
    const charge = sheet.main.find(({ does }) => does === 'charge')?.expect ?? [];
    expect(charge.find(({ label }) => label === 'All stores charged within')?.worked.value).toBe(sheet.shot.turns);
    const full = course[0]?.volts.map((V) => printQuantity(V, 'V')).join(', ');
    expect(charge.find(({ label }) => label === 'By then they are at')?.printed).toBe(full);
    // Beside each step between stands what they are at by then.
    const clear = sheet.main.find(({ id }) => id === course[1]?.step);
    const printed = course[1]?.volts.map((V) => printQuantity(V, 'V')).join(', ');
    expect(clear?.expect.find(({ label }) => label === 'By then they are at')?.printed).toBe(printed);
  });
});

describe('a gap that self-breaks', () => {
  const gap = (more: Record<string, string>) =>
    rigWith(
      { 'switch.mode': 'self-break', 'switch.b': '1', 'switch.d': '6 mm', 'switch.p': '0 kPa', 'switch.sc': '2 %', ...more },
      demoRig('kittiwake'),
    );

  test('fires within three deviations of what it holds, and is isolated after the shot', () => {
    const rig = gap({ 'store.V0': '30 kV', 'supply.V': '45 kV', 'store.Vg': '80 kV' });
    const { shot, main } = sheetOf(rig);
    const Vb = evaluateRig(rig).corners.nominal().figure('self-break').value;
    const band = evaluateRig(rig).corners.bandOf((reading) => reading.offer('chargedTo'));
    expect(offBy(shot.expected, Vb)).toBeLessThan(1e-9);
    expect(offBy(shot.low, band.low * 0.94)).toBeLessThan(1e-9);
    expect(offBy(shot.high, band.high * 1.06)).toBeLessThan(1e-9);
    expect(shot).toMatchObject({ within: null, needed: 0, turns: null, mends: [], against: null });
    const at = (does: string) => main.findIndex((step) => step.does === does);
    expect(at('fire')).toBeLessThan(at('isolate'));
    const printed = main
      .find(({ does }) => does === 'fire')
      ?.expect.find(({ label }) => label === 'Voltage at the shot')?.printed;
    expect(printed).toBe(`${printQuantity(Vb, 'V')}, ${printQuantity(shot.low, 'V')} to ${printQuantity(shot.high, 'V')}`);
  });

  test('that holds more than is set never fires, and one of which nobody knows where it breaks is not to be fired', () => {
    const never = sheetOf(gap({ 'store.V0': '8 kV', 'supply.V': '45 kV', 'switch.d': '9 mm' })).shot;
    expect(never.against).toMatch(/^The gap holds .* and 8.00 kV is set: it does not self-break/);
    const wide = sheetOf(gap({ 'store.V0': '60 kV', 'supply.V': '80 kV', 'store.Vg': '90 kV', 'switch.sc': '9 %' })).shot;
    // Three times nine per cent each way: from 73 to 127, less than six tenths.
    expect(wide.against).toMatch(/^The gap fires anywhere from/);
    expect(
      sheetOf(gap({ 'store.V0': '60 kV', 'supply.V': '80 kV', 'store.Vg': '90 kV', 'switch.sc': '7 %' })).shot.against,
    ).toBeNull();
  });
});
