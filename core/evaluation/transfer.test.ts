import { expect, test } from 'vitest';
import { workingOf } from '../formula/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { runSheetOf } from '../runsheet/index.ts';
import { demoRig } from '../test/rigs.ts';
import { evaluateRig, evaluationData, figureIn, packEvaluation, unpackEvaluation } from './index.ts';

test.each(['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const)(
  'the evaluation of %s goes to another thread and comes out as it was, with its working and its corners',
  (name) => {
    const rig = demoRig(name);
    const made = evaluateRig(rig);
    // What a worker sends is cloned on its way.
    const come = unpackEvaluation(rig, structuredClone(packEvaluation(made)));
    expect(evaluationData(come)).toEqual(evaluationData(made));
    expect(come.hazard).toEqual(made.hazard);
    const [there, here] = [figureIn(come, 'stored-energy'), figureIn(made, 'stored-energy')];
    if (!there || !here) throw new Error('no stored energy');
    expect(workingOf(there.worked)).toEqual(workingOf(here.worked));
    expect(come.corners.bandOf((reading) => reading.figure('stored-energy'))).toEqual(here.band);
    // A sheet prints the worst case of the very figures that are shown.
    expect(runSheetOf(name, come, noSheetEdits)).toEqual(runSheetOf(name, made, noSheetEdits));
  },
);

test('one that names a formula which is not there is a fault of the program', () => {
  const rig = demoRig('thimble');
  const text = JSON.stringify(packEvaluation(evaluateRig(rig)));
  const spoilt = JSON.parse(text.replaceAll('"formula":"', '"formula":"no-')) as never;
  expect(() => unpackEvaluation(rig, spoilt)).toThrow(/no formula no-/);
});
