/**
 * What the program says of many rigs, kept before its code is moved about and compared after: npm run numbers -- keep FILE, then
 * npm run numbers -- compare FILE. The rigs are those of the demo and random ones, by a fixed seed; they stand in the file themselves.
 *
 *   --rigs N     how many random rigs (500)
 *   --solve N    of how many of them the solver runs every scene (60); of the demo rigs always
 */
import { createReadStream, readFileSync, readdirSync, writeFileSync, appendFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import fc from 'fast-check';
import { slots } from '../core/block/index.ts';
import { blockDefinition, changeKind, kindsOf, type Block } from '../core/kind/index.ts';
import { evaluateRig, evaluationData } from '../core/evaluation/index.ts';
import { readQuantityText, type BlockField, type FieldValue } from '../core/field/index.ts';
import { readRigData, readRigFile, writeRigFile } from '../core/format/index.ts';
import {
  blockIn,
  newDocument,
  newRig,
  noSheetEdits,
  withBlock,
  withLoadKind,
  type Rig,
  type RigDocument,
} from '../core/rig/index.ts';
import { planOf } from '../core/run/index.ts';
import { runSheetMarkdown, runSheetOf } from '../core/runsheet/index.ts';
import { bleedTraces, chargeTraces, dischargeTraces, sceneNetlist, solveRigScene, type Trace } from '../core/simulate/index.ts';

const scenes = ['charge', 'discharge', 'bleed', 'dump'] as const;
const pointsKept = 24;
/** The largest difference between two numbers that counts as none, as a share of the larger. */
const same = 1e-9;
/** And of the solver on circuits that differ in a last digit: its own tolerance. */
const solverSame = 1e-4;

type Data = null | boolean | number | string | readonly Data[] | { readonly [key: string]: Data };

const demo = new URL('../demo/', import.meta.url);
const demoDocuments = (): RigDocument[] =>
  readdirSync(demo)
    .filter((name) => name.endsWith('.json'))
    .map((name) => {
      const read = readRigFile(readFileSync(new URL(name, demo), 'utf8'));
      if (!read.ok) throw new Error(`${name} cannot be read`);
      return read.document;
    });

/** A value near the one before, or anything a choice has. */
function drawn(spec: BlockField, now: FieldValue, pick: (most: number) => number): FieldValue {
  if (spec.type === 'lines') return now;
  if (spec.type === 'choice') return spec.options[pick(spec.options.length)]?.value ?? spec.initial;
  if (typeof now === 'string' || pick(3) > 0) return now;
  const from = now?.value ?? Math.sqrt(Math.max(spec.min, spec.max * 1e-9) * spec.max);
  const tried = from * 10 ** ((pick(2001) - 1000) / 2000);
  const value = Number((spec.integer ? Math.round(tried) : tried).toPrecision(4));
  const read = readQuantityText(spec, spec.unit === '1' ? String(value) : `${value} ${spec.unit}`);
  return read.ok ? read.value : now;
}

/** A rig of any kinds that the form lets through, most of it near one of the demo or a new one. */
function drawRig(bases: readonly Rig[], pick: (most: number) => number): Rig {
  const base = bases[pick(bases.length)] ?? newRig();
  return slots.reduce((rig, slot) => {
    const block = blockIn(rig, slot);
    const kinds = kindsOf(slot);
    const from = blockDefinition(slot, block.kind);
    const to = pick(4) === 0 ? (kinds[pick(kinds.length)] ?? from) : from;
    const kept: Block = to === from ? block : changeKind(block, from, to);
    const fields = Object.fromEntries(
      Object.entries(to.fields).map(([id, spec]) => [id, drawn(spec, kept.fields[id] ?? null, pick)]),
    );
    const made = { kind: to.kind, fields };
    return slot === 'load' ? withLoadKind(rig, made) : withBlock(rig, slot, made);
  }, base);
}

const documentsOf = (count: number): RigDocument[] => {
  const documents = demoDocuments();
  const bases = [newRig(), ...documents.map(({ rig }) => rig)];
  const seeds = fc.sample(fc.infiniteStream(fc.nat(1_000_000)), { numRuns: count, seed: 20_261_128 });
  return [
    ...documents,
    ...seeds.map((stream, i) =>
      newDocument(
        `random ${i + 1}`,
        drawRig(bases, (most) => Number(stream.next().value) % most),
      ),
    ),
  ];
};

const thin = ({ id, title, t, y }: Trace): Data => {
  const n = t.length;
  const at = Array.from({ length: Math.min(n, pointsKept) }, (_, i) =>
    Math.round((i * (n - 1)) / (Math.min(n, pointsKept) - 1 || 1)),
  );
  return { id, title, n, t: at.map((i) => t[i] ?? null), y: at.map((i) => y[i] ?? null) };
};

/** What it comes to, or the words in which it was refused. */
function told(get: () => unknown): Data {
  try {
    return JSON.parse(JSON.stringify(get() ?? null)) as Data;
  } catch (error) {
    return { refused: error instanceof Error ? `${error.name}: ${error.message}` : String(error) };
  }
}

function sayOf({ name, rig, sheet }: RigDocument, solves: boolean): Data {
  const evaluation = evaluateRig(rig);
  const edits = sheet ?? noSheetEdits;
  const traces = (get: () => { traces: Trace[] }) => told(() => get().traces.map(thin));
  return {
    evaluation: told(() => evaluationData(evaluation)),
    sheet: told(() => {
      const made = runSheetOf(name, evaluation, edits);
      return made.ok ? runSheetMarkdown(made.sheet).split('\n') : made.reason;
    }),
    plan: told(() => {
      const made = planOf(name, evaluation, edits);
      if (!made.ok) return made.reason;
      const { curves: _curves, ...plan } = made.plan;
      return plan;
    }),
    charge: traces(() => chargeTraces(rig)),
    discharge: traces(() => dischargeTraces(rig)),
    bleed: traces(() => bleedTraces(rig)),
    netlists: told(() => scenes.map((of) => told(() => sceneNetlist(rig, name, of)))),
    solved: solves
      ? told(() =>
          scenes.map((of) => {
            const made = solveRigScene(rig, name, of);
            return made.ok ? { ...made.value, traces: made.value.traces.map(thin) } : made.reason;
          }),
        )
      : null,
  };
}

const isNumbers = (data: Data): data is readonly number[] => Array.isArray(data) && data.every((x) => typeof x === 'number');

const apart = (before: number, after: number, scale: number): boolean => Math.abs(before - after) > same * scale;

/** A number in a text, as a netlist or a sentence has it. */
const numberInText = /-?\d+(?:\.\d+)?(?:e[+-]?\d+)?/gi;

/** Whether two texts say the same: word for word, their numbers as numbers. */
function sameText(before: string, after: string): boolean {
  if (before.replace(numberInText, '#') !== after.replace(numberInText, '#')) return false;
  const [a, b] = [before, after].map((text) => (text.match(numberInText) ?? []).map(Number)) as [number[], number[]];
  return a.every((x, i) => !apart(x, b[i] ?? NaN, Math.max(Math.abs(x), Math.abs(b[i] ?? NaN))));
}

function differences(before: Data, after: Data, path = ''): string[] {
  if (typeof before === 'number' && typeof after === 'number')
    return apart(before, after, Math.max(Math.abs(before), Math.abs(after))) ? [`${path}: ${before} is ${after}`] : [];
  if (typeof before === 'string' && typeof after === 'string' && sameText(before, after)) return [];
  if (isNumbers(before) && isNumbers(after) && before.length === after.length) {
    // Of a trace the greatest counts: near its zero a number is what rounding leaves.
    const scale = Math.max(...before.map(Math.abs), 0);
    return before.flatMap((x, i) => (apart(x, after[i] ?? NaN, scale) ? [`${path}/${i}: ${x} is ${after[i] ?? NaN}`] : []));
  }
  if (typeof before === 'object' && typeof after === 'object' && before !== null && after !== null) {
    const [a, b] = [before, after] as [Record<string, Data>, Record<string, Data>];
    return [...new Set([...Object.keys(a), ...Object.keys(b)])].flatMap((key) =>
      differences(a[key] ?? null, b[key] ?? null, `${path}/${key}`),
    );
  }
  return before === after ? [] : [`${path}: ${JSON.stringify(before)} is ${JSON.stringify(after)}`];
}

interface Kept {
  readonly file: unknown;
  readonly solves: boolean;
  readonly says: Data;
}

function keep(file: string, count: number, solving: number): void {
  writeFileSync(file, '');
  documentsOf(count).forEach((document, i) => {
    const solves = i < solving + 5;
    const kept: Kept = { file: JSON.parse(writeRigFile(document)) as unknown, solves, says: sayOf(document, solves) };
    appendFileSync(file, `${JSON.stringify(kept)}\n`);
  });
}

/** What the solver came to: where its circuit differs in a last digit, its steps do, and its numbers by as much as it is asked for. */
function solvedApart(before: Data, after: Data): string[] {
  const figures = (says: Data): Data =>
    Array.isArray(says)
      ? says.map((scene: Data) => (scene !== null && typeof scene === 'object' && 'compared' in scene ? scene.compared : scene))
      : says;
  const wide = (says: Data): Data =>
    JSON.parse(JSON.stringify(figures(says), (key, x: unknown) => (key === 'because' ? [] : x))) as Data;
  return differences(wide(before), wide(after), '/solved').filter((line) => {
    const found = /solver: (.+) is (.+)$/.exec(line);
    const [a, b] = [Number(found?.[1]), Number(found?.[2])];
    return !line.includes('/off:') && !(Math.abs(a - b) <= solverSame * Math.max(Math.abs(a), Math.abs(b)));
  });
}

function apartIn(before: Data, after: Data): string[] {
  const [{ solved: solvedBefore = null, ...a }, { solved: solvedAfter = null, ...b }] = [before, after] as [
    Record<string, Data>,
    Record<string, Data>,
  ];
  const isOneCircuit = JSON.stringify(a['netlists']) === JSON.stringify(b['netlists']);
  return [
    ...differences(a, b),
    ...(isOneCircuit ? differences(solvedBefore, solvedAfter, '/solved') : solvedApart(solvedBefore, solvedAfter)),
  ];
}

async function compare(file: string): Promise<number> {
  let [rigs, off] = [0, 0];
  for await (const line of createInterface({ input: createReadStream(file) })) {
    const kept = JSON.parse(line) as Kept;
    const read = readRigData(kept.file);
    if (!read.ok) throw new Error(`a kept rig cannot be read: ${JSON.stringify(read.issues)}`);
    const found = apartIn(kept.says, sayOf(read.document, kept.solves));
    rigs += 1;
    if (found.length === 0) continue;
    off += 1;
    console.log(`${read.document.name}: ${found.length} differences\n  ${found.slice(0, 4).join('\n  ').slice(0, 1200)}`);
  }
  console.log(`${rigs} rigs, ${off} of them differ`);
  return off === 0 ? 0 : 1;
}

const [what, file, ...options] = process.argv.slice(2);
const option = (name: string, usual: number) => {
  const at = options.indexOf(name);
  return at < 0 ? usual : Number(options[at + 1]);
};
if (file !== undefined && what === 'keep') keep(file, option('--rigs', 500), option('--solve', 60));
else if (file !== undefined && what === 'compare') process.exitCode = await compare(file);
else {
  console.error('npm run numbers -- keep FILE [--rigs N] [--solve N], or compare FILE');
  process.exitCode = 2;
}
