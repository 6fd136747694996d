import { readDocument } from '@vast-surge/core/format';
import type { Rig } from '@vast-surge/core/rig';
import { greatest, outputsOf, samplerOf, scatterChunk, spreadOf, yieldOf, type Goal, type Scatter } from '@vast-surge/core/study';

// What threads do for studies: nothing here waits for anybody.

/** Called, the thread is there with everything that it needs. */
export const ready = (_task: null): true => true;

interface ChunkTask {
  readonly document: unknown;
  readonly fileVersion: number;
  readonly question: Scatter;
  readonly from: number;
  readonly to: number;
}

/** The samples of a stretch, a column for each output, one behind the other; or why there are none. */
export type ChunkMade =
  { readonly ok: true; readonly columns: Uint8Array; readonly seconds: number } | { readonly ok: false; readonly reason: string };

export function chunk({ document, fileVersion, question, from, to }: ChunkTask): ChunkMade {
  const read = readDocument(document, fileVersion);
  if (!read.ok) return { ok: false, reason: 'this program cannot read the rig' };
  const began = performance.now();
  const columns = scatterChunk(read.document.rig, question, from, to);
  const rows = to - from;
  const all = new Float64Array(rows * columns.length);
  columns.forEach((column, k) => all.set(column, k * rows));
  return { ok: true, columns: new Uint8Array(all.buffer), seconds: (performance.now() - began) / 1000 };
}

/** s that a sample takes, about; or why none can be drawn. */
export function timed({
  rig,
  question,
}: {
  readonly rig: Rig;
  readonly question: Scatter;
}): { readonly seconds: number } | { readonly reason: string } {
  const known = new Set(outputsOf(rig).map(({ id }) => id));
  const strange = question.outputs.filter((id) => !known.has(id));
  if (strange.length > 0) return { reason: `names ${strange.join(', ')}, which this rig does not have` };
  try {
    const sampler = samplerOf(rig, question);
    const nominal = sampler.read(
      sampler.inputs.map(({ value }) => value),
      0,
    );
    const lacks = question.outputs.filter((_, k) => !Number.isFinite(nominal[k]));
    if (lacks.length > 0)
      return { reason: `names ${lacks.join(', ')}, for which this rig has no number: see what its page says is missing` };
    const began = performance.now();
    let n = 0;
    for (; n < 200 && performance.now() - began < 150; n++) sampler.read(sampler.drawn(n), n);
    return { seconds: (performance.now() - began) / 1000 / Math.max(1, n) };
  } catch (error) {
    if (error instanceof RangeError) return { reason: error.message };
    throw error;
  }
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
