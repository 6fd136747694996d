import { describe, expect, test } from 'vitest';
import { changeKind, blockDefinition, kindsOf } from '../kind/index.ts';
import { blockIn, newRig, withBlock, withLoadKind } from '../rig/index.ts';
import type { Slot } from '../block/index.ts';
import { demoRig } from '../test/rigs.ts';
import { evaluateRig, neighboursOf } from './index.ts';

const withKind = (slot: Slot, kind: string, from = newRig()) => {
  const block = blockIn(from, slot);
  const next = changeKind(block, blockDefinition(slot, block.kind), blockDefinition(slot, kind));
  return slot === 'load' ? withLoadKind(from, next) : withBlock(from, slot, next);
};

const errors = (rig: ReturnType<typeof newRig>) => evaluateRig(rig).problems.filter(({ severity }) => severity === 'error');

describe('neighbours of a block whose kind was chosen', () => {
  test.each(
    (['store', 'load', 'switch', 'supply'] as const).flatMap((slot) =>
      kindsOf(slot).map((definition) => [slot, definition.kind] as const),
    ),
  )('%s, %s: what is offered has no error, and keeps what was chosen', (slot, kind) => {
    const rig = withKind(slot, kind);
    const offer = neighboursOf(rig, slot);
    if (offer === null) return;
    expect(errors(offer.rig)).toEqual([]);
    expect(blockIn(offer.rig, slot).kind).toBe(kind);
    expect(offer.changed.length).toBeGreaterThan(0);
    // Everything brought along counts as assumed.
    const assumed = Object.values(blockIn(offer.rig, 'supply').fields).filter((v) => typeof v === 'object' && v !== null);
    if (offer.changed.includes('Supply')) expect(assumed.some((v) => v.from === 'default')).toBe(true);
  });

  test('a Marx generator in a rig of 60 V is offered a supply that charges it, a bleeder and a meter that bear it', () => {
    const offer = neighboursOf(withKind('store', 'marx'), 'store');
    expect(offer).not.toBeNull();
    expect(offer?.changed).toEqual(expect.arrayContaining(['Supply', 'Meter']));
    if (!offer) return;
    const evaluation = evaluateRig(offer.rig);
    const reach = evaluation.corners.nominal().figure('charge-towards').value;
    expect(reach).toBeGreaterThan(evaluation.corners.nominal().offer('chargedTo').value);
  });

  test('where nothing is wrong nothing is offered', () => {
    for (const name of ['thimble', 'kittiwake'] as const) expect(neighboursOf(demoRig(name), 'store')).toBeNull();
  });
});
