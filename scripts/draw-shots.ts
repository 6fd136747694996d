// Draws what was measured in the demo's shot log anew: npm run draw-shots. The rigs that fired have values of their own within the tolerances,
// leads that lie otherwise than entered, and the noise of an instrument: all hidden from the prediction. The seed is fixed.
import { readFileSync, writeFileSync } from 'node:fs';
import { planSeries, type CampaignPlan, type Stock } from '../core/campaign/index.ts';
import { slots } from '../core/block/index.ts';
import { readRigFile } from '../core/format/index.ts';
import { bounds } from '../core/quantity/index.ts';
import { normals, uniforms } from '../core/numeric/index.ts';
import { blockIn, withTrialValue, type Rig, type RigDocument } from '../core/rig/index.ts';
import { rigAsSet, type Values } from '../core/shot/index.ts';
import { predictedNumbers } from '../core/study/index.ts';

const file = new URL('../demo/record/shots.json', import.meta.url);
const log = JSON.parse(readFileSync(file, 'utf8')) as Record<
  string,
  { shots: { outcome: string; remarks: string; set: Values; measured: Record<string, number> }[] }
>;

const documentOf = (name: string): RigDocument => {
  const read = readRigFile(readFileSync(new URL(`../demo/${name}.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(`${name} cannot be read`);
  return read.document;
};
const rigOf = (name: string): Rig => documentOf(name).rig;

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

/** The rigs as they truly are, with what their leads add: the same for every shot of one. */
const truths = new Map<string, { readonly truth: Rig; readonly leads: number }>();

for (const [name, { shots }] of Object.entries(log)) {
  const truth = truthOf(rigOf(name));
  // Leads and contacts, once for the rig; what differs from shot to shot; what the instrument rounds.
  const [leads, slower] = [1 + 0.03 * normal(), 1 + 0.04 * normal()];
  truths.set(name, { truth, leads });
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
/** What campaigns of the demo measured: the current by the same truth, the light of a gap as a power of it, by an eye of its own scatter. */
const campaignsFile = new URL('../demo/record/campaigns.json', import.meta.url);
const campaigns = JSON.parse(readFileSync(campaignsFile, 'utf8')) as {
  rig: string;
  answers: { name?: string; unit?: string };
  varied: { path: string; levels: number[] }[];
  replicates: number;
  rest: number;
  sessions: { start: string; seconds: number }[];
  /** As it was planned: kept, so that the demo is loaded without planning. */
  plan: Pick<CampaignPlan, 'settings' | 'row' | 'before' | 'after'> & { stocks: readonly Stock[] };
  shots: { place: number; outcome: string; measured: Record<string, number>; own: object[] }[];
}[];
for (const campaign of campaigns) {
  const { rig, answers, varied, replicates, rest, shots } = campaign;
  const sessions = campaign.sessions.map(({ start, seconds }) => ({ start: Date.parse(start), seconds }));
  const made = planSeries(documentOf(rig), { varied, design: 'factorial', replicates, order: 'rising', seed: 1, rest, sessions });
  if (!made.ok) throw new Error(`${rig}: ${made.field} ${made.reason}`);
  const { settings, row, before, after, stocks } = made.plan;
  campaign.plan = { settings, row, before, after, stocks: stocks.map(({ stock }) => stock) };
  const known = truths.get(rig);
  if (!known) continue;
  const { truth, leads } = known;
  for (const shot of shots) {
    if (shot.outcome !== 'fired') continue;
    // Their order is rising, one field each.
    const at = varied.reduce<Rig>(
      (made, { path, levels }) => withTrialValue<string>(made, path, levels[Math.floor(shot.place / replicates)] ?? NaN),
      truth,
    );
    const { current } = predictedNumbers(at);
    if (current === null) throw new Error(`${rig} has no current`);
    const measured = current * leads * (1 + 0.012 * normal());
    shot.measured['current'] = digits(measured, 3);
    if (answers.name !== undefined)
      shot.own = [
        { name: answers.name, unit: answers.unit, value: digits(3.1 * (measured / 200) ** 1.6 * (1 + 0.03 * normal()), 3) },
      ];
  }
}
writeFileSync(campaignsFile, `${JSON.stringify(campaigns, null, 2)}\n`);

writeFileSync(file, `${JSON.stringify(log, null, 2)}\n`);
