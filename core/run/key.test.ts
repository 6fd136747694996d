import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { cameFrom, keyAnswerTime, planOf, replay, runEventSchema, type RunEvent } from './index.ts';

const made = planOf('Thimble', evaluateRig(demoRig('thimble')), noSheetEdits);
if (!made.ok) throw new Error(made.reason);
const { plan } = made;

const [holder, reader] = ['00000000-0000-4000-8000-00000000000a', '00000000-0000-4000-8000-00000000000b'];
type Screen = 'holder' | 'holders-other' | 'reader' | 'guest';
const accountOf: Record<Screen, string | null> = { holder, 'holders-other': holder, reader, guest: null };

/** A run of a workshop with accounts; each screen has a clock of its own, s ahead of the first. */
function workshopRun(ahead: Partial<Record<Screen, number>> = {}) {
  const events: RunEvent[] = [];
  let now = 1e9;
  const send = (screen: Screen, bare: object, after = 1): string | null => {
    now += after;
    const n = events.length;
    const stamped = cameFrom(accountOf[screen], bare as RunEvent);
    const event = {
      ...stamped,
      id: `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`,
      at: (now + (ahead[screen] ?? 0)) * 1000,
      screen,
    };
    events.push(runEventSchema.parse(event));
    return replay(plan, events).refusals.get(n)?.code ?? null;
  };
  send('holder', { type: 'began', acts: 'AB', reads: 'CD' });
  return { send, events, state: () => replay(plan, events).state };
}

describe('the key of a run', () => {
  test('is asked for, and given, kept, or taken after no answer; one’s own other device asks nobody', () => {
    const { send, state } = workshopRun({ reader: 5000 });
    expect(state()).toMatchObject({ isAskedFirst: true, account: holder });
    expect(send('reader', { type: 'took-over', by: 'CD' })).toBe('not_asked');
    expect(send('holder', { type: 'gave-key' })).toBe('not_asked');
    expect(send('holder', { type: 'asked-for-key', by: 'AB' })).toBe('has_key');
    expect(send('reader', { type: 'asked-for-key', by: 'CD' })).toBeNull();
    expect(send('reader', { type: 'took-over', by: 'CD' }, keyAnswerTime / 2)).toBe('key_unanswered');
    // Who watches cannot answer for who acts.
    expect(send('reader', { type: 'gave-key' })).toBe('not_yours');
    expect(send('holder', { type: 'kept-key' })).toBeNull();
    expect(send('reader', { type: 'took-over', by: 'CD' }, 10 * keyAnswerTime)).toBe('not_asked');
    // Given, and until it is taken nothing has changed.
    send('reader', { type: 'asked-for-key', by: 'CD' });
    expect(send('holder', { type: 'gave-key' })).toBeNull();
    expect(state().actor).toBe('holder');
    expect(send('reader', { type: 'took-over', by: 'CD' })).toBeNull();
    expect(state()).toMatchObject({ actor: 'reader', acts: 'CD', account: reader, asking: null });
    // The first one's screen is dead: after the time to answer it is taken.
    send('holder', { type: 'asked-for-key', by: 'AB' });
    expect(send('holder', { type: 'took-over', by: 'AB' }, keyAnswerTime + 1)).toBeNull();
    expect(send('holders-other', { type: 'took-over', by: 'AB' })).toBeNull();
  });

  test('asking moves no wait, whatever clock it is asked by', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e6, max: 1e6 }), fc.boolean(), (ahead, isKept) => {
        const { send, state } = workshopRun({ reader: ahead });
        const before = state();
        send('reader', { type: 'asked-for-key', by: 'CD' });
        expect(state()).toMatchObject({ enteredAt: before.enteredAt, lastAt: before.lastAt, index: before.index });
        if (isKept) send('holder', { type: 'kept-key' });
        expect(state().enteredAt).toBe(before.enteredAt);
      }),
      { seed: 25, numRuns: 30 },
    );
  });

  test('never passes to another account without its word or its silence', () => {
    const said = {
      'asked-for-key': { by: 'XY' },
      'took-over': { by: 'XY' },
      aborted: { reason: '' },
      'gave-key': {},
      'kept-key': {},
    };
    const act = fc.record({
      screen: fc.constantFrom<Screen>('holder', 'holders-other', 'reader', 'guest'),
      type: fc.constantFrom<keyof typeof said>('asked-for-key', 'gave-key', 'kept-key', 'took-over', 'aborted'),
      after: fc.integer({ min: 1, max: 30 }),
    });
    let passed = 0;
    fc.assert(
      fc.property(fc.array(act, { minLength: 5, maxLength: 40 }), (acts) => {
        const { send, state } = workshopRun();
        /** What a bystander notes: who asked last and how long ago, and whether they were given it. */
        let asked: { screen: Screen; ago: number; given: boolean } | null = null;
        for (const { screen, type, after } of acts) {
          const before = state();
          const refused = send(screen, { type, ...said[type] }, after);
          if (asked) asked.ago += after;
          if (type === 'took-over' && state().actor !== before.actor) {
            const isOwn = accountOf[screen] !== null && accountOf[screen] === before.account;
            expect(isOwn || (asked?.screen === screen && (asked.given || asked.ago >= keyAnswerTime))).toBe(true);
            passed += isOwn ? 0 : 1;
          }
          if (refused !== null) continue;
          if (type === 'asked-for-key') asked = { screen, ago: 0, given: false };
          else if (type === 'gave-key' && asked) asked.given = true;
          else if (type === 'kept-key' || type === 'took-over') asked = null;
          // An abort is everybody's.
          else if (type === 'aborted') expect(state().path).toBe('abort');
        }
      }),
      { seed: 26, numRuns: 300 },
    );
    expect(passed).toBeGreaterThan(20);
  });

  test('in a run without accounts, or from before keys were asked for, is taken as ever', () => {
    const alone = workshopRun();
    const old = alone.events.map((event) => (event.type === 'began' ? { ...event, takeOver: undefined } : event));
    const later = { id: '00000000-0000-4000-8000-000000000099', at: 2e12, screen: 'reader', account: reader } as const;
    expect(replay(plan, [...old, { ...later, type: 'took-over', by: 'CD' }]).state.actor).toBe('reader');
    // A page cannot claim an account, nor that keys are asked for.
    expect(cameFrom(null, { type: 'began', account: holder, takeOver: 'asked' } as never)).toEqual({ type: 'began' });
    expect(cameFrom(reader, { type: 'took-over', account: holder } as never)).toEqual({ type: 'took-over', account: reader });
    expect(cameFrom(reader, { type: 'done', step: 'x' })).toEqual({ type: 'done', step: 'x' });
  });
});
