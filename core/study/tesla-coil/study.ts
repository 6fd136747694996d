import { Unavailable, type FieldsIn } from '../../block/index.ts';
import type { QuantityIn } from '../../field/index.ts';
import { blockDefinition, changeKind, verdictOf, type Verdict } from '../../kind/index.ts';
import { ifKnown, RigReading } from '../../figure/index.ts';
import { FormulaError } from '../../formula/index.ts';
import { spiralTurns, steadyAcBreaks, steadyBreaks, swingPeak, type CoupledLoops, type Turn } from '../../model/index.ts';
import { readQuantityText } from '../../field/index.ts';
import { blockIn, withBlock, type Rig } from '../../rig/index.ts';
import { paceOf, pathOf, tankRow, type TankRow } from './row.ts';
import { ringShape, type RingShape } from './window.ts';

/** The same tank, charged in another way. */
export interface TankVariant {
  readonly id: 'as-set' | 'choke' | 'resistor' | 'both' | 'ac';
  readonly title: string;
  /** Hz, A left in the gap against what holds an arc, W; null where it cannot be had. */
  readonly rate: number | null;
  readonly left: number | null;
  readonly power: number | null;
  readonly verdict: Verdict | null;
  /** V to which the gap would have to be turned in for it to fire at all; null where it does as it is. */
  readonly turnedIn: number | null;
  /** Why there is no verdict. */
  readonly reason: string | null;
}

/** Resonances against the tap, Hz. */
export interface Tuning {
  readonly taps: Float64Array;
  readonly tank: Float64Array;
  readonly low: Float64Array;
  readonly high: Float64Array;
  readonly secondary: number;
  readonly tap: number;
  readonly best: number | null;
}

/** What a drawing to scale shows, m. */
export interface TankDrawing {
  readonly turns: readonly Turn[];
  /** Turns up to the tap, of all. */
  readonly tapped: number;
  readonly conductor: number;
  readonly secondary: { readonly diameter: number; readonly from: number; readonly length: number };
  readonly top: { readonly kind: 'toroid' | 'sphere' | 'none'; readonly outer: number; readonly tube: number };
}

export interface TankStudy {
  /** Null where the gap never fires at this supply. */
  readonly row: TankRow | null;
  readonly pace: { readonly rate: number; readonly spread: number } | null;
  readonly ring: RingShape | null;
  readonly loops: Omit<CoupledLoops, 'V'> | null;
  readonly holding: number;
  readonly variants: readonly TankVariant[];
  readonly tuning: Tuning | null;
  readonly drawing: TankDrawing | null;
}

/** Another kind in a slot, with the fields that both kinds have. */
function withKind(rig: Rig, slot: 'supply' | 'charging', kind: string): Rig {
  const block = blockIn(rig, slot);
  return block.kind === kind
    ? rig
    : withBlock(rig, slot, changeKind(block, blockDefinition(slot, block.kind), blockDefinition(slot, kind)));
}

function typed(rig: Rig, slot: 'supply' | 'charging', field: string, text: string): Rig {
  const block = blockIn(rig, slot);
  const spec = blockDefinition(slot, block.kind).fields[field];
  const read = spec?.type === 'quantity' ? readQuantityText(spec, text) : null;
  return read?.ok ? withBlock(rig, slot, { ...block, fields: { ...block.fields, [field]: read.value } }) : rig;
}

/** A sign transformer as it is common: 30 mA into a short. Common practice, no source. */
const limited = '30 mA';

/** Share of what the tank comes to at which a gap that never fires is turned in. Common practice, no source. */
const wellWithin = 0.8;

/** How it would be with the gap turned in until it fires; nothing where the path is not known. */
function ifTurnedIn(rig: Rig, holding: number): Partial<TankVariant> {
  return (
    ifKnown(() => {
      const reading = new RigReading(rig);
      const path = pathOf(reading);
      const turnedIn = wellWithin * (path.f > 0 ? reading.figure('charge-towards').value : swingPeak(path));
      const row = path.f > 0 ? steadyAcBreaks(path, turnedIn) : steadyBreaks(path, turnedIn);
      if (!row) return {};
      const power = 0.5 * path.C * turnedIn * turnedIn * row.rate;
      return { rate: row.rate, left: row.left, power, verdict: verdictOf(row.left, holding), turnedIn };
    }) ?? {}
  );
}

function variantsOf(rig: Rig, holding: number): TankVariant[] {
  const ac = () => {
    const supply = withKind(rig, 'supply', 'ac-transformer');
    const block = blockIn(supply, 'supply');
    const own = withBlock(supply, 'supply', { ...block, fields: { ...block.fields, impedance: 'short-circuit' } });
    return withKind(typed(own, 'supply', 'Isc', limited), 'charging', 'direct');
  };
  const list: readonly (readonly [TankVariant['id'], string, () => Rig])[] = [
    ['as-set', 'as it is set', () => rig],
    ['choke', 'with the choke alone', () => withKind(rig, 'charging', 'choke')],
    ['resistor', 'with the resistor alone', () => withKind(rig, 'charging', 'resistor')],
    ['both', 'with choke and resistor', () => withKind(rig, 'charging', 'choke-resistor')],
    ['ac', `straight on AC, from a transformer limited to ${limited}`, ac],
  ];
  // What it is set to already is no other way.
  const kinds: Readonly<Partial<Record<TankVariant['id'], string>>> = {
    choke: 'choke',
    resistor: 'resistor',
    both: 'choke-resistor',
  };
  return list
    .filter(([id]) => kinds[id] !== blockIn(rig, 'charging').kind)
    .map(([id, title, make]) => {
      const none = { id, title, rate: null, left: null, power: null, verdict: null, turnedIn: null };
      const variant = make();
      try {
        const reading = new RigReading(variant);
        const left = reading.figure('left-current').value;
        const [rate, power] = [reading.figure('break-rate').value, reading.figure('tank-power').value];
        return { ...none, rate, left, power, verdict: verdictOf(left, holding), reason: null };
      } catch (error) {
        if (error instanceof Unavailable || error instanceof FormulaError)
          return { ...none, ...ifTurnedIn(variant, holding), reason: error.message };
        throw error;
      }
    });
}

/** Taps that the tuning curve is worked out at. */
const tapsDrawn = 60;

function tuningOf(rig: Rig, reading: RigReading): Tuning {
  const own = reading.own('load');
  const most = own.quantity('n1').value;
  const best = ifKnown(() => reading.figure('tuning-tap').value);
  // Around where the curves meet; from the first turn where they do not.
  const least = best !== null && best < most ? Math.max(0.25, 0.6 * best) : Math.min(1, most / 2);
  const taps = Float64Array.from({ length: tapsDrawn }, (_, k) => least + ((most - least) * k) / (tapsDrawn - 1));
  const [tank, low, high] = [0, 1, 2].map(() => new Float64Array(tapsDrawn)) as [Float64Array, Float64Array, Float64Array];
  taps.forEach((n, k) => {
    const at = new RigReading(rig, new Map([['load.n', n]]));
    tank[k] = ifKnown(() => at.figure('primary-resonance').value) ?? NaN;
    low[k] = ifKnown(() => at.figure('low-mode').value) ?? NaN;
    high[k] = ifKnown(() => at.figure('high-mode').value) ?? NaN;
  });
  return {
    taps,
    tank,
    low,
    high,
    secondary: reading.figure('secondary-resonance').value,
    tap: own.quantity('n').value,
    best,
  };
}

function drawingOf(reading: RigReading): TankDrawing {
  const own = reading.own('load');
  const value = (field: QuantityIn<FieldsIn<'load'>>) => own.quantity(field).value;
  const primary = reading.figure('primary-inductance');
  const rise = primary.kind === 'computed' ? (primary.inputs['a']?.value ?? 0) : 0;
  const top = own.choice('top');
  return {
    turns: spiralTurns(value('r0'), value('p'), Math.asin(rise), value('n1')),
    tapped: value('n'),
    conductor: value('d1'),
    secondary: { diameter: value('D2'), from: value('h'), length: value('l2') },
    top: {
      kind: top === 'toroid' ? 'toroid' : top === 'sphere' ? 'sphere' : 'none',
      outer: value('Dt'),
      tube: value('dt'),
    },
  };
}

/** Both loops of a tank with its secondary. @throws Unavailable, FormulaError */
export function loopsOf(reading: RigReading): Omit<CoupledLoops, 'V'> {
  const ring = reading.figure('secondary-peak');
  if (ring.kind !== 'computed') throw new Unavailable('load', 'the ring is not worked out');
  const of = (symbol: string) => ring.inputs[symbol]?.value ?? NaN;
  return { R1: of('R1'), L1: of('L1'), C1: of('C1'), R2: of('R2'), L2: of('L2'), C2: of('C2'), k: of('k') };
}

/** Breaks of a row that is drawn. */
const drawnBreaks = 2000;

/**
 * A Tesla coil running: its row of breaks, whether its gap opens again, and how it would be with other charging; the tuning of its primary,
 * and what a drawing of it shows.
 *
 * @param seed of the scatter of its gap
 * @throws Unavailable, FormulaError where the switch of the rig is no gap of a tank
 */
export function tankStudy(rig: Rig, seed: number): TankStudy {
  const reading = new RigReading(rig);
  const holding = reading.own('switch').quantity('Ih').value;
  const drawn = tankRow(reading, drawnBreaks, seed);
  const row = drawn.breaks.length > 0 ? drawn : null;
  const loops = ifKnown(() => loopsOf(reading));
  return {
    row,
    pace: row && paceOf(row),
    ring: loops && ringShape(loops),
    loops,
    holding,
    variants: variantsOf(rig, holding),
    tuning: ifKnown(() => tuningOf(rig, reading)),
    drawing: ifKnown(() => drawingOf(reading)),
  };
}
