// Draws what was measured in the demo's shot log anew: npm run draw-shots. The rigs that fired have values of their own within the tolerances,
// leads that lie otherwise than entered, and the noise of an instrument: all hidden from the prediction. The seed is fixed.
import { readFileSync, writeFileSync } from 'node:fs';
import { slots } from '../core/block/index.ts';
import { readRigFile } from '../core/format/index.ts';
import { bounds } from '../core/quantity/index.ts';
import { normals, uniforms } from '../core/numeric/index.ts';
import { blockIn, withTrialValue, type Rig } from '../core/rig/index.ts';
import { rigAsSet, type Values } from '../core/shot/index.ts';
import { predictedNumbers } from '../core/study/index.ts';

const file = new URL('../demo/record/shots.json', import.meta.url);
const log = JSON.parse(readFileSync(file, 'utf8')) as Record<
  string,
  { shots: { outcome: string; remarks: string; set: Values; measured: Record<string, number> }[] }
>;

const rigOf = (name: string): Rig => {
  const read = readRigFile(readFileSync(new URL(`../demo/${name}.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(`${name} cannot be read`);
  return read.document.rig;
};

const [uniform, normal] = [uniforms(4711), normals(4712)];

/** The rig as it truly is: every value somewhere within its tolerance. */
function truthOf(rig: Rig): Rig {
  return slots.reduce<Rig>(
    (made, slot) =>
      Object.entries(blockIn(rig, slot).fields).reduce<Rig>((of, [field, value]) => {
        // The voltage is set anew at every shot.
        if (typeof value !== 'object' || value === null || !value.tolerance || `${slot}.${field}` === 'store.V0') return of;
        const { low, high } = bounds(value);
        return withTrialValue<string>(of, `${slot}.${field}`, low + (high - low) * uniform());
      }, made),
    rig,
  );
}

const digits = (x: number, n: number) => Number(x.toPrecision(n));

for (const [name, { shots }] of Object.entries(log)) {
  const truth = truthOf(rigOf(name));
  // Leads and contacts, once for the rig; what differs from shot to shot; what the instrument rounds.
  const [leads, slower] = [1 + 0.03 * normal(), 1 + 0.04 * normal()];
  for (const shot of shots) {
    if (shot.measured['current'] === undefined) continue;
    const at = rigAsSet(truth, shot.set);
    const { current, time } = predictedNumbers(at);
    const wrong = shot.remarks.includes('times ten') ? 1.3 : shot.outcome === 'partial' ? 0.42 : 1;
    if (current !== null) shot.measured['current'] = digits(current * leads * wrong * (1 + 0.012 * normal()), 3);
    if (time !== null && shot.measured['time'] !== undefined)
      shot.measured['time'] = digits(time * slower * (1 + 0.03 * normal()), 2);
  }
}
writeFileSync(file, `${JSON.stringify(log, null, 2)}\n`);
