import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { uniforms } from '../numeric/index.ts';
import {
  benchMeter,
  charger,
  fieldMeter,
  highVoltageProbe,
  overRange,
  pressureGauge,
  respond,
  scope,
  scopeRecord,
  startInstrument,
  type InstrumentKind,
  type InstrumentState,
} from './index.ts';

const uniform = uniforms(5);

/** An instrument at the end of a wire: what is sent, and what stands at its inputs. */
function wired<S>(kind: InstrumentKind<S>, volts = 0, own?: Partial<S>) {
  let state: InstrumentState<S> = startInstrument(kind);
  if (own) state = { ...state, own: { ...state.own, ...own } };
  const at = { volts, pressure: 101_325, uniform };
  return {
    at,
    ask: (line: string) => {
      const answer = respond(kind, state, line, at);
      state = answer.state;
      return answer.reply;
    },
  };
}

const kinds = [benchMeter, highVoltageProbe, fieldMeter, charger, pressureGauge, scope] as InstrumentKind<unknown>[];

describe('the commands', () => {
  test.each(kinds.map((k) => [k.kind, k] as const))(
    'of a %s: the common ones, short and long forms, errors that are kept in a row',
    (name, kind) => {
      const wire = wired(kind);
      expect(wire.ask('*IDN?')).toBe(`Vast Surge,${name} stand-in,0,1`);
      expect(wire.ask('*RST;*CLS;*OPC?')).toBe('1');
      expect(wire.ask('NONSENSE 3')).toBeNull();
      expect(wire.ask('*ESR?;SYST:ERR?;:SYSTem:ERRor?')).toBe('32;-113,"Undefined header";0,"No error"');
      expect(wire.ask('x'.repeat(600))).toBeNull();
      expect(wire.ask('syst:err?')).toBe('-363,"Input buffer overrun"');
      const [query = ''] = Object.keys(kind.commands).filter((h) => h.endsWith('?'));
      expect([typeof wire.ask(query), typeof wire.ask(query.replace(/[a-z]+/g, ''))]).toEqual(['string', 'string']);
    },
  );

  test('no line whatever makes one throw, and none answers without being asked', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.array(fc.string({ unit: 'binary', maxLength: 40 }), { maxLength: 6 }),
        (kind, lines) => {
          const wire = wired(kind, 12);
          for (const line of lines) {
            const reply = wire.ask(line);
            if (!line.includes('?')) expect(reply).toBeNull();
          }
        },
      ),
    );
  });
});

describe('what they show', () => {
  const number = (text: string | null) => Number(text);

  test('a meter reads to its half per cent, tells above its range, and shows zero for good after an overload', () => {
    for (const volts of [0.02, 3.8, -48, 560]) {
      const wire = wired(benchMeter, volts);
      for (let i = 0; i < 50; i++) expect(Math.abs(number(wire.ask('MEAS:VOLT:DC?')) / volts - 1)).toBeLessThan(0.025);
    }
    const fixed = wired(benchMeter, 48);
    fixed.ask('CONF:VOLT:DC 6');
    expect(number(fixed.ask('READ?'))).toBe(overRange);
    fixed.ask('CONF:VOLT:DC AUTO');
    expect(number(fixed.ask('READ?'))).toBeCloseTo(48, -0.5);
    fixed.ask('CONF:VOLT:DC 5000');
    expect(fixed.ask('SYST:ERR?')).toBe('-222,"Data out of range"');
    const dead = wired(benchMeter, 1300);
    expect(number(dead.ask('READ?'))).toBe(0);
    dead.at.volts = 300;
    expect(number(dead.ask('READ?'))).toBe(0);
  });

  test('a flat battery shows too little, a lead that is off nothing; a probe without its earth next to nothing', () => {
    expect(number(wired(benchMeter, 100, { gain: 0.35 }).ask('READ?'))).toBeCloseTo(35, 0);
    expect(Math.abs(number(wired(benchMeter, 100, { gain: 0 }).ask('READ?')))).toBeLessThan(0.01);
    expect(number(wired(highVoltageProbe, 20e3).ask('MEAS:VOLT:DC?')) / 20e3).toBeCloseTo(1, 1);
    expect(number(wired(highVoltageProbe, 20e3, { isEarthed: false }).ask('MEAS:VOLT:DC?'))).toBeLessThan(1000);
    expect(number(wired(highVoltageProbe, 60e3).ask('MEAS:VOLT:DC?'))).toBeLessThan(40e3);
    const near = wired(fieldMeter, 5000);
    near.ask('DIST 0.05');
    expect(number(near.ask('MEAS:VOLT:STAT?')) / 2500).toBeCloseTo(1, 0);
  });

  test('a charger stops at what is set, unless its cut-off does not act; a gauge hangs after too much', () => {
    for (const [isStuck, after] of [
      [false, '0'],
      [true, '1'],
    ] as const) {
      const wire = wired(charger, 0, { isStuck });
      wire.ask('OUTP ON');
      expect(wire.ask('OUTP?')).toBe('0');
      wire.ask('VOLT 400;OUTP ON');
      expect(wire.ask('VOLT?;OUTP?')).toBe('+4.000000E+2;1');
      wire.at.volts = 401;
      expect(wire.ask('OUTP?')).toBe(after);
    }
    const gauge = wired(pressureGauge);
    gauge.at.pressure = 101_325 + 150e3;
    expect(number(gauge.ask('MEAS:PRES?'))).toBeCloseTo(150e3, -4);
    gauge.at.pressure = 101_325 + 900e3;
    gauge.ask('MEAS:PRES?');
    gauge.at.pressure = 101_325;
    expect(number(gauge.ask('MEAS:PRES?'))).toBe(400e3);
  });
});

describe('a scope', () => {
  const sine = (f: number, amplitude: number) => ({
    volts: 0,
    uniform,
    signal: (t: number) => amplitude * Math.sin(2 * Math.PI * f * t),
  });
  const rms = (record: Float64Array, from: number) =>
    Math.sqrt(record.subarray(from).reduce((s, v) => s + v * v, 0) / (record.length - from));
  const settings = { bandwidth: 1e6, rate: 50e6, length: 5000, fullScale: 2, probe: 1 };

  test('has lost 3 dB at its bandwidth and nothing far below it, as one pole does', () => {
    for (const [f, gain] of [
      [1e5, 1 / Math.hypot(1, 0.1)],
      [1e6, Math.SQRT1_2],
      [4e6, 1 / Math.hypot(1, 4)],
    ] as const)
      expect(rms(scopeRecord(settings, sine(f, 1)), 500) * Math.SQRT2).toBeCloseTo(gain, 1.5);
  });

  test('folds down what is faster than half its rate: 0.9 of the rate looks like 0.1 of it', () => {
    const record = scopeRecord({ ...settings, bandwidth: 1e9, rate: 1e6, length: 1000 }, sine(0.9e6, 1));
    const crossings = record.reduce((n, v, i) => n + (i > 0 && v >= 0 !== (record[i - 1] ?? 0) >= 0 ? 1 : 0), 0);
    expect(crossings / 2 / (1000 / 1e6) / 1e5).toBeCloseTo(1, 1);
  });

  test('cuts off what is above full scale, and does not tell the height of it', () => {
    const record = scopeRecord({ ...settings, probe: 10 }, sine(1e5, 50));
    expect(Math.max(...record)).toBeLessThanOrEqual(20);
    const at = sine(1e5, 50);
    const asked = respond(scope, { own: { ...settings, probe: 10 }, errors: [] }, 'MEAS:VPP?', at);
    expect(Number(asked.reply)).toBe(overRange);
    expect(Number(respond(scope, { own: { ...settings, probe: 100 }, errors: [] }, 'MEAS:VPP?', at).reply)).toBeCloseTo(100, -1);
  });
});
