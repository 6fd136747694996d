import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { copyName, copyOf, type RigDocument } from '@vast-surge/core/rig';
import { printOutput, rigOfSample, type Output, type Scatter } from '@vast-surge/core/study';
import { useCreateRigMutation } from '../../app/api.ts';
import { useMayNot } from '../../app/may.ts';
import { Button } from '../../ui/button.tsx';
import { drawnSample } from '../../workers/rig-study.ts';
import type { SampleDrawn } from '../../workers/rig-study.calculations.ts';

const shotWords = ({ shot }: SampleDrawn): string =>
  shot
    .map(([title, z]) => `${title}, ${Math.abs(z).toFixed(1)} standard deviations ${z < 0 ? 'below' : 'above'} its mean`)
    .join('; ');

/** The samples with the greatest value, each to be opened as a rig of its own. */
export function Worst({
  document,
  scatter,
  output,
  highest,
}: {
  document: RigDocument;
  scatter: Scatter;
  output: Output;
  highest: readonly { readonly sample: number; readonly value: number }[];
}) {
  const [create, { isLoading }] = useCreateRigMutation();
  const go = useNavigate();
  const mayNot = useMayNot('designs');
  const open = async (sample: number) => {
    try {
      const drawn = await drawnSample(document.rig, scatter, sample);
      const copy = copyOf(document, copyName(document.name, `sample ${sample}, seed ${scatter.seed}`));
      const id = crypto.randomUUID();
      await create({ id, document: { ...copy, rig: rigOfSample(copy.rig, drawn.values) } }).unwrap();
      await go(`/rigs/${id}`);
      if (drawn.shot.length > 0)
        toast(`The rig has the values of sample ${sample}. Its shot is not in a rig: ${shotWords(drawn)}.`);
    } catch {
      toast.error('The sample was not opened: the server did not take it. Try again.');
    }
  };
  return (
    <section aria-label="Highest samples" className="mt-4">
      <h3 className="font-bold">Highest samples</h3>
      {mayNot !== null && <p className="text-14">{mayNot}</p>}
      <ul>
        {highest.map(({ sample, value }) => (
          <li key={sample} className="flex flex-wrap items-baseline gap-3 border-b border-rule py-1">
            <span className="figure w-28 font-bold">{printOutput(value, output, 4)}</span>
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
