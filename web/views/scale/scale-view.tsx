import { useState } from 'react';
import { FileDown, Printer } from 'lucide-react';
import { meterScale } from '@vast-surge/core/kind';
import { figureIn } from '@vast-surge/core/evaluation';
import { printQuantity } from '@vast-surge/core/quantity';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { useRigPage } from '../rig-shell/use-rig-page.ts';
import { ScaleDrawing, type Arc } from './scale-drawing.tsx';

/** A plain number of millimetres or degrees between two limits; what cannot be read says so and changes nothing. */
function Measure({
  label,
  unit,
  value,
  min,
  max,
  onValue,
}: {
  label: string;
  unit: string;
  value: number;
  min: number;
  max: number;
  onValue: (value: number) => void;
}) {
  const [text, setText] = useState(String(value));
  const read = Number(text.replace(',', '.'));
  const ok = text.trim() !== '' && Number.isFinite(read) && read >= min && read <= max;
  return (
    <label className="grid grid-cols-[1fr_7rem] items-baseline gap-2">
      {label}
      <span className={`flex items-center border bg-plate ${ok ? 'border-rule' : 'border-over'}`}>
        <input
          className="figure w-full bg-transparent px-2 py-1"
          inputMode="decimal"
          value={text}
          aria-invalid={!ok}
          onChange={(event) => {
            setText(event.target.value);
            const next = Number(event.target.value.replace(',', '.'));
            if (event.target.value.trim() !== '' && next >= min && next <= max) onValue(next);
          }}
        />
        <span className="pr-2 text-dim">{unit}</span>
      </span>
      {!ok && (
        <span role="alert" className="col-span-2 text-13 font-bold text-over">
          {label} must be from {min} to {max} {unit}.
        </span>
      )}
    </label>
  );
}

function ArcFields({ arc, setArc }: { arc: Arc; setArc: (arc: Arc) => void }) {
  return (
    <div className="mt-3 grid max-w-[24rem] gap-2">
      <Measure
        label="Radius of the arc"
        unit="mm"
        min={15}
        max={200}
        value={arc.radius}
        onValue={(radius) => setArc({ ...arc, radius })}
      />
      <Measure
        label="Full deflection"
        unit="°"
        min={30}
        max={270}
        value={arc.sweep}
        onValue={(sweep) => setArc({ ...arc, sweep })}
      />
    </div>
  );
}

const NoProof = () => (
  <p className="mt-3 max-w-[70ch] text-13 text-dim print:hidden">
    Joules are those of this bank at this capacitance. A needle is no proof of an empty bank: verify with a meter rated for the
    voltage.
  </p>
);

function Out({ name }: { name: string }) {
  const save = () => {
    const svg = window.document.getElementById('meter-scale');
    if (svg) download(`${fileName(name)}-scale.svg`, new XMLSerializer().serializeToString(svg), 'image/svg+xml');
  };
  return (
    <div className="mt-3 flex gap-2">
      <Button onClick={() => window.print()}>
        <Printer size={16} aria-hidden /> Print
      </Button>
      <Button onClick={save}>
        <FileDown size={16} aria-hidden /> SVG
      </Button>
    </div>
  );
}

/** A scale to print for a meter that is a movement with a series multiplier. */
export function ScaleView() {
  const { seen: rigDocument, evaluation } = useRigPage();
  const [arc, setArc] = useState<Arc>({ radius: 45, sweep: 90 });
  const full = figureIn(evaluation, 'meter-full-scale');
  const C = figureIn(evaluation, 'bank-capacitance');
  const reading = evaluation.corners.nominal();
  if (!full || !C)
    return (
      <main className="p-6">
        <h1 className="text-20 font-bold">Meter scale of {rigDocument.name}</h1>
        <p>The full scale of this meter cannot be worked out yet: see its block on the rig.</p>
      </main>
    );
  const planned = reading.offer('chargedTo').value;
  const limit = reading.offers('store').ratedVoltage?.value ?? null;
  const scale = meterScale({ fullScale: full.worked.value, capacitance: C.worked.value, planned, limit });
  const print = (V: number) => printQuantity(V, 'V', { trim: true });
  return (
    <main className="p-5 print:p-0">
      <div className="mb-4 max-w-[70ch] print:hidden">
        <h1 className="text-20 font-bold">Meter scale of {rigDocument.name}</h1>
        <p className="mt-1">
          Full scale {print(full.worked.value)}, {printQuantity(C.worked.value, 'F', { trim: true })}. Print at 100 %, not fitted
          to the page, and hold a ruler against the 50 mm mark before you glue it in.
        </p>
        <ArcFields arc={arc} setArc={setArc} />
        <Out name={rigDocument.name} />
      </div>
      <div className="overflow-x-auto">
        <ScaleDrawing
          scale={scale}
          arc={arc}
          title={`${rigDocument.name}, ${printQuantity(C.worked.value, 'F', { trim: true })}`}
          planned={print(planned)}
          limit={limit === null ? null : print(limit)}
        />
      </div>
      <NoProof />
    </main>
  );
}
