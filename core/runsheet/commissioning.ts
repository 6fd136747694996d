import { edge } from '../numeric/index.ts';
import { storeEnergy } from '../block/index.ts';
import { Corners, ifKnown, RigReading, thresholdOf } from '../figure/index.ts';
import type { Worked } from '../formula/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { printDuration, printQuantity } from '../quantity/index.ts';
import { quantityAt, withTrialValue, type Rig } from '../rig/index.ts';
import { erectionShot } from '../study/index.ts';

/** Shares of the working voltage to stop at: 1 %, 9 %, 25 % and 56 % of the energy. Common practice, no source. */
const shares = [0.1, 0.3, 0.5, 0.75, 1] as const;

/** A number of a rung: nominal with its working, and the greatest over the tolerances; infinite where a corner never comes to it. */
export interface RungNumber {
  readonly worked: Worked;
  readonly worst: number;
}

/** A voltage to stop at on the way up, and what is calculated for it. Null where it cannot be had. */
export interface Rung {
  readonly share: number;
  /** V */
  readonly voltage: number;
  /** The rig as it is charged here: the workings are of it. */
  readonly rig: Rig;
  /** J */
  readonly energy: RungNumber | null;
  /** s */
  readonly chargeTime: RungNumber | null;
  /** A */
  readonly peakCurrent: RungNumber | null;
  /** What the peak current is called: of a Marx it is the closed form. */
  readonly currentTitle: string;
  /** s that the discharge tool needs to below the goal of the bleed at this voltage. */
  readonly toolTime: RungNumber | null;
  /** Whether the switch can conduct at so low a voltage; what is charged has to be bled otherwise. */
  readonly fires: boolean;
  /** Of a Marx: what its gaps are set to for this rung, in words; they are closed in the rig of the rung. Null of any other. */
  readonly setting: string | null;
}

/** m: nobody sets a gap closer and knows what it breaks at. Common practice, no source. */
const closest = 0.3e-3;

/** The gaps of a Marx closed so that each breaks at its share of what it breaks at when the rig is at its voltage. */
function withGapsFor(
  rig: Rig,
  share: number,
): { readonly rig: Rig; readonly setting: string; readonly isPossible: boolean } | null {
  if (!new RigReading(rig).offers('store').ladder) return null;
  const [Vg, d] = [quantityAt(rig, 'store.Vg')?.value?.value, quantityAt(rig, 'switch.d')?.value?.value];
  const closed = Vg === undefined ? rig : withTrialValue(rig, 'store.Vg', Vg * share);
  const between = Vg === undefined ? '' : `gaps between the stages breaking at ${printQuantity(Vg * share, 'V')}`;
  const breaksAt = (gap: number) =>
    ifKnown(() => new RigReading(withTrialValue(closed, 'switch.d', gap)).figure('self-break').value) ?? NaN;
  const wanted = d === undefined ? NaN : breaksAt(d) * share;
  if (d === undefined || Number.isNaN(wanted)) return { rig: closed, setting: between, isPossible: true };
  if (breaksAt(closest) > wanted)
    return {
      rig: closed,
      setting: `no gap is set closer than ${printQuantity(closest, 'm')}: it is not fired here`,
      isPossible: false,
    };
  const low = edge((gap) => !(breaksAt(gap) > wanted), closest, d, { rounds: 40 }).below;
  return {
    rig: withTrialValue(closed, 'switch.d', low),
    setting: [`first gap at ${printQuantity(low, 'm', { digits: 2 })}`, between].filter((part) => part !== '').join(', '),
    isPossible: true,
  };
}

/** Whether a Marx erects as its gaps are set for a rung, by the solver; null of what is no Marx, or cannot be run. */
export function rungErects({ rig, fires, setting }: Pick<Rung, 'rig' | 'fires' | 'setting'>): boolean | null {
  if (setting === null || !fires) return null;
  return ifKnown(() => erectionShot(rig).erects);
}

/** What a rung says of the switch, in words. */
export const rungSays = ({ fires, setting }: Pick<Rung, 'fires' | 'setting'>, erects: boolean | null): string =>
  !fires
    ? `does not fire: bleed it${setting === null ? '' : ` (${setting})`}`
    : setting === null
      ? 'may fire'
      : `${setting}: ${erects === null ? 'whether it erects is not known' : erects ? 'erects' : 'fires and does not erect: bleed every stage'}`;

/** A number of a rung as it is written, wherever it stands. */
export const rungPrint = ({ unit }: Worked, value: number): string =>
  !Number.isFinite(value) ? 'never' : unit === 's' ? printDuration(value) : printQuantity(value, unit);

function numberOf(corners: Corners, of: (reading: RigReading) => Worked): RungNumber | null {
  return ifKnown(() => ({ worked: of(corners.nominal()), worst: corners.bandOf(of).high }));
}

/** Whether the switch can fire at this voltage at all. */
function fires(reading: RigReading, V: number): boolean {
  const threshold = thresholdOf(reading);
  if (threshold !== null && threshold.value >= V) return false;
  const selfBreak = ifKnown(() => reading.figure('self-break').value);
  return !(reading.offers('switch').firedBy === 'itself' && selfBreak !== null && selfBreak > V);
}

/** The way up: the rig as it stands, charged to a tenth of its voltage, and further step by step. */
export function commissioningLadder({ rig, corners, figures }: Evaluation): Rung[] {
  const currentTitle = figures.find(({ id }) => id === 'peak-current')?.title ?? 'Peak current';
  const V0 = corners.nominal().offer('chargedTo').value;
  return shares.map((share) => {
    const voltage = V0 * share;
    const gaps = withGapsFor(rig, share);
    const charged = share === 1 ? rig : withTrialValue(gaps?.rig ?? rig, 'store.V0', voltage);
    const at = share === 1 ? corners : new Corners(charged);
    return {
      share,
      voltage,
      rig: charged,
      energy: numberOf(at, storeEnergy),
      chargeTime: numberOf(at, (r) => r.figure('charge-time')),
      peakCurrent: numberOf(at, (r) => r.figure('peak-current')),
      currentTitle,
      toolTime: numberOf(at, (r) => r.figure('tool-hold')),
      fires: fires(at.nominal(), voltage) && gaps?.isPossible !== false,
      setting: share === 1 && gaps !== null ? 'as set' : (gaps?.setting ?? null),
    };
  });
}
