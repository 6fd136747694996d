import { writeFileSync } from 'node:fs';
import { extname } from 'node:path';
import { parquetWriteBuffer } from 'hyparquet-writer';
import Papa from 'papaparse';
import { printPercent, parseQuantity, wordQuantityIssue } from '@vast-surge/core/quantity';
import { quantityAt, type Rig, type RigDocument } from '@vast-surge/core/rig';
import {
  askedAxis,
  leastSamples,
  distributions,
  mattersOf,
  mostSamples,
  outputsOf,
  pointsOf,
  pointsThatMeet,
  printFirst,
  printOutput,
  printPlace,
  printScattered,
  printSpan,
  printTotal,
  readAxis,
  samplerOf,
  scatterChunk,
  scatterColumns,
  shotsNote,
  spreadOf,
  sweepChunk,
  sweepColumns,
  sweepRefusal,
  sweptTitle,
  tableOf,
  usualOutputs,
  yieldOf,
  type Goal,
  type Output,
  type StudyColumn,
} from '@vast-surge/core/study';
import { oneOf, whole } from './plan.ts';
import { UsageError } from './usage.ts';

export interface StudyOptions {
  readonly vary: readonly string[];
  readonly scatter?: string;
  readonly figures: string;
  readonly distribution: string;
  /** Whether formulas are off as well: as on the page, unless it is switched off. */
  readonly model: boolean;
  /** Whether each sample is a shot: as on the page, unless it is switched off. */
  readonly shots: boolean;
  readonly goal: readonly string[];
  readonly worst?: boolean;
  readonly seed: string;
  readonly out?: string;
}

export interface Studied {
  readonly data: unknown;
  readonly text: string;
}

function askedOutputs(rig: Rig, text: string): Output[] {
  const known = outputsOf(rig);
  const ids =
    text === '' ? usualOutputs.filter((id) => known.some((one) => one.id === id)) : text.split(',').map((one) => one.trim());
  return ids.map((id) => {
    const found = known.find((one) => one.id === id);
    if (found) return found;
    throw new UsageError(
      `--figures has "${id.slice(0, 60)}", which this rig does not have; it has ${known.map((one) => one.id).join(', ')}`,
    );
  });
}

/** One line of a table in the terminal, its columns as wide as they have to be. */
function table(rows: readonly (readonly string[])[]): string {
  const width = (rows[0] ?? []).map((_, k) => Math.max(...rows.map((row) => row[k]?.length ?? 0)));
  return rows
    .map((row) =>
      row
        .map((cell, k) => cell.padEnd(width[k] ?? 0))
        .join('  ')
        .trimEnd(),
    )
    .join('\n');
}

function save(file: string, columns: readonly StudyColumn[]): void {
  const kind = extname(file).toLowerCase();
  if (kind !== '.csv' && kind !== '.parquet')
    throw new UsageError(`--out is "${file.slice(0, 80)}"; its name must end in .csv or .parquet`);
  const data =
    kind === '.csv'
      ? `${Papa.unparse(tableOf(columns), { newline: '\n' })}\n`
      : new Uint8Array(
          parquetWriteBuffer({
            columnData: columns.map(({ name, data: values }) => ({
              name,
              data: [...values],
              type: values.some((value) => typeof value === 'string') ? ('STRING' as const) : ('DOUBLE' as const),
            })),
          }),
        );
  try {
    writeFileSync(file, data);
  } catch (error) {
    throw new UsageError(`--out: ${file} cannot be written: ${error instanceof Error ? error.message : 'no reason given'}`);
  }
}

/** Lines of a table in the terminal at the most. */
const mostShown = 60;

function swept(rig: Rig, options: StudyOptions, outputs: readonly Output[]): Studied {
  const axes = options.vary.map((text) => {
    const read = readAxis(rig, askedAxis(text));
    if (read.ok) return read.axis;
    throw new UsageError(`--vary ${text.slice(0, 60)}: ${read.at === 'path' ? '' : `${read.at} `}${read.reason}`);
  });
  const sweep = { axes, outputs: outputs.map(({ id }) => id) };
  const refused = sweepRefusal(rig, sweep);
  if (refused !== null) throw new UsageError(refused);
  const points = sweepChunk(rig, sweep, 0, pointsOf(sweep));
  if (options.out !== undefined) save(options.out, sweepColumns(axes, outputs, points));
  const asked = goalsOf(outputs, options.goal);
  const chosen =
    asked.length === 0
      ? null
      : pointsThatMeet(
          points,
          sweep.outputs,
          outputs.map(({ id }) => asked.find(({ output }) => output.id === id)?.goal ?? null),
          options.worst === true,
        );
  const listed = chosen?.met ?? points;
  const every = chosen ? 1 : Math.ceil(listed.length / mostShown);
  const shown = listed.filter((_, i) => i % every === 0).slice(0, mostShown);
  const text = table([
    [...axes.map(({ title }) => title), ...outputs.map(sweptTitle), 'Tightest limit'],
    ...shown.map(({ at, outputs: read, tightest }) => [
      ...axes.map((axis, k) => printPlace(at[k] ?? NaN, axis)),
      ...outputs.map((output, k) => printOutput(read[k]?.value ?? NaN, output)),
      tightest ? `${tightest.id.replace(/^limit:/, '')} ${printPercent(tightest.use, 3)}` : 'none rated',
    ]),
  ]);
  const told = chosen
    ? [
        `${chosen.met.length} of ${chosen.total} points meet the goal with every limit within its rating, worst case; largest margin first`,
        ...chosen.lost.map(({ by, count }) => `  ${count} ruled out by ${by.replace(/^limit:/, 'the limit ')}`),
      ]
    : [];
  const rest = shown.length < listed.length ? [`${listed.length} points, of which ${shown.length} are shown`] : [];
  return {
    data: { axes, outputs, points, ...(chosen ? { met: chosen.met, lost: chosen.lost } : {}) },
    text: [...(chosen && chosen.met.length === 0 ? [] : [text]), ...rest, ...told].join('\n'),
  };
}

/** `peak-current=15 kA..20 kA`; an end may be left out. */
function goalsOf(outputs: readonly Output[], texts: readonly string[]): { readonly output: Output; readonly goal: Goal }[] {
  return texts.map((text) => {
    const [id = '', range = ''] = text.split(/=(.*)/s).map((part) => part.trim());
    const output = outputs.find((one) => one.id === id);
    if (!output) throw new UsageError(`--goal ${id.slice(0, 60)}: is none of the figures that are asked`);
    const ends = range.split('..');
    const end = (one = ''): number | null => {
      if (one.trim() === '') return null;
      const read = parseQuantity(one, output.unit);
      if (read.ok) return read.quantity.value;
      throw new UsageError(`--goal ${id}, "${one.trim().slice(0, 40)}": ${wordQuantityIssue(read.issue)}`);
    };
    if (ends.length !== 2 || range === '..')
      throw new UsageError(`--goal ${id}: must be a range, as in "${id}=15 kA..20 kA"; an end may be left out`);
    return { output, goal: { from: end(ends[0]), to: end(ends[1]) } };
  });
}

function scattered(rig: Rig, options: StudyOptions, outputs: readonly Output[]): Studied {
  const solved = outputs.find(({ from }) => from === 'solver');
  if (solved)
    throw new UsageError(`--figures has ${solved.id}, which takes seconds for each sample; --scatter takes closed forms`);
  const samples = whole('scatter', options.scatter ?? '', leastSamples, mostSamples);
  const goals = goalsOf(outputs, options.goal);
  const asked = {
    outputs: outputs.map(({ id }) => id),
    seed: whole('seed', options.seed, 0, 4_294_967_295),
    distribution: oneOf('distribution', options.distribution, distributions),
    withModel: options.model,
    withShots: options.shots,
  };
  const sampler = samplerOf(rig, asked);
  if (sampler.inputs.length === 0 && sampler.scattered.length === 0 && !asked.withModel)
    throw new UsageError('No field that these figures depend on has a tolerance: enter one, such as "5.6 mF ±10 %".');
  const columns = scatterChunk(rig, asked, 0, samples);
  const columnOf = (k: number) => columns[k] ?? new Float64Array();
  if (options.out !== undefined)
    save(options.out, [
      ...scatterColumns(outputs, columns),
      ...sampler.inputs.map(({ path }, k) => ({
        name: `${path} (${quantityAt<string>(rig, path)?.field.unit ?? '1'})`,
        data: Array.from({ length: samples }, (_, i) => sampler.drawn(i)[k] ?? null),
      })),
      ...sampler.scattered.map(({ id }, k) => ({
        name: `${id} (standard deviations)`,
        data: Array.from({ length: samples }, (_, i) => sampler.shot(i)[k] ?? null),
      })),
    ]);
  const spreads = outputs.map((output, k) => ({ output, spread: spreadOf(columnOf(k)) }));
  const met = goals.map(({ output, goal }) => ({
    output: output.id,
    goal,
    ...yieldOf(columnOf(outputs.indexOf(output)), goal),
  }));
  const lines = spreads.map(({ output, spread }) =>
    spread === null
      ? [output.title, 'no value in any sample']
      : [
          output.title,
          ...[0.05, 0.5, 0.95].map((share) =>
            printOutput(spread.percentiles.find((one) => one.share === share)?.value ?? NaN, output),
          ),
          printOutput(spread.mean, output),
          printOutput(spread.deviation, output),
          spread.missing > 0 ? `${spread.missing} samples without a value` : '',
        ],
  );
  const text = [
    `${samples} samples of ${sampler.inputs.length} fields with a tolerance, seed ${asked.seed}, ${asked.distribution === 'uniform' ? 'uniform within the tolerance' : 'normal, tolerance = 2σ'}${asked.withModel ? ', with the error of the formulas' : ''}`,
    ...(sampler.scattered.length > 0 ? [`each sample a shot: ${printScattered(sampler.scattered)}`] : []),
    table([['', '5 %', 'median', '95 %', 'mean', 'deviation', ''], ...lines]),
    ...met.map(
      (one) =>
        `${one.output} within the goal: ${printPercent(one.met / samples, 3)} of samples, ${printPercent(one.low, 3)} to ${printPercent(one.high, 3)} with 95 % confidence`,
    ),
  ].join('\n');
  return { data: { samples, ...asked, inputs: sampler.inputs, spreads, goals: met }, text };
}

function whatMatters(rig: Rig, options: StudyOptions, outputs: readonly Output[]): Studied {
  const seed = whole('seed', options.seed, 0, 4_294_967_295);
  const asked = outputs.filter(({ from }) => from !== 'solver');
  if (options.out !== undefined) throw new UsageError('--out goes with --vary or --scatter');
  const found = asked.map((output) => ({ output, matters: mattersOf(rig, output.id, { seed }) }));
  const text = found
    .map(({ output, matters }) => {
      const { nominal, swings, shares } = matters;
      const note = shotsNote(matters);
      return [
        `${output.title}: ${printOutput(nominal, output)}${note === null ? '' : ' in a shot at the mean'}`,
        swings.length === 0
          ? '  no field that it depends on has a tolerance'
          : table([
              ['  Field or scatter', 'over', 'at its low end', 'at its high end', 'share of variance', 'with all it acts with'],
              ...swings.map(({ index, cause, atLow, atHigh }) => [
                `  ${cause.title}`,
                printSpan(rig, cause),
                printOutput(atLow, output),
                printOutput(atHigh, output),
                printFirst(shares[index]),
                printTotal(shares[index]),
              ]),
            ]),
        ...(note === null ? [] : [note]),
      ].join('\n');
    })
    .join('\n\n');
  return { data: { seed, outputs: found }, text };
}

/** A rig asked many times: varied, scattered, or what its figures depend on. @throws UsageError naming the option */
export function study({ rig }: RigDocument, options: StudyOptions): Studied {
  const outputs = askedOutputs(rig, options.figures);
  if (options.vary.length > 0 && options.scatter !== undefined)
    throw new UsageError('--vary and --scatter are two studies: ask for one of them');
  if (options.vary.length > 0) return swept(rig, options, outputs);
  return options.scatter === undefined ? whatMatters(rig, options, outputs) : scattered(rig, options, outputs);
}
