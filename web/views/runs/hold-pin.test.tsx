// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, test } from 'vitest';
import { isProofOf, pinCheck, pinProof, type PinCheck } from '@vast-surge/core/run';
import { clear } from '../../test/render.tsx';
import { plannedRun } from '../../test/run.ts';
import { BeginForm } from './begin-form.tsx';
import { HoldPin } from './hold-pin.tsx';
import { asSaid } from './sound.ts';

afterEach(clear);
const hand = userEvent.setup({ delay: null });

describe('who runs it', () => {
  test('two people are named, the reader has a PIN, and what is wrong is said by its field; the PIN itself is not kept', async () => {
    const begun: { acts: string; reads: string | null; pin?: PinCheck }[] = [];
    render(<BeginForm plan={plannedRun('thimble').plan} onBegin={(who) => void begun.push(who)} />);
    const begin = () => hand.click(screen.getByRole('button', { name: 'Begin' }));
    await begin();
    expect(screen.getAllByRole('alert').map((a) => a.textContent)).toEqual([
      expect.stringContaining('two different people'),
      'PIN must be four to eight digits.',
    ]);
    await hand.type(screen.getByLabelText('Key holder, who acts'), 'iw');
    await hand.type(screen.getByLabelText('Reader'), 'to');
    await hand.type(screen.getByLabelText('PIN of the reader'), '12ab');
    await begin();
    expect(begun).toEqual([]);
    await hand.clear(screen.getByLabelText('PIN of the reader'));
    await hand.type(screen.getByLabelText('PIN of the reader'), '4711');
    await begin();
    const [who] = begun;
    expect(who).toMatchObject({ acts: 'IW', reads: 'TO' });
    expect(JSON.stringify(who)).not.toContain('4711');
    expect(who?.pin && isProofOf(who.pin, pinProof(who.pin.salt, '4711'))).toBe(true);
  });

  test('a forgotten PIN is set anew by its person, and not with letters', async () => {
    const set: PinCheck[] = [];
    const pin = pinCheck('0011223344556677', '4711');
    render(<HoldPin reads="TO" pin={pin} onProof={() => undefined} onSet={(p) => void set.push(p)} />);
    await hand.click(screen.getByRole('button', { name: 'PIN forgotten' }));
    await hand.type(screen.getByLabelText('New PIN of TO'), 'abcd{Enter}');
    expect(set).toEqual([]);
    await hand.clear(screen.getByLabelText('New PIN of TO'));
    await hand.type(screen.getByLabelText('New PIN of TO'), '8080{Enter}');
    expect(set).toHaveLength(1);
    expect(set[0]?.salt).not.toBe(pin.salt);
    expect(screen.getByLabelText('TO, your PIN')).toBeTruthy();
  });
});

test.each([
  ['Still charged. 35.9 V.', 'Still charged. 35.9 volts.'],
  ['Read -7.70 kV.', 'Read minus 7.70 kilovolts.'],
  ['Wait 2 min 33 s.', 'Wait 2 minutes 33 seconds.'],
  ['Below 12 mV at the meter', 'Below 12 millivolts at the meter'],
])('%s is said as %s', (text, said) => expect(asSaid(text)).toBe(said));
