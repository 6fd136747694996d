import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { readRigFile } from '@vast-surge/core/format';
import { launchStudy } from '@vast-surge/core/study';
import { branchesOf } from './energy-branches.ts';

test('the branches of a launch sum up to what was stored, within what the run itself leaves unaccounted for', () => {
  const read = readRigFile(readFileSync('demo/shuttle.json', 'utf8'));
  if (!read.ok) throw new Error('the demo cannot be read');
  const study = launchStudy(read.document.rig, String);
  if (!study) throw new Error('nothing is launched');
  const { left, out } = branchesOf(study);
  const sum = out.reduce((all, { joules }) => all + joules, left.joules);
  const { stored } = study.energy;
  expect(Math.abs(sum - stored) / stored).toBeLessThan(Math.max(1e-3, 2 * study.run.closure));
  expect(new Set(out.map(({ name }) => name)).size).toBe(out.length);
});
