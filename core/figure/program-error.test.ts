import { expect, test } from 'vitest';
import { Unavailable } from '../block/index.ts';
import { blockDefinitions, checkPath } from '../kind/index.ts';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { ruled, storeFormulas, work } from '../formula/index.ts';
import { reliefOf } from '../limit/relief.ts';
import { newRig } from '../rig/index.ts';
import { ifKnown, RigReading } from './index.ts';

const rig = newRig();

test('a name that nothing declares is a fault of the program, never a number that is not known', () => {
  const reading = new RigReading(rig);
  const faults: (() => unknown)[] = [
    // @ts-expect-error -- and it does not compile
    () => reading.figure('water-feild'),
    // @ts-expect-error -- and it does not compile
    () => ifKnown(() => reading.figure('water-feild').value),
    // @ts-expect-error -- and it does not compile
    () => reading.own('store').quantity('rhoo'),
    // @ts-expect-error -- and it does not compile
    () => reading.own('store').optional('rhoo'),
    // @ts-expect-error -- and it does not compile
    () => reading.own('switch').choice('moode'),
    // @ts-expect-error -- and it does not compile
    () => reading.own('switch').lines('seeen'),
    // @ts-expect-error -- and it does not compile
    () => figureIn(evaluateRig(rig), 'stored-energie'),
    // @ts-expect-error -- and it does not compile
    () => reading.own('switch').is('mode', 'trigered'),
    () => {
      const worked = reading.figure('stored-energy');
      const levers = ['load.lenght'] as const;
      // @ts-expect-error -- and it does not compile
      return reliefOf(rig, { id: 'x', title: 'x', slot: 'store', stress: () => worked, rating: () => worked, levers }, {}, 1);
    },
  ];
  for (const fault of faults) expect(fault).toThrow(/fault of this program/);
  // What another kind of block would have is merely absent here.
  expect(() => reading.figure('marx-output-voltage')).toThrow(Unavailable);
  expect(ifKnown(() => reading.figure('marx-output-voltage').value)).toBeNull();
});

test('a number in another unit than its symbol has is a fault of the program', () => {
  const C = ruled('a resistance taken for a capacitance', 47, 'Ω', 'test');
  const V = ruled('voltage', 12, 'V', 'test');
  expect(() => work(storeFormulas.storedEnergy, { C, V })).toThrow(/stored-energy: C is in F, and .* in Ω/);
});

test('every lever of every limit names a field that a block has', () => {
  const levers = blockDefinitions.flatMap((d) => (d.limits ?? []).flatMap((limit) => limit.levers));
  expect(levers.length).toBeGreaterThan(50);
  for (const lever of levers) expect(() => checkPath(lever)).not.toThrow();
});
