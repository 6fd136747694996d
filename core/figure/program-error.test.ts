import { expect, test } from 'vitest';
import { Unavailable } from '../block/index.ts';
import { blockDefinitions, checkPath } from '../kind/index.ts';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { reliefOf } from '../limit/relief.ts';
import { newRig } from '../rig/index.ts';
import { ifKnown, RigReading } from './index.ts';

const rig = newRig();

test('a name that nothing declares is a fault of the program, never a number that is not known', () => {
  const reading = new RigReading(rig);
  const faults: (() => unknown)[] = [
    () => reading.figure('water-feild'),
    () => ifKnown(() => reading.figure('water-feild').value),
    () => reading.own('store').quantity('rhoo'),
    () => reading.own('store').optional('rhoo'),
    () => reading.own('switch').choice('moode'),
    () => reading.own('switch').lines('seeen'),
    () => figureIn(evaluateRig(rig), 'stored-energie'),
    () => {
      const worked = reading.figure('stored-energy');
      return reliefOf(
        rig,
        { id: 'x', title: 'x', slot: 'store', stress: () => worked, rating: () => worked, levers: ['load.lenght'] },
        {},
        1,
      );
    },
  ];
  for (const fault of faults) expect(fault).toThrow(/fault of this program/);
  // What another kind of block would have is merely absent here.
  expect(() => reading.figure('marx-output-voltage')).toThrow(Unavailable);
  expect(ifKnown(() => reading.figure('marx-output-voltage').value)).toBeNull();
});

test('every lever of every limit names a field that a block has', () => {
  const levers = blockDefinitions.flatMap((d) => (d.limits ?? []).flatMap((limit) => limit.levers));
  expect(levers.length).toBeGreaterThan(50);
  for (const lever of levers) expect(() => checkPath(lever)).not.toThrow();
});
