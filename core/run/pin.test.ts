import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { isProofOf, pinCheck, pinPattern, pinProof, planOf, replay, type RunEvent } from './index.ts';

const salt = 'a1b2c3d4e5f60718';
const pins = fc.stringMatching(/^\d{4,8}$/);
// SHA-256 of Node stands outside the project.
const sha = (text: string) => createHash('sha256').update(text, 'utf8').digest('hex');

describe('the PIN of the second person', () => {
  test('is kept as a hash of a hash (held against the SHA-256 of Node), and nothing but the PIN answers it', () => {
    fc.assert(
      fc.property(pins, pins, (pin, other) => {
        const kept = pinCheck(salt, pin);
        expect(pinProof(salt, pin)).toBe(sha(`${salt} ${pin}`));
        expect(kept).toEqual({ salt, check: sha(sha(`${salt} ${pin}`)) });
        expect(JSON.stringify(kept)).not.toContain(`"${pin}"`);
        expect(isProofOf(kept, pinProof(salt, other))).toBe(pin === other);
        expect(isProofOf(kept, kept.check)).toBe(false);
      }),
      { seed: 21 },
    );
    for (const bad of ['', '123', '123456789', '12a4', ' 1234', '١٢٣٤']) expect(pinPattern.test(bad), bad).toBe(false);
  });

  const made = planOf('Thimble', evaluateRig(demoRig('thimble')), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  const { plan } = made;
  const index = plan.main.findIndex(({ second }) => second);
  const step = plan.main[index]?.id ?? '';

  /** A run that stands at the first hold of the second person. */
  function atHold(reads: string | null, pin?: ReturnType<typeof pinCheck>) {
    let n = 0;
    const stamp = () => ({
      id: `00000000-0000-4000-8000-${String(++n).padStart(12, '0')}`,
      at: 1e12 + n * 3_600_000,
      screen: 'one',
    });
    const events: RunEvent[] = [{ ...stamp(), type: 'began', acts: 'AB', reads, ...(pin ? { pin } : {}) }];
    for (const { id, reading } of plan.main.slice(0, index)) {
      if (reading) events.push({ ...stamp(), type: 'read', step: id, value: 0, source: 'typed', confirmed: true });
      events.push({ ...stamp(), type: 'done', step: id });
    }
    const send = (event: object) => {
      events.push({ ...stamp(), ...event } as RunEvent);
      const { state, refusals } = replay(plan, events);
      return { state, refused: refusals.get(events.length - 1)?.code ?? null };
    };
    return send;
  }

  test('opens a hold, and nothing else does: not a wrong one, not none, not “done”', () => {
    const send = atHold('CD', pinCheck(salt, '4711'));
    expect(send({ type: 'answered', step }).refused).toBe('wrong_pin');
    expect(send({ type: 'answered', step, proof: pinProof(salt, '4712') }).refused).toBe('wrong_pin');
    expect(send({ type: 'done', step }).refused).not.toBeNull();
    const answered = send({ type: 'answered', step, proof: pinProof(salt, '4711') });
    expect(answered).toMatchObject({ refused: null, state: { isAnswered: true, index } });
  });

  test('is set anew when it was forgotten, and the old one is none any more; a forgotten PIN locks no charged store away', () => {
    const send = atHold('CD', pinCheck(salt, '4711'));
    expect(send({ type: 'pin-set', pin: pinCheck('00112233445566ff', '8080') }).refused).toBeNull();
    expect(send({ type: 'answered', step, proof: pinProof(salt, '4711') }).refused).toBe('wrong_pin');
    expect(send({ type: 'answered', step, proof: pinProof('00112233445566ff', '8080') }).refused).toBeNull();
    expect(send({ type: 'aborted', reason: '' })).toMatchObject({ refused: null, state: { path: 'abort' } });
  });

  test('is asked of nobody who is alone, nor in a run that was begun before there was one', () => {
    expect(atHold(null, pinCheck(salt, '4711'))({ type: 'answered', step }).refused).toBeNull();
    expect(atHold('CD')({ type: 'answered', step }).refused).toBeNull();
    expect(atHold(null)({ type: 'pin-set', pin: pinCheck(salt, '4711') }).refused).toBe('not_here');
  });
});
