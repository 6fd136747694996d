import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chainFaults, chainHoles, chainState, type Chain, type Hands } from './index.ts';

const sound: Chain = { doorContacts: 2, hasStop: true, hasKey: true, dumpsBy: 'falling', dumps: 1, charger: true, trigger: true };
const said = (chain: Chain, strict = false) => chainHoles(chain, strict).map(({ fault, what }) => `${fault.id}: ${what}`);

/** What a model checker would answer, worked by hand: every state with the door open, the key on, and one thing broken. */
describe('three chains by hand', () => {
  test('two door contacts, dump that falls in, charger and trigger in the chain: no single failure leaves anything live', () => {
    expect(said(sound)).toEqual([]);
    // With a large store the dump that sticks counts; a second one mends it.
    expect(said(sound, true)).toEqual(['dump-1: the dump is open']);
    expect(said({ ...sound, dumps: 2 }, true)).toEqual([]);
  });

  test('one door contact: its weld leaves all three live, and nothing else does', () => {
    expect(said({ ...sound, doorContacts: 1 })).toEqual([
      'door-1: the dump is open',
      'door-1: the charger is on',
      'door-1: the trigger is live',
    ]);
  });

  test('a dump that is driven, the trigger not in the chain: the dump fails with the power, the trigger is live whatever breaks', () => {
    const chain: Chain = { ...sound, dumpsBy: 'driven', trigger: false };
    expect(said(chain)).toEqual([
      'none: the trigger is live',
      'door-1: the trigger is live',
      'door-2: the trigger is live',
      'stop: the trigger is live',
      'key: the trigger is live',
      'dump-1: the trigger is live',
      'power: the dump is open',
    ]);
  });
});

const anyChain = fc.record({
  doorContacts: fc.integer({ min: 0, max: 2 }),
  hasStop: fc.boolean(),
  hasKey: fc.boolean(),
  dumpsBy: fc.constantFrom('falling' as const, 'driven' as const),
  dumps: fc.integer({ min: 0, max: 3 }),
  charger: fc.boolean(),
  trigger: fc.boolean(),
});
const anyHands: fc.Arbitrary<Hands> = fc.record({
  doorOpen: fc.boolean(),
  keyOn: fc.boolean(),
  stopPressed: fc.boolean(),
  dumpAsked: fc.boolean(),
});

describe('laws of any chain', () => {
  test('dumps that fall in close whenever the power is lost, whoever does what', () => {
    fc.assert(
      fc.property(anyChain, anyHands, (chain, hands) => {
        const power = chainFaults(chain).find(({ id }) => id === 'power');
        const state = chainState(chain, hands, power);
        if (chain.dumpsBy === 'falling' && chain.dumps > 0) expect(state.dumpClosed).toBe(true);
        if (chain.charger) expect(state.chargerOn).toBe(false);
      }),
      { seed: 22 },
    );
  });

  test('another contact in the chain never makes more live', () => {
    fc.assert(
      fc.property(anyChain, anyHands, (chain, hands) => {
        const more = { ...chain, doorContacts: 2, hasStop: true, hasKey: true };
        const [was, is] = [chainState(chain, hands), chainState(more, hands)];
        if (chain.charger) expect(Number(is.chargerOn)).toBeLessThanOrEqual(Number(was.chargerOn));
        if (chain.trigger) expect(Number(is.triggerLive)).toBeLessThanOrEqual(Number(was.triggerLive));
      }),
      { seed: 22 },
    );
  });

  test('a hole is never reported of a fault that the chain cannot have', () => {
    fc.assert(
      fc.property(anyChain, fc.boolean(), (chain, strict) => {
        const known = new Set(chainFaults(chain).map(({ id }) => id));
        for (const { fault } of chainHoles(chain, strict)) expect(known.has(fault.id)).toBe(true);
      }),
      { seed: 22 },
    );
  });
});
