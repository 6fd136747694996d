import { useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { StoredPart } from '@vast-surge/contract';
import { readQuantityText, textOf, type FieldSpec, type FieldValue } from '@vast-surge/core/field';
import type { Worked } from '@vast-surge/core/formula';
import { dielectricById } from '@vast-surge/core/material';
import {
  deviationOf,
  fitDesign,
  measuredOf,
  newDesign,
  newPart,
  partKind,
  predictDesign,
  shapeOf,
  shapes,
  type Design,
  type MeterReading,
  type Part,
  type Prediction,
} from '@vast-surge/core/part';
import { wordQuantityIssue, printQuantity } from '@vast-surge/core/quantity';
import { useShelf, writeBench } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { PartsFrame } from './frame.tsx';
import { SpecField } from './spec-field.tsx';
import { short, signedPercent } from './words.tsx';
import { parseTyped } from '../../ui/typed.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const kvPerMm = (field: number): string => `${printQuantity(field / 1e6, '1')} kV/mm`;

function Line({ title, worked, note, printed }: { title: string; worked: Worked; note?: string; printed?: string }) {
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] gap-3 border-b border-rule py-1">
      <span>
        {title}
        {note && <span className="block text-13 text-dim">{note}</span>}
      </span>
      <WorkedNumber
        title={title}
        printed={printed ?? short(worked.value, worked.unit)}
        worked={worked}
        rig={null}
        className="text-17 font-bold"
      />
    </li>
  );
}

/** Stress against strength: half the lower strength is what a home-made one is trusted with. */
function Stress({ prediction }: { prediction: Prediction }) {
  const { stress, strength, held } = prediction;
  const tooHigh = strength !== null && stress.value > strength.low / 2;
  const beyond = strength !== null && stress.value > strength.high;
  return (
    <>
      <Line
        title="Field in the dielectric"
        worked={stress}
        printed={kvPerMm(stress.value)}
        note={
          strength
            ? `the material breaks down at ${kvPerMm(strength.low)} to ${kvPerMm(strength.high)}`
            : 'the strength of the material is not known'
        }
      />
      {held !== null && (
        <li className={`border-b border-rule py-1 ${tooHigh ? 'border-l-4 border-l-warning pl-2' : ''}`}>
          {tooHigh ? '⚠ ' : ''}Half the lower strength is reached at <b className="figure">{short(held, 'V')}</b>
          {beyond
            ? ': at the target voltage it breaks down.'
            : tooHigh
              ? ': the target voltage is above that.'
              : ', above the target voltage.'}
        </li>
      )}
    </>
  );
}

function Predicted({ prediction }: { prediction: Prediction }) {
  const { capacitance, range } = prediction;
  const short2 = (v: number) => short(v, 'F');
  return (
    <p>
      <span className="block text-13 text-dim">Predicted capacitance</span>
      <WorkedNumber
        title="Predicted capacitance"
        printed={short2(capacitance.value)}
        worked={capacitance}
        rig={null}
        className="text-34 leading-tight font-bold"
      />
      <span className="block">
        {short2(range.low)} to {short2(range.high)} over the range of the material and the tolerances of the dimensions
      </span>
    </p>
  );
}

function Result({ prediction, esr }: { prediction: Prediction; esr: number | null }) {
  const { energy, creepage, margin, resistances, resistance, cuts } = prediction;
  return (
    <>
      <Predicted prediction={prediction} />
      <ul className="mt-3 border-t border-rule">
        <Line title="Stored energy at that voltage" worked={energy} />
        <Stress prediction={prediction} />
        <Line
          title="Creepage needed"
          worked={creepage}
          note={`${short(margin, 'm')} is there${margin < creepage.value ? ': ⚠ it will flash over the edge first' : ''}`}
        />
        {resistances.map((r) => (
          <Line key={r.title} title={`Series resistance: ${r.title}`} worked={r} />
        ))}
        <li className="flex justify-between border-b border-rule py-1">
          Series resistance, all together <b className="figure">{short(resistance, 'Ω')}</b>
        </li>
        {esr !== null && (
          <li className="flex justify-between border-b border-rule py-1">
            <span>
              Series resistance, measured
              <span className="block text-13 text-dim">{signedPercent(esr / resistance - 1)} from what was worked out</span>
            </span>
            <b className="figure">{short(esr, 'Ω')}</b>
          </li>
        )}
      </ul>
      <h3 className="mt-4 border-b border-ink text-15 font-bold">Cutting list</h3>
      <ul>
        {cuts.map((cut) => (
          <li key={cut.piece} className="grid grid-cols-[34px_minmax(0,1fr)_auto] gap-2 border-b border-rule py-1">
            <b className="figure">{cut.count} ×</b>
            <span>{cut.piece}</span>
            <span className="figure">{cut.size}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

/** A part on the shelf that stands for a design: its label is the prediction, its dc rating what half the strength allows. */
function partOf(design: Design, prediction: Prediction, name: string): Part {
  const part = newPart('capacitor', name, '');
  const { fields } = partKind('capacitor');
  const set = (id: string, value: number, tolerance?: { minus: number; plus: number }) => {
    const spec = fields[id];
    if (spec?.type !== 'quantity') return {};
    const rounded = { value: Number(value.toPrecision(4)), ...(tolerance ? { tolerance } : {}) };
    const read = readQuantityText(spec, textOf(rounded, spec.unit));
    return read.ok && read.value ? { [id]: read.value } : {};
  };
  const { value } = prediction.capacitance;
  const spread = (x: number) => Number(Math.min(Math.max(x, 0.01), 0.9).toPrecision(2));
  const tolerance = { minus: spread(1 - prediction.range.low / value), plus: spread(prediction.range.high / value - 1) };
  const wanted = design.fields['V'];
  const asked = typeof wanted === 'object' && wanted !== null ? wanted.value : prediction.held;
  const rating = prediction.held === null ? asked : Math.min(prediction.held, asked ?? Infinity);
  return {
    ...part,
    fields: {
      ...part.fields,
      dielectric: 'home-made',
      ...set('C', value, tolerance),
      ...(rating === null ? {} : set('Vdc', rating)),
      ...(prediction.resistance > 0 ? set('ESR', prediction.resistance) : {}),
    },
    design,
  };
}

/** Home-made capacitors that were measured, from which the next one can take its permittivity. */
function useFitted(parts: readonly StoredPart[]) {
  return useMemo(
    () =>
      parts.flatMap((p) => (p.part.design?.fitted ? [{ stored: p, design: p.part.design, fitted: p.part.design.fitted }] : [])),
    [parts],
  );
}

function FittedBack({ fitted }: { fitted: NonNullable<Design['fitted']> }) {
  return (
    <ul className="mt-1">
      <li>
        At the measured thickness the permittivity is <b className="figure">{printQuantity(fitted.permittivity, '1')}</b>
      </li>
      <li>
        or, at the assumed permittivity, the dielectric is <b className="figure">{printQuantity(fitted.thicknessFactor, '1')}</b>{' '}
        times as thick as measured
        {fitted.thicknessFactor > 1.05 && ': air or oil is in between'}.
      </li>
      <li className="text-13 text-dim">
        Kept as a reading of the part with its fit, and offered for the next one of the same material.
      </li>
    </ul>
  );
}

interface FitProps {
  readonly design: Design;
  readonly measured: number | null;
  /** `isRead`: the value was typed here, and is a reading of its own. */
  readonly onFitted: (design: Design, value: number, isRead: boolean) => void;
}

function Fit({ design, measured, onFitted }: FitProps) {
  const [text, setText] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const fitTo = (value: number, isRead: boolean) => {
    const fitted = fitDesign(design, value);
    setSaid(fitted ? null : 'no permittivity or thickness gives that; check the dimensions');
    if (fitted) {
      onFitted({ ...design, fitted }, value, isRead);
      setText('');
    }
  };
  return (
    <section aria-label="Measured and fitted back" className="mt-5">
      <h3 className="border-b border-ink text-15 font-bold">Measured, and fitted back</h3>
      <form
        className="mt-1 flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const read = parseTyped(text, 'F');
          if (read.ok) fitTo(read.quantity.value, true);
          else setSaid(wordQuantityIssue(read.issue));
        }}
      >
        <label htmlFor="fit-measured">Measured value</label>
        <input
          id="fit-measured"
          className="figure w-32 border border-rule bg-plate px-2 py-1"
          placeholder={measured === null ? '1.2 nF' : short(measured, 'F')}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit">Fit</Button>
        {measured !== null && <Button onClick={() => fitTo(measured, false)}>Fit to its readings, {short(measured, 'F')}</Button>}
      </form>
      {said !== null && <TroubleLine look="words">Measured capacitance: {said}.</TroubleLine>}
      {design.fitted && <FittedBack fitted={design.fitted} />}
    </section>
  );
}

/** Whether the choice that a field belongs to stands where it asks for it, and is shown itself. */
function isShown(spec: FieldSpec, design: Design): boolean {
  if (!spec.onlyWith) return true;
  const { choice, values } = spec.onlyWith;
  const asked = shapeOf(design.shape).fields[choice];
  return values.includes(String(design.fields[choice])) && asked !== undefined && isShown(asked, design);
}

function useDesign(stored: StoredPart | undefined) {
  const [own, setOwn] = useState<Design>(() => newDesign(shapes[0]?.id ?? 'bottle'));
  const design = stored?.part.design ?? own;
  const setDesign = (next: Design) => {
    if (!stored) setOwn(next);
    else
      writeBench({ do: 'edit', edits: [{ id: stored.id, set: { design: next }, was: { design: stored.part.design ?? null } }] });
  };
  return [design, setDesign] as const;
}

/** The shapes there are; one that is on the shelf keeps its own. */
function Shapes({ of, isFixed, onShape }: { of: string; isFixed: boolean; onShape: (id: string) => void }) {
  return (
    <div role="group" aria-label="Shape" className="mt-2 grid grid-cols-2 gap-1">
      {shapes.map((s) => (
        <button
          key={s.id}
          type="button"
          aria-pressed={s.id === of}
          disabled={isFixed && s.id !== of}
          className={`border border-rule px-2 py-1 text-left ${s.id === of ? 'bg-ink font-bold text-plate' : 'bg-plate hover:border-ink'}`}
          onClick={() => onShape(s.id)}
        >
          {s.title}
        </button>
      ))}
    </div>
  );
}

/** What was fitted to others of the same material, to be taken over. */
function Permittivities({ sources, onPick }: { sources: ReturnType<typeof useFitted>; onPick: (value: number) => void }) {
  return (
    <div className="mt-2">
      <p className="text-14">Permittivity as fitted from one of the same material:</p>
      <div className="flex flex-wrap gap-2">
        {sources.map((source) => {
          const value = Number(source.fitted.permittivity.toPrecision(4));
          return (
            <Button key={source.stored.id} className="!py-0.5" disabled={value < 1} onClick={() => onPick(value)}>
              <b className="figure">{source.stored.part.tag}</b> {value}
            </Button>
          );
        })}
      </div>
    </div>
  );
}

/** What was measured of it, and what may lie behind a difference. */
function Measured({ measured, off }: { measured: number; off: ReturnType<typeof deviationOf> }) {
  return (
    <div className={`mt-3 ${off.isWithin ? '' : 'border-l-4 border-warning pl-2'}`}>
      <p>
        {off.isWithin ? '' : '⚠ '}Measured <b className="figure">{short(measured, 'F')}</b>, {signedPercent(off.fraction)} from
        the prediction, {off.isWithin ? 'within its range' : 'outside its range'}.
      </p>
      {off.mayBe.map((text) => (
        <p key={text} className="text-15">
          {text}
        </p>
      ))}
    </div>
  );
}

/** Puts a new one on the bench, by a name of its own or that of its shape. */
function ToTheBench({
  title,
  name,
  setName,
  onPut,
}: {
  title: string;
  name: string;
  setName: (name: string) => void;
  onPut: () => void;
}) {
  return (
    <div className="mt-5 flex flex-wrap items-center gap-2">
      <label htmlFor="design-name">Name</label>
      <input
        id="design-name"
        className="border border-rule bg-plate px-2 py-1.5"
        maxLength={80}
        placeholder={title}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button look="primary" onClick={() => onPut()}>
        Add to the bench
      </Button>
    </div>
  );
}

const readingOf = (value: number): MeterReading => ({
  measure: 'capacitance',
  element: 1,
  value,
  at: new Date().toISOString(),
  instrument: '',
  under: null,
  by: '',
});

function FirstCharge({ material }: { material: string }) {
  return (
    <p className="mt-4 text-13 text-dim">
      Charge a home-made capacitor for the first time behind a barrier, slowly, with its bleeder connected.{' '}
      {dielectricById(material)?.breaksDown ?? ''} Discharge through a resistor, verify with a meter rated for it, strap.
    </p>
  );
}

/** What a design comes to, beside what was measured of it. */
function Outcome({
  stored,
  design,
  setDesign,
}: {
  stored: StoredPart | undefined;
  design: Design;
  setDesign: (design: Design) => void;
}) {
  const navigate = useNavigate();
  // Kept here: a size that cannot be read for a moment takes no name away.
  const [name, setName] = useState('');
  const shape = shapeOf(design.shape);
  const predicted = useMemo(() => predictDesign(design), [design]);
  const put = (prediction: Prediction) => {
    const id = crypto.randomUUID();
    const part = partOf(design, prediction, name.trim() || shape.title);
    const { fitted: read } = design;
    writeBench({ do: 'create', parts: [{ id, part: read ? { ...part, readings: [readingOf(read.capacitance)] } : part }] });
    void navigate(`/parts?part=${id}`);
  };
  const fit = (next: Design, value: number, isRead: boolean) => {
    setDesign(next);
    // What is not on the bench yet takes its reading along when it is put there.
    if (stored && isRead) writeBench({ do: 'read', readings: [{ partId: stored.id, reading: readingOf(value) }] });
  };
  const measured = stored ? (measuredOf(stored.part, 'capacitance')?.mean ?? null) : (design.fitted?.capacitance ?? null);
  const esr = stored ? (measuredOf(stored.part, 'esr')?.mean ?? null) : null;
  const off = measured !== null && predicted.ok ? deviationOf(design, predicted.prediction, measured) : null;
  return (
    <section aria-label="Prediction" className="min-w-0 flex-1 px-4 py-3 lg:min-h-0 lg:overflow-y-auto lg:px-6">
      <div className="max-w-[46rem]">
        {predicted.ok ? (
          <Result prediction={predicted.prediction} esr={esr} />
        ) : (
          <p role="alert" className="border-l-4 border-over bg-plate p-3 font-bold">
            It cannot be worked out: {predicted.reason}.
          </p>
        )}
        {measured !== null && off && <Measured measured={measured} off={off} />}
        <Fit design={design} measured={stored ? measured : null} onFitted={fit} />
        {!stored && predicted.ok && (
          <ToTheBench title={shape.title} name={name} setName={setName} onPut={() => put(predicted.prediction)} />
        )}
        <FirstCharge material={String(design.fields['material'])} />
      </div>
    </section>
  );
}

function WhichOne({ stored }: { stored: StoredPart | undefined }) {
  return (
    <div className="flex items-baseline justify-between gap-2">
      <h2 className="text-19 font-bold">{stored ? `${stored.part.tag}: ${stored.part.name}` : 'A new one'}</h2>
      {stored && (
        <Link className="text-select underline" to={`/parts?part=${stored.id}`}>
          on the shelf
        </Link>
      )}
    </div>
  );
}

/** The desk for capacitors of one's own making: sizes in, capacitance, stress and cutting list out. */
export function HomeMadeView() {
  const shelf = useShelf();
  const [params] = useSearchParams();
  const wantedId = params.get('part');
  const stored = shelf.parts.find((p) => p.id === wantedId && p.part.design !== undefined);
  const [design, setDesign] = useDesign(stored);
  const fitted = useFitted(shelf.parts);
  const shape = shapeOf(design.shape);
  const setField = (id: string, value: FieldValue) =>
    setDesign({ ...design, fields: { ...design.fields, [id]: value }, fitted: null });
  const material = design.fields['material'];
  const sources = fitted.filter((f) => f.stored.id !== stored?.id && f.design.fields['material'] === material);
  return (
    <PartsFrame shelf={shelf}>
      <div className="flex min-h-0 flex-1 flex-col overflow-y-auto lg:flex-row lg:overflow-visible">
        <section
          aria-label="Design"
          className="border-rule px-4 py-3 lg:min-h-0 lg:w-[430px] lg:shrink-0 lg:overflow-y-auto lg:border-r"
        >
          <WhichOne stored={stored} />
          <Shapes of={design.shape} isFixed={stored !== undefined} onShape={(id) => setDesign(newDesign(id))} />
          <p className="mt-1 text-13 text-dim">{shape.says}</p>
          {Object.entries(shape.fields)
            .filter(([, spec]) => isShown(spec, design))
            .map(([id, spec]) => (
              <SpecField
                key={`${stored?.id ?? ''} ${design.shape} ${id}`}
                id={`design-${id}`}
                spec={spec}
                value={design.fields[id] ?? null}
                live={stored === undefined}
                onCommit={(value) => setField(id, value)}
              />
            ))}
          {sources.length > 0 && (
            <Permittivities
              sources={sources}
              onPick={(value) => setField('er', { value, text: String(value), from: 'measured' })}
            />
          )}
        </section>
        <Outcome stored={stored} design={design} setDesign={setDesign} />
      </div>
    </PartsFrame>
  );
}
