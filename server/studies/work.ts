import type { SamplesQuestion, StudyQuestion, SweepQuestion } from '@vast-surge/contract';
import { readDocument } from '@vast-surge/core/format';
import type { Rig } from '@vast-surge/core/rig';
import {
  greatest,
  layoutOf,
  outputsOf,
  pointsOf,
  readAxis,
  samplerOf,
  scatterChunk,
  spreadOf,
  sweepChunk,
  sweepColumnsChunk,
  sweepRefusal,
  widthOf,
  yieldOf,
  type Axis,
  type Goal,
  type Output,
  type SweepLayout,
} from '@vast-surge/core/study';

// What threads do for studies: nothing here waits for anybody.

/** Called, the thread is there with everything that it needs. */
export const ready = (_task: null): true => true;

interface ChunkTask {
  readonly document: unknown;
  readonly fileVersion: number;
  readonly question: StudyQuestion;
  readonly layout: SweepLayout | null;
  readonly from: number;
  readonly to: number;
}

/** The samples or points of a stretch, a column for each output, one behind the other; or why there are none. */
export type ChunkMade =
  { readonly ok: true; readonly columns: Uint8Array; readonly seconds: number } | { readonly ok: false; readonly reason: string };

function columnsOf(
  rig: Rig,
  question: StudyQuestion,
  layout: SweepLayout | null,
  from: number,
  to: number,
): Float64Array[] | null {
  if (question.of === 'samples') return scatterChunk(rig, question, from, to);
  return layout && sweepColumnsChunk(rig, layout, from, to);
}

export function chunk({ document, fileVersion, question, layout, from, to }: ChunkTask): ChunkMade {
  const read = readDocument(document, fileVersion);
  if (!read.ok) return { ok: false, reason: 'this program cannot read the rig' };
  const { rig } = read.document;
  const began = performance.now();
  const columns = columnsOf(rig, question, layout, from, to);
  if (!columns) return { ok: false, reason: 'it does not say how its points lie' };
  const rows = to - from;
  const all = new Float64Array(rows * columns.length);
  columns.forEach((column, k) => all.set(column, k * rows));
  return { ok: true, columns: new Uint8Array(all.buffer), seconds: (performance.now() - began) / 1000 };
}

/** What a study takes; or which entry of its question is wrong, and why. */
export type Planned =
  | {
      readonly ok: true;
      /** s for a row, about. */
      readonly seconds: number;
      readonly total: number;
      readonly width: number;
      readonly layout: SweepLayout | null;
    }
  | { readonly ok: false; readonly path: string; readonly reason: string };

const no = (path: string, reason: string): Planned => ({ ok: false, path: `question.${path}`, reason });

/** s that one of the rows takes, about, of as many as can be tried in a moment. */
function timed(most: number, row: (n: number) => void): number {
  const began = performance.now();
  let n = 0;
  for (; n < most && performance.now() - began < 150; n++) row(n);
  return (performance.now() - began) / 1000 / Math.max(1, n);
}

function plannedSamples(rig: Rig, question: SamplesQuestion): Planned {
  try {
    const sampler = samplerOf(rig, question);
    const nominal = sampler.read(
      sampler.inputs.map(({ value }) => value),
      0,
    );
    const lacks = question.outputs.filter((_, k) => !Number.isFinite(nominal[k]));
    if (lacks.length > 0)
      return no('outputs', `names ${lacks.join(', ')}, for which this rig has no number: see what its page says is missing`);
    const seconds = timed(200, (n) => sampler.read(sampler.drawn(n), n));
    return { ok: true, seconds, total: question.samples, width: question.outputs.length, layout: null };
  } catch (error) {
    if (error instanceof RangeError) return no('outputs', error.message);
    throw error;
  }
}

function plannedSweep(rig: Rig, question: SweepQuestion, outputs: readonly Output[]): Planned {
  const axes: Axis[] = [];
  for (const [k, asked] of question.axes.entries()) {
    const read = readAxis(rig, asked);
    if (!read.ok) return no(`axes.${k}.${read.at}`, read.reason);
    axes.push(read.axis);
  }
  const sweep = { axes, outputs: question.outputs };
  const refused = sweepRefusal(rig, sweep);
  if (refused !== null) return no('axes', refused);
  const layout = layoutOf(rig, axes, outputs);
  const total = pointsOf(sweep);
  // From one end to the other: some of its points may have nothing to work out.
  const seconds = timed(Math.min(20, total), (n) => {
    const at = Math.floor((n * 0.618 * total) % total);
    sweepChunk(rig, sweep, at, at + 1);
  });
  return { ok: true, seconds, total, width: widthOf(layout), layout };
}

export function planned({ rig, question }: { readonly rig: Rig; readonly question: StudyQuestion }): Planned {
  const known = new Map(outputsOf(rig).map((output) => [output.id, output]));
  const outputs = question.outputs.flatMap((id) => known.get(id) ?? []);
  if (outputs.length < question.outputs.length) {
    const strange = question.outputs.filter((id) => !known.has(id));
    return no('outputs', `names ${strange.join(', ')}, which this rig does not have`);
  }
  return question.of === 'sweep' ? plannedSweep(rig, question, outputs) : plannedSamples(rig, question);
}

/** What samples come to; the highest of them by their number, where all are there. */
export function spread({ column, isWhole }: { readonly column: Float64Array; readonly isWhole: boolean }) {
  const found = spreadOf(column);
  const highest = isWhole ? greatest(column, 5).map((sample) => ({ sample, value: column[sample] ?? NaN })) : [];
  return found && { ...found, highest };
}

export const met = ({ column, goal }: { readonly column: Float64Array; readonly goal: Goal }) => ({
  ...yieldOf(column, goal),
  of: column.length,
});
