import { useMemo, useState } from 'react';
import { above, quantity } from '@vast-surge/core/field';
import { printDuration, printPercent, printQuantity } from '@vast-surge/core/quantity';
import { blockIn, type RigDocument } from '@vast-surge/core/rig';
import type { StagesStudy } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import type { PlotSpec, PlottedTrace } from '../../plot/option.ts';
import { useStages } from '../../workers/studies.ts';
import { RigDesk } from '../rig-desk.tsx';
import { readTyped } from '../../ui/typed.ts';

const volts = (V: number) => printQuantity(V, 'V');

/** The first and the last stage and some between. */
const shown = (n: number): number[] => {
  const most = 8;
  if (n <= most) return Array.from({ length: n }, (_, i) => i);
  return [...new Set(Array.from({ length: most }, (_, i) => Math.round((i * (n - 1)) / (most - 1))))];
};

function chargePlot(study: StagesStudy): PlotSpec {
  return {
    traces: shown(study.curves.length).flatMap((i, k, all): PlottedTrace[] => {
      const curve = study.curves[i];
      const title = `stage ${i + 1}`;
      const shade = all.length < 2 ? 1 : k / (all.length - 1);
      return curve
        ? [
            {
              trace: { id: `stage-${i + 1}`, title, unit: 'V', ...curve },
              axis: 'left',
              ink: 'select',
              shade,
              ...(k === 0 || k === all.length - 1 ? { end: title } : {}),
            },
          ]
        : [];
    }),
    levels: [{ axis: 'left', at: study.target, text: 'charged to', ink: 'over', textAt: 'left' }],
    points: [{ axis: 'left', t: study.at, y: 0, text: 'fired', ink: 'ink' }],
    units: { left: 'V' },
  };
}

const timeField = quantity('Fired after', 's', above(0, 1e7), null, { symbol: 't' });

/** What the stages have by then, and how each comes to it. */
function Charging({
  study,
  last,
  spec,
  isTwo,
}: {
  study: StagesStudy;
  last: StagesStudy['then'][number];
  spec: PlotSpec;
  isTwo: boolean;
}) {
  return (
    <section aria-label="While it is charged" className="min-w-0">
      <p className="text-18">
        {isTwo ? 'Each tower then comes to ' : 'It then comes to '}
        <b className="figure text-30">{volts(study.output.then)}</b>, {printPercent(study.output.then / study.output.full, 3)} of{' '}
        {volts(study.output.full)}. Its last stage has <b className="figure">{printPercent(last.V / study.target, 3)}</b>.
      </p>
      {study.secondGap !== null && (
        <p className="text-15">
          The second gap then sees at most <b className="figure">{printPercent(study.secondGap, 2)}</b> of its self-break
          {study.secondGap < 1 ? ': it does not fire.' : '.'}
        </p>
      )}
      {study.full === null && (
        <p role="alert" className="mt-1 border-l-4 border-over bg-plate p-2">
          The supply never brings the last stage to {volts(study.target)}.
        </p>
      )}
      <h2 className="mt-1 font-bold">Charge of each stage, stage 1 next to the supply</h2>
      <div className="h-[300px]">
        <Chart spec={spec} label="voltage of each stage over time" />
      </div>
      <p className="text-13 text-dim">
        {study.by === 'closed form'
          ? 'Exact ladder solution: equal stages, a supply behind a resistance.'
          : study.by === 'solver'
            ? 'By the solver: the stages differ, or charge through chokes, or the supply has a law of its own.'
            : 'From the charge law of the supply; the stages lead or lag their mean by the lag of the ladder.'}{' '}
        Voltages to earth without strays.
      </p>
    </section>
  );
}

function EachStage({ study }: { study: StagesStudy }) {
  return (
    <section aria-label="Each stage" className="self-start">
      <div className="max-h-[430px] overflow-auto">
        <table className="w-full text-14 whitespace-nowrap [&_td+td]:pl-3 [&_th+th]:pl-3 [&_th]:whitespace-normal">
          <thead className="sticky top-0 bg-ground">
            <tr className="text-left align-bottom text-dim">
              <th className="font-normal">Stage</th>
              <th className="text-right font-normal">has</th>
              <th className="text-right font-normal">holds</th>
              <th className="text-right font-normal">top to earth, erected</th>
              <th className="text-right font-normal">bled below the goal after, worst case</th>
            </tr>
          </thead>
          <tbody>
            {study.then.map((stage) => (
              <tr key={stage.stage} className="border-t border-rule">
                <td>{stage.stage}</td>
                <td className="figure text-right">{volts(stage.V)}</td>
                <td className="figure text-right">{printQuantity(stage.energy, 'J')}</td>
                <td className="figure text-right">{volts(stage.toEarth)}</td>
                <td className="figure text-right">{stage.bled === null ? 'no bleeder' : printDuration(stage.bled)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2 border-l-4 border-over bg-plate p-2 text-14">
        A stage that is cut off from its ladder, by one broken resistor, is not bled at all: by leakage alone it is below 50 V
        after about <b className="figure">{printDuration(study.floating.nominal)}</b>, worst case{' '}
        <b className="figure">{printDuration(study.floating.worst)}</b>. Calculated; verify each stage separately, with a meter
        rated for its voltage.
      </p>
    </section>
  );
}

function Stages({ document }: { document: RigDocument }) {
  const { rig } = document;
  const [text, setText] = useState('');
  const read = readTyped(timeField, text);
  const [kept, setKept] = useState<number | null>(null);
  const at = read.ok ? (read.value?.value ?? null) : kept;
  const answer = useStages(rig, at);
  const study = answer?.ok ? answer.value : null;
  const spec = useMemo(() => (study ? chargePlot(study) : null), [study]);
  const { fields } = blockIn(rig, 'store');
  const two = fields['towers'] === 'two';
  const last = study?.then.at(-1);
  return (
    <>
      <h1 className="text-20 font-bold">Stages of {document.name}</h1>
      {answer && !answer.ok && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          It cannot be worked out: {answer.reason}
        </p>
      )}
      <label className="mt-2 flex flex-wrap items-baseline gap-2 text-15">
        Fired after
        <input
          className={`figure w-28 border bg-plate px-2 py-0.5 ${read.ok ? 'border-rule' : 'border-over'}`}
          value={text}
          placeholder={study?.full ? printQuantity(study.full, 's') : ''}
          aria-invalid={!read.ok}
          onChange={(event) => {
            setText(event.target.value);
            const next = readTyped(timeField, event.target.value);
            if (next.ok) setKept(next.value?.value ?? null);
          }}
        />
        <span className="text-dim">empty: when the last stage is full</span>
        {!read.ok && (
          <span role="alert" className="font-bold text-over">
            Fired after {read.reason}.
          </span>
        )}
      </label>
      {study && spec && last && (
        <div className="mt-2 grid gap-5 lg:grid-cols-[minmax(0,1fr)_460px]">
          <Charging study={study} last={last} spec={spec} isTwo={two} />
          <EachStage study={study} />
        </div>
      )}
    </>
  );
}

/** A Marx generator while it is charged: what each stage has, and what becomes of a shot that is fired early. */
export function StagesView() {
  return <RigDesk width="max-w-[1500px]">{(document) => <Stages document={document} />}</RigDesk>;
}
