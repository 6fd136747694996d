import { useMemo, useState } from 'react';
import { Printer } from 'lucide-react';
import { blockDefinition } from '@vast-surge/core/kind';
import { evaluateRig, figureIn, type Evaluation } from '@vast-surge/core/evaluation';
import { readQuantityText, type FieldValue, type LinesField, type QuantityField } from '@vast-surge/core/field';
import { printPercent, printQuantity, type UnitId, printFixed } from '@vast-surge/core/quantity';
import { blockIn, hasDesk, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { gapCurve, gapPrint, gapStudy, type GapAxis, type GapFit, type GapPrint, type GapStudy } from '@vast-surge/core/study';
import { fieldTyped } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Chart } from '../../plot/chart.tsx';
import type { PlotSpec } from '../../plot/option.ts';
import { Button } from '../../ui/button.tsx';
import { newBurst } from '../../ui/burst.ts';
import { LinesInput } from '../../ui/lines-input.tsx';
import { QuantityInput } from '../../ui/quantity-input.tsx';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { RigDesk } from '../rig-desk.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);

/** A quantity as it was typed: in the units of whoever typed it. */
const textIn = (held: FieldValue | undefined): string => (typeof held === 'object' && held ? held.text : 'not given');

/** Points of a curve up to where its tables end. */
function within(x: Float64Array, ...curves: readonly Float64Array[]): Float64Array[] {
  const known = [...x.keys()].filter((i) => curves.every((y) => Number.isFinite(y[i])));
  return [x, ...curves].map((values) => Float64Array.from(known.map((i) => values[i] ?? NaN)));
}

function plotOf(document: RigDocument, study: GapStudy, axis: GapAxis, set: number): PlotSpec {
  const seen = study.points.map((point) => point[axis]);
  const top = Math.max(axis === 'd' ? set * 2.2 : Math.max(2e5, set * 2.2), ...seen.map((x) => x * 1.1));
  const from = axis === 'd' ? Math.max(set / 20, 1e-5) : 0;
  const curve = gapCurve(document.rig, axis, from, top);
  const [x = curve.x, mean = x, low = x, high = x] = within(curve.x, curve.mean, curve.low, curve.high);
  const trace = (id: string, title: string, y: Float64Array) => ({ id, title, unit: 'V' as const, t: x, y });
  return {
    along: axis === 'd' ? { unit: 'm', symbol: 'd' } : { unit: 'Pa', symbol: 'p' },
    window: { from: 0, to: Math.max(x.at(-1) ?? top, ...seen) },
    traces: [
      { trace: trace('mean', 'self-break', mean), axis: 'left', ink: 'select' },
      { trace: trace('low', 'at least', low), axis: 'left', ink: 'select', dash: true },
      { trace: trace('high', 'at most', high), axis: 'left', ink: 'select', dash: true },
    ],
    levels: [
      { axis: 'left', at: study.charged, text: `charged to ${print(study.charged, 'V')}`, ink: 'over' },
      ...(study.triggered
        ? ([
            { axis: 'left', at: study.window.low, text: '', ink: 'third' },
            { axis: 'left', at: study.window.high, text: 'self-break wanted', ink: 'third', textAt: 'left' },
          ] as const)
        : []),
    ],
    points: [
      { axis: 'left', t: set, y: study.selfBreak, text: 'as set', ink: 'ink' },
      ...study.points.map((point) => ({ axis: 'left' as const, t: point[axis], y: point.V, text: '', ink: 'current' as const })),
    ],
    units: { left: 'V' },
  };
}

function FitLine({ fit, onTake }: { fit: GapFit | null; onTake: (fit: GapFit) => void }) {
  if (!fit) return <p className="text-dim">No breakdown that a table covers yet: the default enhancement is used.</p>;
  return (
    <div className="border-l-4 border-select bg-plate px-3 py-2">
      <p>
        Enhancement <b className="figure text-18">{printFixed(fit.enhancement, 3)}</b>{' '}
        {fit.uncertainty === null ? (
          'from a single breakdown: its uncertainty is not known.'
        ) : (
          <>
            ±{printPercent(fit.uncertainty, 2)} (95 %), from {fit.used} breakdowns
            {fit.scatter !== null && <>, which scatter by {printPercent(fit.scatter, 2)}</>}.
          </>
        )}
      </p>
      <Button className="mt-1" onClick={() => onTake(fit)}>
        Use in the gap
      </Button>
    </div>
  );
}

/** How to set the gap in the shop: its spacing as turns of a screw. */
function ShopCard({
  name,
  d,
  wanted,
  p,
  pitch,
  shown,
}: {
  name: string;
  d: number;
  wanted: number | null;
  p: string;
  pitch: number;
  shown: GapPrint;
}) {
  const target = wanted ?? d;
  const turn = (length: number) => printFixed(Math.abs(length) / pitch, 2);
  return (
    <section aria-label="Shop card" className="border-2 border-ink bg-plate p-4">
      <h2 className="text-17 font-bold">{name}: setting of the gap</h2>
      <table className="mt-1 w-full text-16">
        <tbody>
          <tr className="border-t border-rule">
            <td className="py-1">Spacing</td>
            <td className="figure text-right text-20 font-bold">{shown(target, 'm')}</td>
          </tr>
          <tr className="border-t border-rule">
            <td className="py-1">From touching, at {shown(pitch, 'm')} a turn</td>
            <td className="figure text-right text-20 font-bold">{turn(target)} turns</td>
          </tr>
          {Math.abs(target - d) > 1e-6 && (
            <tr className="border-t border-rule">
              <td className="py-1">From {shown(d, 'm')} as it stands</td>
              <td className="figure text-right font-bold">
                {turn(target - d)} turns {target > d ? 'out' : 'in'}
              </td>
            </tr>
          )}
          <tr className="border-t border-rule">
            <td className="py-1">Pressure</td>
            <td className="figure text-right font-bold whitespace-nowrap">{p}</td>
          </tr>
        </tbody>
      </table>
      <p className="mt-1 text-13">
        Calculated, not measured. Set it with the strap on; verify the spacing with a gauge, and the bank with a meter.
      </p>
    </section>
  );
}

const pitchField: QuantityField = {
  type: 'quantity',
  symbol: 'pitch',
  title: 'Pitch of the screw',
  unit: 'm',
  min: 0,
  max: 0.01,
  open: true,
  initial: '1 mm',
};

function Window({ window }: { window: GapStudy['window'] }) {
  return (
    <p>
      Reliable window: self-break{' '}
      <b className="figure">
        {print(window.low, 'V')} to {print(window.high, 'V')}
      </b>
      : the charge is then 85 to 70 % of it (common practice, no source).
    </p>
  );
}

/** Where the gap breaks down by itself, and how near to it the bank is charged. */
function BreaksAt({ rig, study, evaluation }: { rig: Rig; study: GapStudy; evaluation: Evaluation }) {
  const figure = figureIn(evaluation, 'self-break');
  const share = figureIn(evaluation, 'gap-share');

  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-6">
        <span>
          Self-break{' '}
          {figure && (
            <WorkedNumber
              title="Self-break voltage"
              printed={print(study.selfBreak, 'V')}
              worked={figure.worked}
              rig={rig}
              className="text-34 font-bold"
            />
          )}
        </span>
        <span className="text-15">
          calculated within {printPercent(study.certainty.band, 2)}
          {study.certainty.drawnOut !== null && <b className="block text-14">⚠ Extrapolated: {study.certainty.drawnOut}.</b>}
        </span>
        <span>
          charged to <b className="figure text-24">{print(study.charged, 'V')}</b>, which is{' '}
          {share && (
            <>
              <WorkedNumber
                title="Charge voltage as a share of self-break"
                printed={printPercent(share.worked.value, 2)}
                worked={share.worked}
                rig={rig}
                className="text-24 font-bold"
              />
              , worst case <b className="figure">{printPercent(share.band.high, 2)}</b>
            </>
          )}
        </span>
      </p>
      {study.triggered && <Window window={study.window} />}
    </>
  );
}

/** Self-break against spacing or pressure, with what was observed. */
function Drawn({
  document,
  study,
  values,
}: {
  document: RigDocument;
  study: GapStudy;
  values: Readonly<Record<GapAxis, number>>;
}) {
  const [axis, setAxis] = useState<GapAxis>('d');
  return (
    <>
      <div className="mt-3 flex flex-wrap items-center gap-1" role="group" aria-label="Drawn against">
        {(['d', 'p'] as const).map((of) => (
          <button
            key={of}
            type="button"
            aria-pressed={axis === of}
            className={`border px-3 py-1 ${axis === of ? 'border-ink bg-ink text-plate' : 'border-rule'}`}
            onClick={() => setAxis(of)}
          >
            {of === 'd' ? 'Spacing' : 'Pressure'}
          </button>
        ))}
        <span className="min-w-0 basis-64 grow pl-2 text-13 text-dim">
          Line: self-break; dashed: with the band of the calculation and three times the scatter; points: observed.
        </span>
      </div>
      <div className="mt-1 h-[320px]">
        <Chart
          spec={plotOf(document, study, axis, values[axis])}
          label={`self-break of the gap against ${axis === 'd' ? 'spacing' : 'pressure'}`}
        />
      </div>
    </>
  );
}

function Desk({ document }: { document: RigDocument }) {
  const dispatch = useAppDispatch();
  const [pitchText, setPitchText] = useState('1 mm');
  const block = blockIn(document.rig, 'switch');
  const isGap = hasDesk(document.rig, 'gap');
  const study = useMemo(() => (isGap ? gapStudy(document.rig, print) : null), [document.rig, isGap]);
  const evaluation = useMemo(() => evaluateRig(document.rig), [document.rig]);
  if (!study)
    return (
      <div role="alert" className="mt-4 border-l-4 border-over bg-plate p-4">
        <h1 className="text-xl font-bold">No gap to set</h1>
        <p>
          {isGap
            ? (evaluation.problems.find((p) => p.slot === 'switch')?.text ?? 'No table or formula covers this setting.')
            : `The switch of ${document.name} is not a spark gap.`}
        </p>
      </div>
    );
  const fields = blockDefinition('switch', block.kind).fields as unknown as Record<'d' | 'p' | 'b' | 'sc', QuantityField> & {
    seen: LinesField;
  };
  const value = (field: 'd' | 'p') => {
    const held = block.fields[field];
    return typeof held === 'object' && held ? held.value : 0;
  };
  const typed = (field: string, next: string, burst = newBurst(), from: 'typed' | 'measured' = 'typed') => {
    const spec = fields[field as 'd'];
    const read = readQuantityText(spec, next);
    if (!read.ok) return;
    const value = from === 'measured' && read.value ? { ...read.value, from } : read.value;
    dispatch(fieldTyped({ slot: 'switch', field, value, burst }));
  };
  const take = (fit: GapFit) => {
    const spread = fit.uncertainty === null ? '' : ` ±${(fit.uncertainty * 100).toFixed(2)} %`;
    // Measured: what the gap broke at says how it is, and changes nothing of what it is.
    typed('b', `${fit.enhancement.toFixed(4)}${spread}`, newBurst(), 'measured');
    if (fit.scatter !== null) typed('sc', `${(Math.min(0.5, fit.scatter) * 100).toFixed(2)} %`, newBurst(), 'measured');
  };
  const pitch = readQuantityText(pitchField, pitchText);
  const pitchValue = pitch.ok && pitch.value ? pitch.value.value : 1e-3;
  const wear = figureIn(evaluation, 'gap-wear');
  const gauge = block.fields['reading'] === 'gauge' ? 'gauge' : 'absolute';
  return (
    <>
      <h1 className="text-20 font-bold">Gap of {document.name}</h1>
      <div className="mt-2 grid gap-5 lg:grid-cols-[minmax(0,1fr)_360px]">
        <div className="min-w-0">
          <BreaksAt rig={document.rig} study={study} evaluation={evaluation} />
          <ul aria-label="Advice" className="mt-2 border-l-4 border-select bg-plate px-3 py-2 text-16">
            {study.advice.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <Drawn document={document} study={study} values={{ d: value('d'), p: value('p') }} />
        </div>
        <div className="grid content-start gap-3">
          <section className="border border-rule p-3 print:hidden">
            {(['d', 'p'] as const).map((field) => (
              <label key={field} className="mb-1 grid grid-cols-[1fr_150px] items-center gap-2" htmlFor={`desk-${field}`}>
                {field === 'd' ? 'Spacing' : `Pressure, ${gauge}`}
                <QuantityInput
                  id={`desk-${field}`}
                  field={fields[field]}
                  value={block.fields[field] as never}
                  draft={undefined}
                  onValue={(next, burst) => dispatch(fieldTyped({ slot: 'switch', field, value: next, burst }))}
                  onDraft={() => undefined}
                />
              </label>
            ))}
            <label className="grid grid-cols-[1fr_150px] items-center gap-2" htmlFor="desk-pitch">
              Pitch of the screw
              <input
                id="desk-pitch"
                className={`figure border bg-plate px-2 py-1 ${pitch.ok ? 'border-rule' : 'border-over'}`}
                value={pitchText}
                aria-invalid={!pitch.ok}
                onChange={(event) => setPitchText(event.target.value)}
              />
            </label>
            {!pitch.ok && (
              <TroubleLine look="words" className="text-13">
                Pitch of the screw {pitch.reason}.
              </TroubleLine>
            )}
          </section>
          <section aria-label="Fit to what was observed" className="print:hidden">
            <label htmlFor="desk-seen" className="font-bold">
              {fields.seen.title}
            </label>
            <LinesInput
              id="desk-seen"
              field={fields.seen}
              value={String(block.fields['seen'] ?? '')}
              onValue={(next, burst) => dispatch(fieldTyped({ slot: 'switch', field: 'seen', value: next, burst }))}
            />
            <FitLine fit={study.fit} onTake={take} />
          </section>
          <ShopCard
            name={document.name}
            shown={gapPrint(document.rig, print)}
            d={value('d')}
            wanted={study.wanted.d}
            p={`${textIn(block.fields['p'])} ${gauge}`}
            pitch={pitchValue}
          />
          <p className="text-13">
            {wear
              ? `Dress the electrodes after about ${printQuantity(wear.worked.value, '1', { digits: 2 })} shots.`
              : 'Enter on the rig page how much charge the electrodes can pass to see the shots until they need dressing.'}
          </p>
          <span className="flex gap-3 print:hidden">
            <Button onClick={() => window.print()}>
              <Printer size={16} aria-hidden /> Print the card
            </Button>
          </span>
        </div>
      </div>
    </>
  );
}

/** One screen for one gap: where it breaks down, where it should stand, what was seen, and how to set it. */
export function GapDeskView() {
  return <RigDesk width="max-w-[1500px]">{(document) => <Desk document={document} />}</RigDesk>;
}
