import { blockIn, quantityAt, withBlock, type Rig } from '../rig/index.ts';
import { gapStudy, type GapFit } from '../study/index.ts';
import { printExact, printQuantity } from '../quantity/index.ts';
import { measuredField, type MeasuredField } from './accept.ts';
import type { Shot, Values } from './shot.ts';

/** A shot by self-break of the gap: what it says of the gap. */
interface Breakdown {
  readonly V: number;
  readonly d: number | undefined;
  readonly p: number | undefined;
  /** Pressure of the air, Pa, where it was read at the shot: then the pressure in the gap is known without what the rig has for it. */
  readonly air: number | undefined;
  readonly on: string;
}

/** What the shots of a rig say of its gap. */
export interface GapShots {
  readonly fit: GapFit;
  /** Each as a line of the gap's observed breakdowns. */
  readonly lines: readonly string[];
}

const bar = (p: number): number => Number((p / 1e5).toPrecision(6));

const lineOf = ({ V, d, p, air, on }: Breakdown): string =>
  [
    printExact(V, 'V'),
    ...(d === undefined ? [] : [printExact(d, 'm')]),
    // A shot has its pressure by the gauge, and the gap may be read absolute.
    ...(air !== undefined ? [`${bar((p ?? 0) + air)} bara`] : p === undefined ? [] : [`${bar(p)} barg`]),
    `shot of ${on}`,
  ].join(' ');

/** Pressure of the air at a shot, Pa, where the pressure in the gap is known with it: written down, or that of the air itself. */
function asRead(rig: Rig, set: Values, measured: Values): number | undefined {
  const p = measured.pressure ?? set.pressure;
  if (set.airPressure === undefined || (p === undefined && quantityAt(rig, 'switch.p')?.value?.value !== 0)) return undefined;
  return set.airPressure;
}

/** Every self-break: a pre-fire always is one, a shot of a gap that has no trigger as well. */
function breakdowns(rig: Rig, shots: readonly Shot[]): Breakdown[] {
  const isFree = blockIn(rig, 'switch').fields['mode'] === 'self-break';
  return shots.flatMap(({ outcome, measured, set, at }): Breakdown[] => {
    const byItself = outcome === 'pre-fire' || (outcome === 'fired' && isFree);
    if (!byItself || !measured.voltage) return [];
    return [
      {
        V: measured.voltage,
        d: measured.spacing ?? set.spacing,
        p: measured.pressure ?? set.pressure,
        air: asRead(rig, set, measured),
        on: at.slice(0, 10),
      },
    ];
  });
}

/** The fields of the gap that its shots give measured values to: enhancement, and scatter where there are enough of them. */
export function fieldsOfGap(rig: Rig, { fit }: GapShots): MeasuredField[] {
  const { enhancement: value, uncertainty, scatter } = fit;
  const b = measuredField(rig, 'switch.b', { value, margin: value * (uncertainty ?? 0.5) });
  // Half of what stays of a scatter is chance with a few shots: its margin is 1/√(2(n − 1)) of it, for normal errors.
  const sc = scatter !== null && scatter > 0 ? { value: scatter, margin: scatter / Math.sqrt(2 * (fit.used - 1)) } : null;
  return [b, ...(sc ? [measuredField(rig, 'switch.sc', sc)] : [])];
}

/** The rig with the breakdowns of these shots among those that were observed of its gap, none of them twice. */
export function withBreakdowns(rig: Rig, lines: readonly string[]): Rig {
  const block = blockIn(rig, 'switch');
  const seen = String(block.fields['seen'] ?? '')
    .split('\n')
    .filter((line) => line.trim() !== '');
  // Two shots may have been alike: a line is there as often as it was seen.
  const left = [...seen];
  const fresh = lines.filter((line) => {
    const at = left.indexOf(line);
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
  const all = [...seen, ...fresh].join('\n');
  return withBlock(rig, 'switch', { ...block, fields: { ...block.fields, seen: all } });
}

/**
 * Breakdowns out of shots, fitted: the enhancement that brings the calculated self-break to them, over whatever spacing and pressure
 * they had, and their scatter.
 *
 * @returns null where the switch is no spark gap or no shot is a breakdown that can be held against a table
 */
export function gapShots(rig: Rig, shots: readonly Shot[]): GapShots | null {
  if (!quantityAt(rig, 'switch.d') || !('seen' in blockIn(rig, 'switch').fields)) return null;
  const found = breakdowns(rig, shots);
  if (found.length === 0) return null;
  const lines = found.map(lineOf);
  const block = blockIn(rig, 'switch');
  const alone = withBlock(rig, 'switch', { ...block, fields: { ...block.fields, seen: lines.join('\n') } });
  const fit = gapStudy(alone, printQuantity)?.fit ?? null;
  return fit && { fit, lines };
}
