import { useEffect, useRef, type ReactNode } from 'react';
import { Copy, Gauge, Printer, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import type { StoredLot, StoredPart } from '@vast-surge/contract';
import {
  conditions,
  disposalCaution,
  elementsOf,
  lotSource,
  partKind,
  shapeOf,
  verdictOf,
  type Part,
} from '@vast-surge/core/part';
import type { OwnQuantity } from '@vast-surge/core/field';
import { printPrice, readPrice } from '../../app/currency.ts';
import type { Use } from '../../app/uses.ts';
import { Button } from '../../ui/button.tsx';
import { OwnQuantities } from '../../ui/own-quantities.tsx';
import { LotSelect } from './lot-select.tsx';
import { Marking } from './marking.tsx';
import { Photo } from './photo.tsx';
import { Readings } from './readings.tsx';
import { NumberField, SpecField, TextField } from './spec-field.tsx';
import { Connections, DcLimitPanel } from './takes.tsx';
import { editPart, kindWords } from './words.tsx';
import { Select } from '../../ui/select.tsx';

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="mt-4">
      <h3 className="border-b border-ink text-15 font-bold">{title}</h3>
      {children}
    </section>
  );
}

/** What the readings say of it, where that differs from what a person has decided. */
function Verdict({ stored }: { stored: StoredPart }) {
  const verdict = verdictOf(stored.part);
  if (!verdict || verdict.condition === stored.part.condition) return null;
  const warns = verdict.condition !== 'good';
  return (
    <p
      role="status"
      className={`mt-1 flex flex-wrap items-center gap-2 border-l-4 bg-plate py-1 pl-2 ${warns ? 'border-warning' : 'border-rule'}`}
    >
      <span className="min-w-0 flex-1">
        Its readings say <b>{verdict.condition}</b>: {verdict.reason}.
      </span>
      <Button onClick={() => editPart(stored, 'condition', verdict.condition)}>Record as {verdict.condition}</Button>
    </p>
  );
}

interface Props {
  readonly stored: StoredPart;
  readonly lots: readonly StoredLot[];
  readonly uses: readonly Use[];
  readonly onMore: () => void;
  readonly onRemove: () => void;
}

/** What a person wrote of a part that its kind has no box for; sent a moment after the last key, or when the part is left. */
function OwnOf({ stored }: { stored: StoredPart }) {
  const pending = useRef<(() => void) | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const settle = () => {
    clearTimeout(timer.current);
    pending.current?.();
    pending.current = null;
  };
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      pending.current?.();
    },
    [],
  );
  const take = (own: readonly OwnQuantity[] | null) => {
    pending.current = own && (() => editPart(stored, 'own', own.length > 0 ? own : null));
    clearTimeout(timer.current);
    timer.current = setTimeout(settle, 800);
  };
  return (
    <OwnQuantities
      own={stored.part.own ?? []}
      known={[]}
      says="What its label or your bench says and has no box above: a mass, a thread, a pressure."
      onOwn={take}
    />
  );
}

/** What it is called, what it is, and its picture. */
function Head({ stored }: { stored: StoredPart }) {
  const { part } = stored;
  return (
    <div className="flex gap-3">
      <div className="min-w-0 flex-1">
        <TextField
          label="Tag"
          hideLabel
          required
          value={part.tag}
          maxLength={24}
          className="figure !border-transparent !bg-transparent !px-0 !py-0 min-h-[26px] text-24 font-bold hover:!border-rule focus:!border-select"
          onCommit={(tag) => editPart(stored, 'tag', tag)}
        />
        <TextField
          label="Name"
          hideLabel
          required
          value={part.name}
          maxLength={80}
          className="!border-transparent !bg-transparent !px-0 !py-0 min-h-[26px] hover:!border-rule focus:!border-select"
          onCommit={(name) => editPart(stored, 'name', name)}
        />
        <p className="text-13 text-dim">{kindWords(part)}</p>
      </div>
      <Photo stored={stored} />
    </div>
  );
}

/** What can be done with a part. */
function Acts({ id, onMore, onRemove }: { id: string; onMore: () => void; onRemove: () => void }) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <Link
        to={`/parts/measure?parts=${id}`}
        className="inline-flex items-center gap-2 border border-ink bg-ink px-3 py-1.5 font-bold text-plate"
      >
        <Gauge size={16} aria-hidden /> Measure
      </Link>
      <Button onClick={onMore}>
        <Copy size={16} aria-hidden /> More like it
      </Button>
      <Link
        to={`/parts/labels?parts=${id}`}
        aria-label="Print its label"
        title="Print its label"
        className="border border-rule bg-plate px-2 py-1.5 hover:border-ink"
      >
        <Printer size={17} aria-hidden />
      </Link>
      <Button aria-label="Remove from the bench" title="Remove from the bench (Delete)" className="!px-2" onClick={onRemove}>
        <Trash2 size={17} aria-hidden />
      </Button>
    </div>
  );
}

/** Where it lies, how many there are, what they cost, and where they came from. */
function Keeping({ stored, lots }: { stored: StoredPart; lots: readonly StoredLot[] }) {
  const { part } = stored;
  return (
    <Section title="Keeping">
      <NumberField
        label="How many"
        value={part.quantity}
        max={100_000}
        integer
        onCommit={(n) => editPart(stored, 'quantity', n ?? 0)}
      />
      <TextField label="Location" value={part.place} maxLength={120} onCommit={(place) => editPart(stored, 'place', place)} />
      <NumberField
        label="Price, each"
        value={part.price}
        max={1e9}
        optional
        read={readPrice}
        says={`such as ${printPrice(5)}`}
        onCommit={(price) => editPart(stored, 'price', price)}
      />
      <LotSelect id="part-lot" lots={lots} value={part.lot} onChange={(lot) => editPart(stored, 'lot', lot)} />
      <TextField label="Note" value={part.note} maxLength={10_000} area onCommit={(note) => editPart(stored, 'note', note)} />
    </Section>
  );
}

/** The rigs it stands in; one that is built has it alone. */
function UsedBy({ uses, pieces }: { uses: readonly Use[]; pieces: number }) {
  return (
    <Section title="Rigs that use it">
      <ul>
        {uses.map((use) => (
          <li key={use.rigId} className="py-0.5">
            <Link className="text-select underline" to={`/rigs/${use.rigId}`}>
              {use.name}
            </Link>{' '}
            <span className="text-dim">{use.built ? 'built, in use there' : 'a plan'}</span>
          </li>
        ))}
      </ul>
      {uses.filter((u) => u.built).length > Math.max(1, pieces) && (
        <p role="alert" className="border-l-4 border-warning pl-2">
          ⚠ More built rigs have it than there are pieces of it. It can be in one at a time.
        </p>
      )}
    </Section>
  );
}

/** What its kind and its origin ask of who handles it. */
function HandleWith({ part, lot }: { part: Part; lot: StoredLot | undefined }) {
  const { cautions } = partKind(part.kind);
  const hazards = lot ? lotSource(lot.lot.source).hazards : [];

  if (cautions.length === 0 && hazards.length === 0) return null;
  return (
    <Section title="Handle with">
      <ul className="list-disc space-y-0.5 py-1 pl-5 text-13">
        {[...new Set([...cautions, ...hazards])].map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
        {hazards.length > 0 && <li>{disposalCaution}</li>}
      </ul>
    </Section>
  );
}

function LabelFields({ stored }: { stored: StoredPart }) {
  const { id, part } = stored;
  const kind = partKind(part.kind);
  return (
    <Section title="Label">
      <Marking stored={stored} />
      {Object.entries(kind.fields)
        .filter(([field]) => field !== 'school' && (field !== 'use' || elementsOf(part) < 2))
        .map(([field, spec]) => (
          <SpecField
            key={`${id} ${field}`}
            id={`part-${field}`}
            spec={spec}
            value={part.fields[field] ?? null}
            onCommit={(value) => editPart(stored, `fields.${field}`, value)}
          />
        ))}
    </Section>
  );
}

function HowMade({ id, design }: { id: string; design: NonNullable<Part['design']> }) {
  return (
    <Section title="How it was made">
      <p className="py-1">
        {shapeOf(design.shape).title}.{' '}
        <Link className="text-select underline" to={`/parts/home-made?part=${id}`}>
          Open its design
        </Link>
      </p>
    </Section>
  );
}

/** Everything known of a part, in the order in which one asks for it. */
export function PartDetail({ stored, lots, uses, onMore, onRemove }: Props) {
  const { id, part } = stored;
  const lot = lots.find((l) => l.id === part.lot);
  return (
    <div className="px-4 py-3">
      <Head stored={stored} />
      <Acts id={id} onMore={onMore} onRemove={onRemove} />
      <div className="mt-2 grid grid-cols-[132px_minmax(0,1fr)] items-center gap-2">
        <label htmlFor="part-condition">State</label>
        <Select
          id="part-condition"
          className="font-bold"
          value={part.condition}
          onChange={(event) => editPart(stored, 'condition', event.target.value)}
        >
          {conditions.map((condition) => (
            <option key={condition}>{condition}</option>
          ))}
        </Select>
      </div>
      <Verdict stored={stored} />
      <Section title="Measured">
        <Readings stored={stored} />
      </Section>
      {part.kind === 'capacitor' && elementsOf(part) > 1 && (
        <Section title="Elements as used">
          <Connections stored={stored} />
        </Section>
      )}
      {part.kind === 'capacitor' && (
        <Section title="Voltage rating">
          <DcLimitPanel stored={stored} />
        </Section>
      )}
      <LabelFields stored={stored} />
      <Section title="Of your own">
        <OwnOf key={id} stored={stored} />
      </Section>
      {part.design && <HowMade id={id} design={part.design} />}
      <Keeping stored={stored} lots={lots} />
      {uses.length > 0 && <UsedBy uses={uses} pieces={part.quantity} />}
      <HandleWith part={part} lot={lot} />
    </div>
  );
}
