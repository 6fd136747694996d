import { useMemo } from 'react';
import { FileDown, Printer } from 'lucide-react';
import { Link } from 'react-router';
import { initialValue, type FieldValue, type QuantityField, type QuantityValue } from '@vast-surge/core/field';
import { boundsOf, FormulaError } from '@vast-surge/core/formula';
import { wordFinding } from '@vast-surge/core/hazard';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';
import {
  oneCapacitorDielectrics,
  oneCapacitorFields,
  oneCapacitorSheet,
  oneCapacitorText,
  type OneCapacitor,
  type OneSheet,
} from '@vast-surge/core/runsheet';
import { useTypedParams } from '../../app/typed-params.ts';
import { Button } from '../../ui/button.tsx';
import { download } from '../../ui/download.ts';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { SpecField } from '../parts/spec-field.tsx';
import { readTyped } from '../../ui/typed.ts';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

type FieldId = keyof typeof oneCapacitorFields;
const fieldIds = Object.keys(oneCapacitorFields) as FieldId[];
const specOf = (id: FieldId): QuantityField => oneCapacitorFields[id];

/** What the address says of a field; its first value where it says nothing that can be read. */
function valueIn(params: URLSearchParams, id: FieldId): QuantityValue | null {
  const text = params.get(id);
  if (text !== null) {
    const read = readTyped(specOf(id), text);
    if (read.ok) return read.value;
  }
  return initialValue(specOf(id)) as QuantityValue | null;
}

const print = (value: number, unit: 'V' | 'A' | 'J' | 'Ω' | 'W') => printQuantity(value, unit, { digits: 2, trim: true });

/** The resistor: the one at hand and whether it is one for this, or one to build. */
function Resistor({ sheet: { resistor } }: { sheet: OneSheet }) {
  const { stick, R, peak, first, pulse, against } = resistor;
  return (
    <section aria-label="Resistor" className="mt-3 border-t border-rule pt-2">
      <h2 className="font-bold">{stick ? 'Proposed resistor' : 'Resistor at hand'}</h2>
      <p className="text-19">
        <b className="figure">{stick ? `${stick.n} × ${print(stick.R, 'Ω')}` : print(R.value, 'Ω')}</b>
        {stick && (
          <>
            {' '}
            in series, each for {print(stick.V, 'V')} and pulses of {print(stick.E, 'J')}
          </>
        )}
      </p>
      <p>
        At first touch <WorkedNumber title="First current" printed={print(first.value, 'A')} worked={first} rig={null} /> and{' '}
        <WorkedNumber title="Power at first touch" printed={print(peak.value, 'W')} worked={peak} rig={null} />; pulses of{' '}
        {print(pulse, 'J')} required of the whole string, twice the stored energy.
      </p>
      <TroubleLine look="words">{against}</TroubleLine>
    </section>
  );
}

function Lines({ lines }: { lines: OneSheet['lines'] }) {
  return (
    <ol className="mt-1">
      {lines.map(({ text, hold: until }, i) => (
        <li key={text} className="grid grid-cols-[28px_minmax(0,1fr)] break-inside-avoid border-t border-rule py-2 text-17">
          <b className="figure">{i + 1}</b>
          <span>
            {text}
            {until !== undefined && (
              <span className="block font-bold">
                <span aria-hidden>☐</span> Hold until: {until}
              </span>
            )}
          </span>
        </li>
      ))}
    </ol>
  );
}

function Cards({ cards }: { cards: OneSheet['cards'] }) {
  return (
    <div className="mt-4 grid gap-3 sm:grid-cols-2">
      {cards.map((card) => (
        <section key={card.title} className="break-inside-avoid border-2 border-ink p-3">
          <h2 className="font-bold">{card.title}</h2>
          <ol className="list-decimal pl-5">
            {card.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}

function Sheet({ sheet, of }: { sheet: OneSheet; of: OneCapacitor }) {
  const { hazard, energy, goal, hold, longest, lines, cards, isByHand } = sheet;
  return (
    <article className="min-w-0 flex-1 bg-plate p-5 print:p-0">
      <p className={`border-2 p-3 ${isByHand ? 'border-ink' : 'border-over'}`}>
        <span className="block text-26 leading-tight font-bold">
          <WorkedNumber
            title="Stored at that voltage"
            printed={printQuantity(boundsOf(energy).high, 'J')}
            worked={energy}
            rig={null}
            atWorst
          />{' '}
          worst case: {hazard.headline}
        </span>
        {hazard.findings
          .filter(({ exceeded }) => exceeded)
          .map((finding) => (
            <span key={finding.rule.id} className="block text-14">
              {wordFinding(finding)}; {finding.rule.source}
            </span>
          ))}
      </p>
      <p className="mt-3 text-19">
        On for at least{' '}
        <b className="text-30">
          <WorkedNumber title="Time on" printed={printDuration(longest)} worked={hold} rig={null} atWorst />
        </b>
        , until it reads below{' '}
        <b className="text-30">
          <WorkedNumber title="Below" printed={print(goal.value, 'V')} worked={goal} rig={null} />
        </b>
      </p>
      <Resistor sheet={sheet} />
      <h2 className="mt-4 font-bold">
        Discharging {printQuantity(of.C.value, 'F')} at {printQuantity(of.V0.value, 'V')}
      </h2>
      <Lines lines={lines} />
      {cards.length > 0 && <Cards cards={cards} />}
      <p className="mt-4 text-14 text-dim">
        Calculated from what was entered; it protects nobody: verify with a meter. Local codes and licensed practice come first.
      </p>
    </article>
  );
}

/** One capacitor on the bench: what it does to a person, which resistor, how long, what to read. No supply, no switch, no load. */
export function DischargeView() {
  const [params, put] = useTypedParams();
  const dielectric = oneCapacitorDielectrics.find(({ value }) => value === params.get('dielectric'))?.value ?? 'unknown';
  const set = (id: string, value: FieldValue) =>
    put((next) => next.set(id, value === null ? '' : typeof value === 'string' ? value : value.text));
  const [C, V0, R, meter] = [valueIn(params, 'C'), valueIn(params, 'V0'), valueIn(params, 'R'), valueIn(params, 'meter')];
  const of = useMemo(() => (C && V0 && meter ? { C, V0, R, meter, dielectric } : null), [C, V0, R, meter, dielectric]);
  const made = useMemo(() => {
    try {
      return of && { ok: true as const, sheet: oneCapacitorSheet(of) };
    } catch (error) {
      if (error instanceof FormulaError) return { ok: false as const, reason: error.message };
      throw error;
    }
  }, [of]);
  return (
    <main className="mx-auto flex w-full max-w-[1180px] flex-col gap-5 p-5 lg:flex-row print:block print:p-0">
      <section aria-label="The capacitor" className="no-print w-full shrink-0 lg:w-[300px]">
        <h1 className="text-2xl font-bold">Discharge a capacitor</h1>
        <p className="mt-1 text-dim">One capacitor on the bench. For one in a circuit, or several together, make a rig.</p>
        {fieldIds.map((id) => (
          <div key={id} className="mt-3">
            <SpecField
              id={`one-${id}`}
              spec={specOf(id)}
              value={{ C, V0, R, meter }[id]}
              live
              onCommit={(value) => set(id, value)}
            />
            <p className="text-13 text-dim">{specOf(id).help}</p>
          </div>
        ))}
        <label className="mt-3 block font-bold">
          Dielectric
          <Select
            fit="tall"
            className="mt-0.5 block w-full"
            value={dielectric}
            onChange={(event) => set('dielectric', event.target.value)}
          >
            {oneCapacitorDielectrics.map(({ value, title }) => (
              <option key={value} value={value}>
                {title}
              </option>
            ))}
          </Select>
        </label>
        <div className="mt-4 flex flex-wrap gap-2">
          <Button
            disabled={!made?.ok}
            onClick={() => of && download('discharge-one-capacitor.md', oneCapacitorText(of), 'text/markdown;charset=utf-8')}
          >
            <FileDown size={17} aria-hidden /> Markdown
          </Button>
          <Button onClick={() => window.print()}>
            <Printer size={17} aria-hidden /> Print
          </Button>
        </div>
        <Link className="mt-4 inline-block text-select underline" to="/rigs">
          All rigs
        </Link>
      </section>
      {made?.ok === true && of ? (
        <Sheet sheet={made.sheet} of={of} />
      ) : (
        <p role="alert" className="border-l-4 border-over bg-plate p-3">
          It cannot be worked out: {made?.ok === false ? made.reason : 'capacitance, voltage and meter are needed'}. Treat it as
          charged.
        </p>
      )}
    </main>
  );
}
