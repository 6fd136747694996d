import { useMemo, useState } from 'react';
import type { RigDocument } from '@vast-surge/core/rig';
import {
  greatest,
  leastSamples,
  mostSamples,
  printScattered,
  scatterColumns,
  scatteredOf,
  spreadOf,
  type Distribution,
  type Output,
  type Scatter,
} from '@vast-surge/core/study';
import { columnsCsv, saveDrawing } from '../../plot/export.ts';
import { askedFor } from '../../ui/ask.tsx';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { Select } from '../../ui/select.tsx';
import { readTyped } from '../../ui/typed.ts';
import { useScatter } from '../../workers/rig-study.ts';
import { KeptStudies } from './kept.tsx';
import { Met } from './met.tsx';
import { StudyProgress } from './progress.tsx';
import { Worst } from './worst.tsx';
import { FigureShown, SpreadShown } from './spread.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const samplesField = askedFor('Samples', '1', mostSamples, '2000', { min: leastSamples, integer: true, open: false });
const seedField = askedFor('Seed', '1', 4_294_967_295, '1', { integer: true, open: false });

/** Samples that a page draws by itself; of more it would hold its breath. */
const mostOnPage = 100_000;

interface Props {
  readonly document: RigDocument;
  readonly outputs: readonly Output[];
}

function AsFiles({ file, columns }: { file: string; columns: ReturnType<typeof scatterColumns> | null }) {
  return (
    <p className="mt-2 flex gap-3">
      <Button disabled={!columns} onClick={() => columns && download(`${file}.csv`, columnsCsv(columns), 'text/csv')}>
        CSV
      </Button>
      <Button onClick={() => saveDrawing('study-histogram', file)}>SVG</Button>
    </p>
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
      <FigureShown titles={outputs.map(({ title }) => title)} value={k} onChange={setChosen} />
      {spread && samples && (
        <SpreadShown
          id="study-histogram"
          output={output}
          spread={spread}
          note={isDone && spread.missing > 0 ? `; ${spread.missing} samples have no value` : ''}
          below={<AsFiles file={file} columns={isDone ? scatterColumns(outputs, soFar.columns) : null} />}
          beside={
            isDone && (
              <>
                <Met key={output.id} output={output} samples={samples} />
                <Worst
                  document={document}
                  scatter={scatter}
                  output={output}
                  highest={greatest(samples, 5).map((sample) => ({ sample, value: samples[sample] ?? NaN }))}
                />
              </>
            )
          }
        />
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
export function HowItScatters({ rigId, document, outputs }: Props & { rigId: string }) {
  const asked = outputs.filter(({ from }) => from !== 'solver');
  const [texts, setTexts] = useState({ samples: '2000', seed: '1' });
  const [distribution, setDistribution] = useState<Distribution>('uniform');
  const [withModel, setModel] = useState(true);
  const [withShots, setShots] = useState(true);
  const samples = readTyped(samplesField, texts.samples);
  const seed = readTyped(seedField, texts.seed);
  const n = samples.ok ? (samples.value?.value ?? null) : null;
  const s = seed.ok ? (seed.value?.value ?? null) : null;
  const ids = asked.map(({ id }) => id).join(' ');
  const scatter = useMemo<Scatter | null>(
    () =>
      n === null || s === null || ids === ''
        ? null
        : { outputs: ids.split(' '), samples: n, seed: s, distribution, withModel, withShots },
    [ids, n, s, distribution, withModel, withShots],
  );
  const shots = useMemo(() => (ids === '' ? [] : scatteredOf(document.rig, ids.split(' '))), [document.rig, ids]);
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
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={withShots} onChange={(event) => setShots(event.target.checked)} />
          each sample is a shot
        </label>
      </div>
      {withShots && asked.length > 0 && (
        <p className="mt-2 text-14 text-dim">
          {shots.length > 0
            ? `From shot to shot: ${printScattered(shots)}.`
            : 'No gap or trigger that these figures depend on scatters from shot to shot.'}
        </p>
      )}
      {wrong.length > 0 && (
        <TroubleLine look="words" className="mt-2">
          {wrong.join(' ')}
        </TroubleLine>
      )}
      {asked.length === 0 && <p role="status">The solver takes seconds per sample. Choose a figure in closed form.</p>}
      {scatter && asked.length > 0 && scatter.samples <= mostOnPage && (
        <Found document={document} scatter={scatter} outputs={asked} />
      )}
      {scatter && scatter.samples > mostOnPage && (
        <p role="status" className="mt-2">
          More than {mostOnPage.toLocaleString('en')} samples are run on the server: they go on when this page is closed.
        </p>
      )}
      <KeptStudies
        rigId={rigId}
        document={document}
        of="samples"
        question={scatter && asked.length > 0 ? { of: 'samples', ...scatter, outputs: [...scatter.outputs] } : null}
        size={scatter?.samples ?? 0}
      />
      <p className="mt-4 max-w-[80ch] text-14 text-dim">
        Uniform is the default: a tolerance gives the limits of a value and nothing more (JCGM 100:2008, 4.3.7). Parts of one
        batch often cluster about the nominal value; normal is then closer, with one in twenty beyond the tolerance. The same seed
        gives the same samples. Limits are evaluated for each sample here, and at their worst case elsewhere. A shot has its own
        breakdown of each gap and its own delay of the trigger, normal about the mean; a limit that keeps three standard
        deviations from self-break keeps none in a shot, so use above 100 % is a pre-fire. The gaps of a Tesla coil break many
        times in one operation and stand at their mean.
      </p>
    </>
  );
}
