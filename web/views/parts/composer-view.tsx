import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { StoredPart } from '@vast-surge/contract';
import { groupedStore, newBlock, withBank } from '@vast-surge/core/kind';
import { partIdOf, piecesOf, readFilter, valuesOf, type Composed, type Piece, type Target } from '@vast-surge/core/part';
import { printQuantity } from '@vast-surge/core/quantity';
import { blockIn, newDocument, withBlock, type RigDocument } from '@vast-surge/core/rig';
import { api, failureOf } from '../../app/api.ts';
import { askedOnce } from '../../app/asked-once.ts';
import { useShelf, type Shelf } from '../../app/bench.ts';
import { useAddRig } from '../../app/commands.ts';
import { store } from '../../app/store.ts';
import { useUses, type Use } from '../../app/uses.ts';
import { Button } from '../../ui/button.tsx';
import { RigPicker } from '../../ui/rig-picker.tsx';
import { benchWorker } from '../../workers/bench.ts';
import type { Answer, ComposedAnswer } from '../../workers/bench.calculations.ts';
import { BankResult } from './bank-result.tsx';
import { Field, firstWish, readWish, Wanted, type Wish } from './composer-wish.tsx';
import { PartsFrame } from './frame.tsx';
import { short } from './words.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** Pieces of the parts that can be composed, and why the others cannot. */
function usePieces(parts: readonly StoredPart[]) {
  return useMemo(() => {
    const pieces: Piece[] = [];
    const out: { tag: string; reason: string }[] = [];
    let unmeasured = 0;
    for (const stored of parts) {
      const made = piecesOf(stored);
      if (!made.ok) out.push({ tag: stored.part.tag, reason: made.reason });
      else {
        pieces.push(...made.pieces);
        if (!made.measured) unmeasured += 1;
      }
    }
    return { pieces, out, unmeasured };
  }, [parts]);
}

type Outcome =
  { readonly at: 'nothing' } | { readonly at: 'refused'; readonly reason: string } | ({ readonly at: 'done' } & ComposedAnswer);

function useComposed(pieces: readonly Piece[], target: Target | null, arrangement: { ns: number; np: number } | null) {
  const [state, setState] = useState<{ outcome: Outcome; working: boolean }>({ outcome: { at: 'nothing' }, working: false });
  useEffect(() => {
    if (!target || pieces.length === 0) return undefined;
    let current = true;
    const timer = setTimeout(() => {
      setState((s) => ({ ...s, working: true }));
      const asked = { pieces, target, ns: arrangement?.ns ?? null, np: arrangement?.np ?? null };
      benchWorker
        .call<Answer<ComposedAnswer>>(async (remote) => await remote.compose(asked))
        .then(
          (answer) =>
            current &&
            setState({
              outcome: answer.ok ? { at: 'done', ...answer.value } : { at: 'refused', reason: answer.reason },
              working: false,
            }),
          (error: unknown) =>
            current &&
            setState({
              outcome: { at: 'refused', reason: error instanceof Error ? error.message : 'the composer stopped' },
              working: false,
            }),
        );
    }, 150);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [pieces, target, arrangement]);
  return target && pieces.length > 0 ? state : { outcome: { at: 'nothing' } as Outcome, working: false };
}

/** The store of a document standing on composed groups, charged to the target. */
function bankInto(
  document: RigDocument,
  composed: Composed,
  target: Target,
  parts: ReadonlyMap<string, StoredPart>,
): RigDocument {
  const was = blockIn(document.rig, 'store');
  const definition = groupedStore(was.kind);
  const block = was.kind === definition.kind ? was : newBlock(definition);
  const V0 = { value: target.voltage, text: short(target.voltage, 'V') };
  const bank = {
    bank: composed.bank,
    parts: new Map([...parts].map(([id, stored]) => [id, stored.part])),
    partId: (piece: { readonly id: string }) => partIdOf(piece as Piece),
  };
  const made = withBank({ ...block, fields: { ...block.fields, V0 } }, definition, bank);
  return { ...document, rig: withBlock(document.rig, 'store', made) };
}

/** Built rigs that have any of these parts already. */
function builtElsewhere(composed: Composed, uses: ReadonlyMap<string, readonly Use[]>): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const group of composed.bank.groups)
    for (const piece of group.pieces) {
      const id = partIdOf(piece);
      for (const use of uses.get(id) ?? [])
        if (use.built) found.set(use.name, [...new Set([...(found.get(use.name) ?? []), id])]);
    }
  return found;
}

/** The bank as a new rig, or in the place of the store of one. */
function useIntoRig(composed: Composed, target: Target, byId: ReadonlyMap<string, StoredPart>) {
  const add = useAddRig();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const makeNew = async () => {
    setBusy(true);
    const name = `Bank ${composed.bank.groups.length}s × ${composed.bank.groups[0]?.pieces.length ?? 1}p`;
    const id = await add(bankInto(newDocument(name), composed, target, byId));
    setBusy(false);
    if (id) void navigate(`/rigs/${id}`);
  };
  const putInto = async (rigId: string) => {
    setBusy(true);
    try {
      const rig = await askedOnce(store.dispatch(api.endpoints.getRig.initiate(rigId, { forceRefetch: true })));
      await store
        .dispatch(
          api.endpoints.saveRig.initiate({
            id: rigId,
            key: crypto.randomUUID(),
            version: rig.version,
            document: bankInto(rig.document, composed, target, byId),
          }),
        )
        .unwrap();
      toast(`${rig.document.name} uses this bank now; its revisions keep the earlier one.`);
      void navigate(`/rigs/${rigId}`);
    } catch (error) {
      toast.error(`${failureOf(error).message} The rig is as it was.`);
    }
    setBusy(false);
  };
  return { busy, makeNew, putInto };
}

function IntoRig({
  composed,
  target,
  byId,
  uses,
}: {
  composed: Composed;
  target: Target;
  byId: ReadonlyMap<string, StoredPart>;
  uses: ReadonlyMap<string, readonly Use[]>;
}) {
  const { busy, makeNew, putInto } = useIntoRig(composed, target, byId);
  const elsewhere = builtElsewhere(composed, uses);
  return (
    <div>
      {[...elsewhere].map(([name, ids]) => (
        <p key={name} role="alert" className="mb-2 border-l-4 border-warning pl-2">
          ⚠ {name} is built with {ids.map((id) => byId.get(id)?.part.tag ?? id.slice(0, 8)).join(', ')}: a part is in one built
          rig at a time.
        </p>
      ))}
      <div className="flex flex-wrap items-center gap-2">
        <Button look="primary" disabled={busy} onClick={() => void makeNew()}>
          Make a rig of it
        </Button>
        <RigPicker
          label="Put it into a rig"
          none="Or put it into …"
          value=""
          disabled={busy}
          onPick={(rig) => rig && void putInto(rig.id)}
        />
      </div>
    </div>
  );
}

interface Family {
  readonly name: string;
  readonly ids: ReadonlySet<string>;
  readonly pieces: number;
}

/** Capacitors of one name, so many that a bank can be made of them; the largest family first. */
function familiesOf(parts: readonly StoredPart[]): Family[] {
  const byName = new Map<string, { name: string; ids: Set<string>; pieces: number }>();
  for (const stored of parts) {
    const made = piecesOf(stored);
    if (!made.ok || stored.part.condition === 'suspect') continue;
    const family = byName.get(stored.part.name) ?? { name: stored.part.name, ids: new Set<string>(), pieces: 0 };
    family.ids.add(stored.id);
    family.pieces += made.pieces.length;
    byName.set(stored.part.name, family);
  }
  return [...byName.values()].filter((f) => f.pieces > 1).sort((a, b) => b.ids.size - a.ids.size || b.pieces - a.pieces);
}

/** Beyond this between the largest and the smallest a series string shares by capacitance alone, and one takes nearly all. */
const mixed = 3;

const arrangementKey = (a: { ns: number; np: number }) => `${a.ns} ${a.np}`;

/** What can be made of the parts, the best first; the one that is shown is pressed. */
function Arrangements({
  outcome,
  onPick,
}: {
  outcome: ComposedAnswer;
  onPick: (arrangement: { ns: number; np: number }) => void;
}) {
  return (
    <>
      <h2 className="mt-4 text-17 font-bold">Arrangements</h2>
      <ul className="max-h-[42vh] overflow-y-auto" tabIndex={0} aria-label="Arrangements">
        {outcome.offers.slice(0, 24).map((offer) => {
          const chosen = arrangementKey(offer) === arrangementKey(outcome.arrangement);
          return (
            <li key={arrangementKey(offer)} className="border-b border-rule">
              <button
                type="button"
                aria-pressed={chosen}
                className={`w-full px-2 py-1 text-left ${chosen ? 'bg-plate shadow-[inset_4px_0_0_var(--select)]' : 'hover:bg-plate'}`}
                onClick={() => onPick({ ns: offer.ns, np: offer.np })}
              >
                <span className="flex items-baseline justify-between gap-2">
                  <b className="figure whitespace-nowrap">
                    {offer.ns}s × {offer.np}p
                  </b>
                  <span className="figure text-14 whitespace-nowrap">
                    {short(offer.rating, 'V')} · {short(offer.energy, 'J')}
                  </span>
                </span>
                <span className={`block text-13 ${offer.meets ? '' : 'text-dim'}`}>
                  {offer.meets ? '✓ ' : ''}
                  {offer.says}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** How many pieces the parts come to, how alike they are, and which cannot be used. */
function PiecesSaid({
  lines,
  pieces,
  out,
  unmeasured,
}: {
  lines: number;
  pieces: readonly Piece[];
  out: readonly { tag: string; reason: string }[];
  unmeasured: number;
}) {
  const sizes = pieces.map((p) => p.capacitance);
  const spread = sizes.length > 0 ? sizes.reduce((a, b) => Math.max(a, b)) / sizes.reduce((a, b) => Math.min(a, b)) : 1;
  return (
    <>
      <p className="mt-1">
        <b>{pieces.length} pieces</b> of {lines} lines
        {unmeasured > 0 && `, ${unmeasured} of them not measured: the label counts, with its tolerance`}.
      </p>
      {spread > mixed && (
        <p role="status" className="mt-1 border-l-4 border-warning pl-2 text-14">
          ⚠ The largest has {printQuantity(spread, '1', { digits: 2 })} times the capacitance of the smallest. In series the
          smallest takes nearly all of the voltage: choose parts of similar value.
        </p>
      )}
      {out.length > 0 && (
        <details className="text-14">
          <summary className="cursor-pointer">{out.length} lines cannot be used</summary>
          <ul className="list-disc pl-5">
            {out.slice(0, 40).map(({ tag, reason }) => (
              <li key={tag}>
                <b className="figure">{tag}</b> {reason}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

/** Capacitors of one name, the largest heaps of them. */
function Families({
  families,
  chosen,
  onPick,
}: {
  families: readonly Family[];
  chosen: ReadonlySet<string> | null;
  onPick: (family: Family) => void;
}) {
  return (
    <ul className="py-1">
      {families.slice(0, 6).map((family) => (
        <li key={family.name}>
          <label className="flex items-baseline gap-2 py-1">
            <input type="radio" name="family" checked={chosen === family.ids} onChange={() => onPick(family)} />
            <span className="min-w-0 flex-1 truncate">{family.name}</span>
            <span className="figure text-14">{family.pieces}</span>
          </label>
        </li>
      ))}
    </ul>
  );
}

/** The parts a bank is made of: those handed over by the shelf, a family, or what a filter finds. */
function useSource(shelf: Shelf, text: string) {
  const handed = (useLocation().state as { ids?: readonly string[] } | null)?.ids ?? null;
  const [byHand, setByHand] = useState<ReadonlySet<string> | null>(() => (handed ? new Set(handed) : null));
  const filter = useDeferredValue(text);
  const lotNames = useMemo(() => new Map(shelf.lots.map((l) => [l.id, l.lot.name])), [shelf.lots]);
  const read = useMemo(() => readFilter(filter), [filter]);
  const families = useMemo(() => familiesOf(shelf.parts), [shelf.parts]);
  const ids = byHand ?? (filter.trim() === '' ? (families[0]?.ids ?? null) : null);
  const parts = useMemo(
    () =>
      shelf.parts.filter(({ id, part }) =>
        ids ? ids.has(id) : read.ok && part.kind === 'capacitor' && read.test(part, lotNames.get(part.lot ?? '') ?? ''),
      ),
    [shelf.parts, ids, read, lotNames],
  );
  const isHanded = handed !== null && byHand !== null && byHand.size === handed.length && handed.every((id) => byHand.has(id));
  return { families, ids, parts, refusal: read.ok ? null : read.reason, handed: isHanded ? handed : null, choose: setByHand };
}

/** Where the parts come from, and how others are chosen. */
function From({
  source: { families, ids, refusal, handed, choose },
  filter,
  onFilter,
}: {
  source: ReturnType<typeof useSource>;
  filter: string;
  onFilter: (filter: string) => void;
}) {
  if (handed)
    return (
      <p className="py-1">
        {handed.length} lines chosen on the shelf.{' '}
        <button type="button" className="text-select underline" onClick={() => choose(null)}>
          Choose others
        </button>
      </p>
    );
  const pick = (family: Family | null, text: string) => {
    choose(family?.ids ?? null);
    onFilter(text);
  };
  return (
    <>
      <Families families={families} chosen={ids} onPick={(family) => pick(family, '')} />
      <Field label="Or by a filter" value={filter} onChange={(text) => pick(null, text)} />
      <p className="text-13 text-dim">
        Words and values, as on the shelf: good C&gt;30u. By hand: tick them{' '}
        <Link className="text-select underline" to="/parts">
          on the shelf
        </Link>
        .
      </p>
      {refusal !== null && <TroubleLine look="words">{refusal}.</TroubleLine>}
    </>
  );
}

/** The bank that was composed, with the way into a rig and how far the search went. */
function Bank({ outcome, target, byId }: { outcome: ComposedAnswer; target: Target; byId: ReadonlyMap<string, StoredPart> }) {
  const uses = useUses();
  const { composed, arrangement } = outcome;
  const insulationOf = (id: string): number | null => {
    const part = byId.get(partIdOf({ id } as Piece))?.part;
    const value = part ? valuesOf(part)['Ri'] : undefined;
    return value?.from === 'measured' ? value.value : null;
  };
  return (
    <>
      <BankResult
        key={arrangementKey(arrangement)}
        composed={composed}
        target={target}
        tagOf={(piece) => byId.get(partIdOf(piece))?.part.tag ?? piece.id.slice(0, 8)}
        insulationOf={insulationOf}
        actions={<IntoRig composed={composed} target={target} byId={byId} uses={uses} />}
      />
      <p className="mt-3 text-13 text-dim">
        {composed.exact
          ? 'Every assignment was tried: none takes a higher voltage.'
          : 'Too many assignments to try all: swaps between groups and with the spares, from the sorted order, the best of a thousand at random and further random starts; never below those two.'}
      </p>
    </>
  );
}

/** From a heap of measured capacitors to the bank that takes the highest voltage. */
export function ComposerView() {
  const shelf = useShelf();
  const [wish, setWish] = useState<Wish>(firstWish);
  const [arrangement, setArrangement] = useState<{ ns: number; np: number } | null>(null);
  const set = (change: Partial<Wish>) => {
    setWish({ ...wish, ...change });
    setArrangement(null);
  };
  const source = useSource(shelf, wish.filter);
  const { parts } = source;
  const { pieces, out, unmeasured } = usePieces(parts);
  const wished = useMemo(() => readWish(wish), [wish]);
  const target = wished.ok ? wished.target : null;
  const { outcome, working } = useComposed(pieces, target, arrangement);
  return (
    <PartsFrame shelf={shelf}>
      <div className="flex min-h-0 flex-1 flex-col overflow-y-auto lg:flex-row lg:overflow-visible">
        <section
          aria-label="Target"
          className="shrink-0 border-rule px-4 py-3 lg:min-h-0 lg:w-[392px] lg:overflow-y-auto lg:border-r"
        >
          <Wanted wish={wish} refusal={wished.ok ? null : wished.reason} set={set} />
          <h2 className="mt-4 text-17 font-bold">From</h2>
          <From source={source} filter={wish.filter} onFilter={(filter) => set({ filter })} />
          <PiecesSaid lines={parts.length} pieces={pieces} out={out} unmeasured={unmeasured} />
          {outcome.at === 'done' && <Arrangements outcome={outcome} onPick={setArrangement} />}
        </section>
        <section aria-label="Bank" aria-busy={working} className="min-w-0 flex-1 px-4 py-3 lg:min-h-0 lg:overflow-y-auto lg:px-6">
          {outcome.at === 'nothing' && shelf.loaded && (
            <p className="text-dim">
              {pieces.length === 0 ? 'No capacitor with a known capacitance and DC limit fits.' : working ? 'Composing …' : ''}
            </p>
          )}
          {outcome.at === 'refused' && (
            <p role="alert" className="border-l-4 border-over bg-plate p-3 font-bold">
              It cannot be composed: {outcome.reason}.
            </p>
          )}
          {outcome.at === 'done' && target && <Bank outcome={outcome} target={target} byId={shelf.bench.parts} />}
        </section>
      </div>
    </PartsFrame>
  );
}
