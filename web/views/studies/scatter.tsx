import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { copyName, copyOf, type RigDocument } from '@vast-surge/core/rig';
import {
  greatest,
  leastSamples,
  mostSamples,
  printOutput,
  rigOfSample,
  scatterColumns,
  spreadOf,
  yieldOf,
  type Distribution,
  type Output,
  type Scatter,
  type Spread,
} from '@vast-surge/core/study';
import { toast } from 'sonner';
import { useCreateRigMutation } from '../../app/api.ts';
import { useMayNot } from '../../app/may.ts';
import { columnsCsv, saveDrawing } from '../../plot/export.ts';
import { askedFor } from '../../ui/ask.tsx';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { Select } from '../../ui/select.tsx';
import { readTyped } from '../../ui/typed.ts';
import { drawnSample, useScatter } from '../../workers/rig-study.ts';
import { GoalRange, noGoal, readGoal } from './goal-range.tsx';
import { Histogram } from './histogram.tsx';
import { StudyProgress } from './progress.tsx';
import { digitsFor } from './scale.ts';

const samplesField = askedFor('Samples', '1', mostSamples, '2000', { min: leastSamples, integer: true, open: false });
const seedField = askedFor('Seed', '1', 4_294_967_295, '1', { integer: true, open: false });

interface Props {
  readonly document: RigDocument;
  readonly outputs: readonly Output[];
}

function Percentiles({ output, spread }: { output: Output; spread: Spread }) {
  const digits = digitsFor(spread.mean, spread.deviation);
  return (
    <table className="text-15 [&_td]:pl-4">
      <caption className="sr-only">Percentiles of {output.title}</caption>
      <thead className="text-14 text-dim">
        <tr>
          <th scope="col" className="text-left font-normal">
            of samples below
          </th>
          <th scope="col" className="pl-4 text-right font-normal">
            value
          </th>
          <th scope="col" className="pl-4 text-right font-normal">
            95 % confidence
          </th>
        </tr>
      </thead>
      <tbody>
        {spread.percentiles.map(({ share, value, low, high }) => (
          <tr key={share} className="border-t border-rule">
            <th scope="row" className="figure text-left font-normal">
              {Math.round(100 * share)} %
            </th>
            <td className="figure text-right font-bold">{printOutput(value, output, digits)}</td>
            <td className="figure text-right">
              {printOutput(low, output, digits)} to {printOutput(high, output, digits)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How many samples meet what is wanted. */
function Met({ output, samples }: { output: Output; samples: Float64Array }) {
  const [texts, setTexts] = useState(noGoal);
  const read = readGoal(output, texts);
  const counted = read.ok && read.goal ? yieldOf(samples, read.goal) : null;
  const percent = (share: number) => `${(100 * share).toFixed(share > 0.99 || share < 0.01 ? 2 : 1)} %`;
  return (
    <section aria-label={`Goal for ${output.title}`} className="mt-3">
      <GoalRange title="Goal" texts={texts} read={read} onTexts={setTexts} />
      {counted && (
        <p role="status" className="mt-1">
          <b className="figure text-24">{percent(counted.met / samples.length)}</b> of samples meet it;{' '}
          <span className="figure">
            {percent(counted.low)} to {percent(counted.high)}
          </span>{' '}
          with 95 % confidence.
        </p>
      )}
    </section>
  );
}

/** The samples with the greatest value, each to be opened as a rig of its own. */
function Worst({
  document,
  scatter,
  output,
  samples,
}: {
  document: RigDocument;
  scatter: Scatter;
  output: Output;
  samples: Float64Array;
}) {
  const [create, { isLoading }] = useCreateRigMutation();
  const go = useNavigate();
  const mayNot = useMayNot('designs');
  const open = async (sample: number) => {
    try {
      const drawn = await drawnSample(document.rig, scatter, sample);
      const copy = copyOf(document, copyName(document.name, `sample ${sample}, seed ${scatter.seed}`));
      const id = crypto.randomUUID();
      await create({ id, document: { ...copy, rig: rigOfSample(copy.rig, drawn) } }).unwrap();
      await go(`/rigs/${id}`);
    } catch {
      toast.error('The sample was not opened: the server did not take it. Try again.');
    }
  };
  return (
    <section aria-label="Highest samples" className="mt-4">
      <h3 className="font-bold">Highest samples</h3>
      {mayNot !== null && <p className="text-14">{mayNot}</p>}
      <ul>
        {greatest(samples, 5).map((sample) => (
          <li key={sample} className="flex flex-wrap items-baseline gap-3 border-b border-rule py-1">
            <span className="figure w-28 font-bold">{printOutput(samples[sample] ?? NaN, output, 4)}</span>
            <span className="text-14 text-dim">sample {sample}</span>
            <Button look="quiet" disabled={isLoading || mayNot !== null} onClick={() => void open(sample)}>
              Open as a rig
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Found({ document, scatter, outputs }: { document: RigDocument; scatter: Scatter; outputs: readonly Output[] }) {
  const soFar = useScatter(document.rig, scatter);
  const [chosen, setChosen] = useState(0);
  const k = Math.min(chosen, outputs.length - 1);
  const output = outputs[k];
  const samples = soFar?.columns[k];
  // Drawn anew with each stretch that comes: the column itself is filled as it stands.
  const done = soFar?.done ?? 0;
  const spread = useMemo(() => (samples && done > 0 ? spreadOf(samples) : null), [samples, done]);
  const file = `${fileName(document.name)}-scatter`;
  if (!output) return null;
  const isDone = soFar !== null && soFar.done >= soFar.total;
  return (
    <>
      <StudyProgress progress={soFar} what="samples" />
      {outputs.length > 1 && (
        <Select className="mb-2" aria-label="Figure shown" value={k} onChange={(event) => setChosen(Number(event.target.value))}>
          {outputs.map(({ id, title }, i) => (
            <option key={id} value={i}>
              {title}
            </option>
          ))}
        </Select>
      )}
      {spread && samples && (
        <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
          <div className="min-w-0">
            <p className="text-17">
              {output.title}: mean{' '}
              <b className="figure">{printOutput(spread.mean, output, digitsFor(spread.mean, spread.deviation))}</b>, standard
              deviation <b className="figure">{printOutput(spread.deviation, output)}</b>
              {isDone && spread.missing > 0 && `; ${spread.missing} samples have no value`}
            </p>
            <Histogram id="study-histogram" output={output} spread={spread} />
            <p className="mt-2 flex gap-3">
              <Button
                disabled={!isDone}
                onClick={() => download(`${file}.csv`, columnsCsv(scatterColumns(outputs, soFar.columns)), 'text/csv')}
              >
                CSV
              </Button>
              <Button onClick={() => saveDrawing('study-histogram', file)}>SVG</Button>
            </p>
          </div>
          <div className="min-w-0">
            <Percentiles output={output} spread={spread} />
            {isDone && <Met key={output.id} output={output} samples={samples} />}
            {isDone && <Worst document={document} scatter={scatter} output={output} samples={samples} />}
          </div>
        </div>
      )}
      {isDone && !spread && (
        <p role="alert" className="border-l-4 border-over bg-plate p-3">
          No sample has a value of {output.title}.
        </p>
      )}
    </>
  );
}

/** How a number scatters over the tolerances: samples drawn by a seed. */
export function HowItScatters({ document, outputs }: Props) {
  const asked = outputs.filter(({ from }) => from !== 'solver');
  const [texts, setTexts] = useState({ samples: '2000', seed: '1' });
  const [distribution, setDistribution] = useState<Distribution>('uniform');
  const [withModel, setModel] = useState(true);
  const samples = readTyped(samplesField, texts.samples);
  const seed = readTyped(seedField, texts.seed);
  const n = samples.ok ? (samples.value?.value ?? null) : null;
  const s = seed.ok ? (seed.value?.value ?? null) : null;
  const ids = asked.map(({ id }) => id).join(' ');
  const scatter = useMemo<Scatter | null>(
    () =>
      n === null || s === null || ids === '' ? null : { outputs: ids.split(' '), samples: n, seed: s, distribution, withModel },
    [ids, n, s, distribution, withModel],
  );
  const wrong = [['Samples', samples] as const, ['Seed', seed] as const].flatMap(([title, read]) =>
    read.ok ? [] : [`${title} ${read.reason}.`],
  );
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2 border-b border-rule pb-3">
        {(['samples', 'seed'] as const).map((key) => (
          <label key={key} className="flex items-baseline gap-2">
            {key === 'samples' ? 'Samples' : 'Seed'}
            <input
              className="figure w-28 border border-rule bg-plate px-2 py-1"
              inputMode="numeric"
              value={texts[key]}
              onChange={(event) => setTexts({ ...texts, [key]: event.target.value })}
            />
          </label>
        ))}
        <label className="flex items-baseline gap-2">
          Distribution
          <Select
            value={distribution}
            onChange={(event) => setDistribution(event.target.value === 'normal' ? 'normal' : 'uniform')}
          >
            <option value="uniform">uniform within the tolerance</option>
            <option value="normal">normal, tolerance = 2σ</option>
          </Select>
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={withModel} onChange={(event) => setModel(event.target.checked)} />
          include formula error
        </label>
      </div>
      {wrong.length > 0 && (
        <p role="alert" className="mt-2 font-bold text-over">
          {wrong.join(' ')}
        </p>
      )}
      {asked.length === 0 && <p role="status">The solver takes seconds per sample. Choose a figure in closed form.</p>}
      {scatter && asked.length > 0 && <Found document={document} scatter={scatter} outputs={asked} />}
      <p className="mt-4 max-w-[80ch] text-14 text-dim">
        Uniform is the default: a tolerance gives the limits of a value and nothing more (JCGM 100:2008, 4.3.7). Parts of one
        batch often cluster about the nominal value; normal is then closer, with one in twenty beyond the tolerance. The same seed
        gives the same samples. Limits are evaluated for each sample here, and at their worst case elsewhere.
      </p>
    </>
  );
}
