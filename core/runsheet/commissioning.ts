import { storeEnergy } from '../block/index.ts';
import type { RigReading } from '../figure/index.ts';
import { Corners, ifKnown, thresholdOf } from '../figure/index.ts';
import type { Worked } from '../formula/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { printDuration, printQuantity } from '../quantity/index.ts';
import { withTrialValue, type Rig } from '../rig/index.ts';

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
}

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
    const charged = share === 1 ? rig : withTrialValue(rig, 'store.V0', voltage);
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
      fires: fires(at.nominal(), voltage),
    };
  });
}
