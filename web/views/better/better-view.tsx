import { useState } from 'react';
import { Link } from 'react-router';
import { type QuantityField } from '@vast-surge/core/field';
import { printPercent, printQuantity, type UnitId } from '@vast-surge/core/quantity';
import { blockIn, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { withDesign, type LaunchGoal, type LaunchOutcome, type Span, type FinderSpec } from '@vast-surge/core/study';
import { rigReplaced } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { saveDrawing, tableCsv } from '../../plot/export.ts';
import { Ask, askedFor } from '../../ui/ask.tsx';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { isFor, useCoilFinder, type Best, type Search } from '../../workers/coil-finder.ts';
import { RigDesk } from '../rig-desk.tsx';
import { TradeOff, type Against } from './trade-off.tsx';
import { readTyped } from '../../ui/typed.ts';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);

const asked = (title: string, unit: UnitId, max: number, more: Partial<QuantityField> = {}) =>
  askedFor(title, unit, max, null, { optional: true, ...more });

const limitFields = {
  peakCurrent: asked('Peak current', 'A', 1e6),
  warmer: asked('Coil temperature rise per shot', 'K', 1000),
  layerVoltage: asked('Layer-to-layer voltage', 'V', 1e6),
  wire: asked('Wire for all coils', 'm', 1e5),
  outer: asked('Outer diameter of a coil', 'm', 10),
  energy: asked('Energy of all stores', 'J', 1e7),
  gap: asked('Minimum space between coils', 'm', 10, { open: false, optional: false }),
} as const;
/** What may be varied beside the turns: from and to. */
const spanFields = {
  wire: {
    from: asked('Wire, thinnest', 'm', 0.1),
    to: asked('Wire, thickest', 'm', 0.1),
    example: '22 AWG to 14 AWG',
  },
  capacitance: {
    from: asked('Capacitance, from', 'F', 10),
    to: asked('Capacitance, to', 'F', 10),
    example: '470 µF to 10 mF',
  },
  voltage: {
    from: asked('Voltage, from', 'V', 1e5),
    to: asked('Voltage, to', 'V', 1e5),
    example: '35 V to 450 V',
  },
} as const;
type SpanKey = keyof typeof spanFields;
const spanKeys = Object.keys(spanFields) as SpanKey[];
type SpanTexts = Readonly<Record<SpanKey, readonly [string, string]>>;
const noSpans: SpanTexts = { wire: ['', ''], capacitance: ['', ''], voltage: ['', ''] };

/** What is wrong with a span as it was typed; its two values, or null where both are empty. */
function readSpan(
  key: SpanKey,
  [low, high]: readonly [string, string],
): { span: Span | null; reasons: [string | null, string | null] } {
  const { from, to } = spanFields[key];
  const [a, b] = [readTyped(from, low), readTyped(to, high)];
  const none: [string | null, string | null] = [a.ok ? null : a.reason, b.ok ? null : b.reason];
  if (!a.ok || !b.ok) return { span: null, reasons: none };
  const [x, y] = [a.value?.value ?? null, b.value?.value ?? null];
  if (x === null && y === null) return { span: null, reasons: none };
  if (x === null) return { span: null, reasons: ['is empty: enter both ends, or neither', null] };
  if (y === null) return { span: null, reasons: [null, 'is empty: enter both ends, or neither'] };
  if (x > y) return { span: null, reasons: [null, `must not be below ${low.trim()}, the other end`] };
  return { span: [x, y], reasons: none };
}
const otherFields = {
  speed: asked('Speed to reach', 'm/s', 1e4, { optional: false }),
  evaluations: asked('Launches to try', '1', 50_000, { min: 100, integer: true, optional: false, open: false }),
  seed: asked('Seed', '1', 1e9, { min: 1, integer: true, optional: false, open: false }),
} as const;
const fields = { ...limitFields, ...otherFields };
type Key = keyof typeof fields;
type Texts = Readonly<Record<Key, string>>;

const goals: readonly { readonly of: LaunchGoal['of']; readonly title: string }[] = [
  { of: 'speed', title: 'the highest speed' },
  { of: 'efficiency', title: 'the best efficiency' },
  { of: 'current', title: 'the lowest peak current that reaches a speed' },
];

/** What the fields begin with: the switch of the rig says how much current it bears. */
function firstTexts(rig: Rig): Texts {
  const rated = blockIn(rig, 'switch').fields['I'];
  return {
    peakCurrent: typeof rated === 'object' && rated ? rated.text : '',
    warmer: '60 K',
    layerVoltage: '',
    wire: '',
    outer: '',
    energy: '',
    gap: '5 mm',
    speed: '10 m/s',
    evaluations: '2000',
    seed: '1',
  };
}

/** What was found goes into the stages of the rig; one undo takes it back. */
function useTake(rig: Rig) {
  const dispatch = useAppDispatch();
  return ({ design }: Best) => dispatch(rigReplaced(withDesign(rig, design)));
}

/** A design and what it comes to, line by line. */
function rowsOf({ outcome, design }: Best): readonly (readonly [string, string])[] {
  return [
    ['layers', String(design.layers)],
    ['turns per layer', String(design.perLayer)],
    ['turns', String(design.layers * design.perLayer)],
    ...(design.gauge === null ? [] : [['wire', `${design.gauge} AWG`] as const]),
    ...(design.capacitance === null ? [] : [['capacitance of a store', print(design.capacitance, 'F')] as const]),
    ...(design.voltage === null ? [] : [['charge voltage', print(design.voltage, 'V')] as const]),
    ['energy of all stores', print(outcome.energy, 'J')],
    ['winding length', print(design.length, 'm')],
    ['start, from the centre of the first coil', print(design.start, 'm')],
    ...design.further.flatMap(({ at, sensor }, k) => [
      [`coil ${k + 2} at`, print(at, 'm')] as const,
      [`fires with the slug at`, print(sensor, 'm')] as const,
    ]),
    ['wire, all coils', print(outcome.wire, 'm')],
    ['peak current', print(outcome.peakCurrent, 'A')],
    ['efficiency, of the energy taken', printPercent(outcome.efficiency, 2)],
    ['temperature rise', print(outcome.warmer, 'K')],
  ];
}

function Found({ search, best, rig }: { search: Exclude<Search, { state: 'idle' | 'failed' }>; best: Best; rig: Rig }) {
  const take = useTake(rig);
  const { outcome } = best;
  const { now } = search;
  const rows = rowsOf(best);
  return (
    <div>
      <p className="text-18">
        <b className="figure text-30">{print(outcome.exit, 'm/s')}</b>
        {now && (
          <>
            {' '}
            instead of <b className="figure">{print(now.exit, 'm/s')}</b> now
          </>
        )}
        , <b className="figure">{printPercent(outcome.efficiency, 2)}</b> efficiency
        {now && <> instead of {printPercent(now.efficiency, 2)}</>}, peak{' '}
        <b className="figure">{print(outcome.peakCurrent, 'A')}</b>.
      </p>
      <table className="mt-2 w-full text-15">
        <tbody>
          {rows.map(([title, text]) => (
            <tr key={title + text} className="border-t border-rule">
              <th scope="row" className="text-left font-normal">
                {title}
              </th>
              <td className="figure text-right whitespace-nowrap">{text}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {search.state !== 'running' && isFor(search, rig) && (
        <div className="mt-2">
          <Button look="primary" onClick={() => take(best)}>
            Use in the rig
          </Button>
        </div>
      )}
    </div>
  );
}

const stateWords = {
  running: 'Searching',
  done: 'Done',
  cancelled: 'Cancelled',
} as const;

const outcomesCsv = (tried: readonly LaunchOutcome[]): string =>
  tableCsv(
    ['speed / m/s', 'efficiency', 'peak current / A', 'temperature rise / K', 'wire / m'],
    tried.map(({ exit, efficiency, peakCurrent, warmer, wire }) => [exit, efficiency, peakCurrent, warmer, wire]),
  );

/** All that was tried within the limits: speed against what it costs. */
function Tried({
  search,
  name,
  against,
  setAgainst,
}: {
  against: Against;
  setAgainst: (against: Against) => void;
  search: Exclude<Search, { state: 'idle' | 'failed' }>;
  name: string;
}) {
  const { tried, best, now } = search;
  return (
    <section aria-label="Trade-off">
      <fieldset className="flex flex-wrap gap-4 text-15">
        <legend className="font-bold">Speed against</legend>
        {(
          [
            ['peakCurrent', 'peak current'],
            ['efficiency', 'efficiency'],
          ] as const
        ).map(([value, title]) => (
          <label key={value} className="flex min-h-7 items-center gap-1">
            <input type="radio" name="against" checked={against === value} onChange={() => setAgainst(value)} />
            {title}
          </label>
        ))}
      </fieldset>
      <TradeOff tried={tried} best={best?.outcome ?? null} now={now} against={against} />
      <p className="flex gap-2">
        <Button onClick={() => saveDrawing('trade-off', `${name}-better`)}>SVG</Button>
        <Button onClick={() => download(`${name}-better.csv`, outcomesCsv(tried))}>CSV</Button>
      </p>
      <p className="mt-1 text-13 text-dim">
        Each point is a design within the limits; no design beats those on the line in both. The ring marks the one shown.
      </p>
    </section>
  );
}

function Answer({ search, rig, name, onCancel }: { search: Search; rig: Rig; name: string; onCancel: () => void }) {
  const [against, setAgainst] = useState<Against>('peakCurrent');
  if (search.state === 'idle')
    return (
      <p className="text-dim">
        The search varies layers, turns per layer, the start position and, for each further coil, its position and the point at
        which it fires; wire, capacitance and voltage where a range is entered. Former, switches and projectile stay as they are.
      </p>
    );
  if (search.state === 'failed')
    return (
      <p role="alert" className="border-l-4 border-over bg-plate p-3">
        No search: {search.reason}.
      </p>
    );
  const { share, spec, best, tried, rate, workers, state } = search;
  return (
    <>
      <div className="flex flex-wrap items-center gap-3" role="status">
        <progress className="h-3 w-64" value={share} max={1} aria-label="Launches tried" />
        <span className="figure">
          {stateWords[state]}: {Math.round(share * spec.evaluations)} of {spec.evaluations}
          {rate > 0 && `, ${Math.round(rate)} a second on ${workers} ${workers === 1 ? 'core' : 'cores'}`}
        </span>
        {state === 'running' && <Button onClick={onCancel}>Cancel</Button>}
      </div>
      {!isFor(search, rig) && <p className="mt-2 font-bold">The rig has changed since: search again.</p>}
      {state !== 'running' && !best && (
        <p role="alert" className="mt-2 border-l-4 border-warning bg-plate p-3">
          Nothing keeps within these limits, of {Math.round(share * spec.evaluations)} that were tried. Loosen the tightest.
        </p>
      )}
      <div className="mt-3 grid grid-cols-1 gap-6 xl:grid-cols-2">
        {best && <Found search={search} best={best} rig={rig} />}
        {tried.length > 0 && <Tried search={search} name={name} against={against} setAgainst={setAgainst} />}
      </div>
    </>
  );
}

/** What is looked for, as it is typed and as it is read. */
function useWish(rig: Rig) {
  const [goal, setGoal] = useState<LaunchGoal['of']>('speed');
  const [texts, setTexts] = useState(() => firstTexts(rig));
  const [spans, setSpans] = useState(noSpans);
  const freedom = spanKeys.map((key) => ({ key, ...readSpan(key, spans[key]) }));
  const read = (key: Key) => readTyped(fields[key], texts[key]);
  const value = (key: Key): number | null => {
    const got = read(key);
    return got.ok ? (got.value?.value ?? null) : null;
  };
  const asks: Key[] = [
    ...(goal === 'current' ? (['speed'] as const) : []),
    ...(Object.keys(limitFields) as Key[]),
    'evaluations',
    'seed',
  ];
  const wrong = asks.some((key) => !read(key).ok) || freedom.some(({ reasons }) => reasons.some((reason) => reason !== null));
  const spanOf = (key: SpanKey) => freedom.find((one) => one.key === key)?.span ?? null;
  const question = (): FinderSpec => ({
    rig,
    goal: goal === 'current' ? { of: 'current', speed: value('speed') ?? 0 } : { of: goal },
    limits: {
      peakCurrent: value('peakCurrent'),
      warmer: value('warmer'),
      layerVoltage: value('layerVoltage'),
      wire: value('wire'),
      outer: value('outer'),
      energy: value('energy'),
      gap: value('gap') ?? 0,
    },
    freedom: { wire: spanOf('wire'), capacitance: spanOf('capacitance'), voltage: spanOf('voltage') },
    evaluations: value('evaluations') ?? 2000,
    seed: value('seed') ?? 1,
  });
  return { goal, setGoal, texts, setTexts, spans, setSpans, freedom, read, wrong, question };
}

type Wish = ReturnType<typeof useWish>;

function LookFor({ wish: { goal, setGoal } }: { wish: Wish }) {
  return (
    <fieldset>
      <legend className="font-bold">Look for</legend>
      {goals.map(({ of, title }) => (
        <label key={of} className="flex min-h-7 items-center gap-2">
          <input type="radio" name="goal" checked={goal === of} onChange={() => setGoal(of)} />
          {title}
        </label>
      ))}
    </fieldset>
  );
}

interface WishFormProps {
  readonly wish: Wish;
  readonly isSearching: boolean;
  readonly onSearch: () => void;
}

function WishForm({ wish, isSearching, onSearch }: WishFormProps) {
  const { goal, texts, setTexts, spans, setSpans, freedom, read, wrong } = wish;
  const ask = (key: Key) => {
    const got = read(key);
    return (
      <Ask
        key={key}
        field={fields[key]}
        text={texts[key]}
        reason={got.ok ? null : got.reason}
        onText={(text) => setTexts({ ...texts, [key]: text })}
      />
    );
  };
  return (
    <section aria-label="What is looked for" className="text-15">
      <LookFor wish={wish} />
      {goal === 'current' && ask('speed')}
      <h2 className="mt-3 font-bold">Within</h2>
      {(Object.keys(limitFields) as Key[]).map(ask)}
      <p className="text-13 text-dim">Empty: no limit.</p>
      <h2 className="mt-3 font-bold">Also vary</h2>
      {freedom.flatMap(({ key, reasons }) =>
        (['from', 'to'] as const).map((end, i) => (
          <Ask
            key={key + end}
            field={spanFields[key][end]}
            text={spans[key][i as 0 | 1]}
            reason={reasons[i as 0 | 1]}
            onText={(text) => setSpans({ ...spans, [key]: i === 0 ? [text, spans[key][1]] : [spans[key][0], text] })}
          />
        )),
      )}
      <p className="text-13 text-dim">
        Empty: as the rig has it. {spanKeys.map((key) => spanFields[key].example).join(', ')}; wire in sizes of the American wire
        gauge. With the stores varied, limit their energy.
      </p>
      <h2 className="mt-3 font-bold">How</h2>
      {ask('evaluations')}
      {ask('seed')}
      <p className="text-13 text-dim">The same seed finds the same again.</p>
      <div className="mt-3">
        <Button look="primary" disabled={wrong || isSearching} onClick={onSearch}>
          Search
        </Button>
      </div>
    </section>
  );
}

function Better({ id, document }: { id: string; document: RigDocument }) {
  const { rig } = document;
  const wish = useWish(rig);
  const { search, start, cancel } = useCoilFinder();
  return (
    <>
      <h1 className="text-20 font-bold">Better coil for {document.name}</h1>
      <div className="mt-3 grid grid-cols-1 gap-6 lg:grid-cols-[330px_minmax(0,1fr)]">
        <WishForm wish={wish} isSearching={search.state === 'running'} onSearch={() => start(wish.question())} />
        <section aria-label="What was found" className="min-w-0">
          <Answer search={search} rig={rig} name={fileName(document.name)} onCancel={cancel} />
        </section>
      </div>
      <p className="mt-4 flex flex-wrap gap-x-6">
        <Link className="text-select underline" to={`/rigs/${id}/launch`}>
          Launch
        </Link>
      </p>
    </>
  );
}

/** A search for the coils that launch fastest, most efficiently, or with the least current. */
export function BetterView() {
  return (
    <RigDesk whole width="max-w-[1500px]">
      {(document, id) => <Better id={id} document={document} />}
    </RigDesk>
  );
}
