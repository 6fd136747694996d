import { createConnection } from 'node:net';
import { afterEach, expect, test } from 'vitest';
import { benchMeter, charger, scope, type InstrumentKind } from '@vast-surge/core/instrument';
import { InstrumentAway, query } from './link.ts';
import { startStandIn, type StandIn } from './stand-in.ts';

const open: StandIn[] = [];
afterEach(() => {
  for (const standIn of open.splice(0)) standIn.close();
});

async function standing<S>(kind: InstrumentKind<S>, volts = () => 12): Promise<StandIn> {
  const standIn = await startStandIn(kind, { terminal: () => ({ volts: volts(), uniform: () => 0.5 }) });
  open.push(standIn);
  return standIn;
}

/** The answer to pieces of text that are sent as they stand, until the other side ends or falls silent. */
const raw = ({ address }: StandIn, pieces: readonly string[]): Promise<{ text: string; isEnded: boolean }> =>
  new Promise((resolve) => {
    const socket = createConnection(address);
    let text = '';
    const end = (isEnded: boolean) => {
      clearTimeout(timer);
      socket.destroy();
      resolve({ text, isEnded });
    };
    const timer = setTimeout(() => end(false), 400);
    socket.on('data', (piece) => (text += String(piece)));
    socket.on('error', () => undefined);
    socket.on('close', () => end(true));
    for (const piece of pieces) socket.write(piece);
  });

test('a stand-in takes lines however they are cut up, and answers those that ask', async () => {
  const meter = await standing(benchMeter);
  const answers = (text: string) => text.trim().split('\n');
  const whole = await raw(meter, ['*IDN?\nCONF:VOLT:DC 60\nVOLT:DC:RANG?\n']);
  expect(answers(whole.text)).toEqual(['Vast Surge,bench-meter stand-in,0,1', '+6.000000E+1']);
  const cut = await raw(meter, ['*ID', 'N?\r\nMEAS:VO', 'LT:DC?\n']);
  expect(answers(cut.text)[0]).toBe('Vast Surge,bench-meter stand-in,0,1');
  expect(Number(answers(cut.text)[1])).toBeCloseTo(12, 0);
  expect((await raw(meter, ['CONF:VOLT:DC AUTO\n'])).text).toBe('');
});

test('keeps what was set from one caller to the next, and sees its terminals anew each time', async () => {
  let volts = 0;
  const standIn = await standing(charger, () => volts);
  expect(await query(standIn.address, 'VOLT 400;OUTP ON;OUTP?')).toBe('1');
  volts = 405;
  expect(await query(standIn.address, 'OUTP?')).toBe('0');
  expect(await query(standIn.address, 'VOLT?')).toBe('+4.000000E+2');
});

test('a line that never ends is cut off, and the next caller is served all the same', async () => {
  const meter = await standing(benchMeter);
  expect((await raw(meter, ['x'.repeat(10_000)])).isEnded).toBe(true);
  expect(await query(meter.address, '*OPC?')).toBe('1');
});

test('a long record comes whole; an instrument that is gone, ends the connection or says nothing is told by its address', async () => {
  const wave = await standing(scope);
  const record = await query(wave.address, 'ACQ:POIN 10000;CURV?');
  expect(record.split(',')).toHaveLength(10_000);
  await expect(query(wave.address, 'ACQ:POIN 100', 300)).rejects.toThrow(/did not answer within 0\.3 s/);
  wave.close();
  const gone = await standing(benchMeter);
  gone.close();
  await new Promise((resolve) => setTimeout(resolve, 20));
  await expect(query(gone.address, '*IDN?')).rejects.toThrow(InstrumentAway);
  await expect(query(gone.address, '*IDN?')).rejects.toThrow(/127\.0\.0\.1:\d+ is not reached/);
});
