// Studies of a rig: what a sample costs beside the full evaluation, and what a second worker brings: part of npm run bench.
import { evaluateRig } from '../core/evaluation/index.ts';
import { samplerOf, scatterChunk } from '../core/study/index.ts';
import { demoRig } from '../core/test/rigs.ts';
import { inTurns, oneAndTwo } from './bench-tools.ts';

const scatter = {
  outputs: ['peak-current', 'stored-energy'],
  seed: 1,
  distribution: 'uniform',
  withModel: false,
  withShots: false,
} as const;

export async function benchStudy(): Promise<string[]> {
  const lines = ['A sample of a study (two figures) beside one full evaluation with its working'];
  for (const name of ['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'] as const) {
    const rig = demoRig(name);
    const sampler = samplerOf(rig, scatter);
    let at = 0;
    const [full = 0, hundred = 0] = inTurns(
      9,
      () => void evaluateRig({ ...rig }),
      () => {
        for (let i = 0; i < 100; i++, at++) sampler.read(sampler.drawn(at), at);
      },
    );
    const sample = hundred / 100;
    lines.push(
      `  ${name}: ${(full / sample).toFixed(0)} times as fast (at least 20); 10,000 samples are ${((sample * 10_000) / 1000).toFixed(1)} s of one core`,
    );
  }
  const { gain } = await oneAndTwo('./bench-study-worker.ts', 4000);
  lines.push(`  two workers ${gain.toFixed(2)} times one (1.8 wanted)`, '');
  return lines;
}

/** Samples of Anvil, for a worker of the bench. */
export const someSamples = (count: number): void => void scatterChunk(demoRig('anvil'), scatter, 0, count);
