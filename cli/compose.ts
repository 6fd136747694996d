import { compose, composeFor, ComposeError, type Composed, type Piece, type Target } from '@vast-surge/core/part';
import { parseQuantity, printPercent, printQuantity, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import { UsageError } from './usage.ts';

export interface ComposeOptions {
  readonly voltage: string;
  readonly energy?: string;
  readonly margin?: string;
  readonly ns?: string;
  readonly np?: string;
}

function quantity(name: string, text: string, unit: UnitId): number {
  const read = parseQuantity(text, unit);
  if (!read.ok) throw new UsageError(`--${name} ${wordQuantityIssue(read.issue)}`);
  if (read.quantity.tolerance) throw new UsageError(`--${name} takes no tolerance`);
  return read.quantity.value;
}

export interface ComposedBank {
  readonly target: Target;
  readonly meets: boolean;
  readonly composed: Composed;
}

/** Composes a bank of parts. @throws UsageError naming the option or the part that cannot be taken */
export function composeBank(pieces: readonly Piece[], options: ComposeOptions): ComposedBank {
  const target: Target = {
    voltage: quantity('voltage', options.voltage, 'V'),
    margin: options.margin === undefined ? 0 : quantity('margin', options.margin, '1'),
    energy: options.energy === undefined ? null : quantity('energy', options.energy, 'J'),
  };
  try {
    if (options.ns === undefined && options.np === undefined) {
      const { composed, meets } = composeFor(pieces, target);
      return { target, composed, meets };
    }
    const ns = quantity('ns', options.ns ?? '', '1');
    const np = options.np === undefined ? Math.floor(pieces.length / ns) : quantity('np', options.np, '1');
    const composed = compose(pieces, ns, np);
    const bears = composed.bank.worstUsableVoltage >= target.voltage * (1 + target.margin);
    return { target, composed, meets: bears && (target.energy === null || energyAt(composed, target) >= target.energy) };
  } catch (error) {
    if (error instanceof ComposeError) throw new UsageError(error.message);
    throw error;
  }
}

const energyAt = ({ bank }: Composed, { voltage }: Target): number => 0.5 * bank.capacitance * voltage ** 2;

export const composeJson = ({ target, meets, composed }: ComposedBank) => ({
  ns: composed.bank.groups.length,
  np: composed.bank.groups[0]?.pieces.length ?? 0,
  meets,
  target,
  capacitance: composed.bank.capacitance,
  usableVoltage: composed.bank.usableVoltage,
  usableVoltageWorst: composed.bank.worstUsableVoltage,
  energyAtTarget: energyAt(composed, target),
  energyUsable: composed.bank.energy,
  groups: composed.bank.groups.map((group) => ({
    parts: group.pieces.map((p) => p.id),
    capacitance: group.capacitance,
    rating: group.rating,
    share: group.share,
    shareWorst: group.worstShare,
    voltage: group.share * target.voltage,
    voltageWorst: group.worstShare * target.voltage,
  })),
  spares: composed.spares.map((p) => p.id),
  help: composed.help && { part: composed.help.spare.id, group: composed.help.group, usableVoltage: composed.help.usableVoltage },
  cost: composed.cost,
  exact: composed.exact,
  baselines: composed.baselines,
});

export function composeText(made: ComposedBank): string {
  const { target, meets, composed } = made;
  const { bank, spares, help, cost, baselines } = composed;
  const volts = (v: number) => printQuantity(v, 'V', { digits: 4, trim: true });
  const at = volts(target.voltage);
  const lines = [
    `${bank.groups.length} groups in series, ${bank.groups[0]?.pieces.length ?? 0} in parallel in each: ${printQuantity(bank.capacitance, 'F')}`,
    `  usable to ${volts(bank.usableVoltage)}, at the worst corner of the measurements ${volts(bank.worstUsableVoltage)}`,
    `  ${printQuantity(energyAt(composed, target), 'J')} at ${at}; ${meets ? 'meets what was asked' : 'DOES NOT MEET what was asked'}`,
    '',
    ...bank.groups.map(
      (group, i) =>
        `  ${i + 1}  ${printQuantity(group.capacitance, 'F', { digits: 4 })}  ${printPercent(group.share)} of the voltage, ` +
        `${volts(group.share * target.voltage)} at ${at} (worst ${volts(group.worstShare * target.voltage)}) of ${volts(group.rating)}: ` +
        group.pieces.map((p) => p.id).join(' '),
    ),
    '',
    `  mismatch costs ${volts(Math.max(0, cost.volts))} and ${printQuantity(Math.max(0, cost.joules), 'J')}`,
    `  ${composed.exact ? 'every assignment was tried' : `the best that was found; serpentine sort ${volts(baselines.snake)}, best of 1000 at random ${volts(baselines.random)}`}`,
    ...(spares.length > 0 ? [`  not used: ${spares.map((p) => p.id).join(' ')}`] : []),
    ...(help ? [`  ${help.spare.id} in parallel to group ${help.group + 1} would make it ${volts(help.usableVoltage)}`] : []),
    '  Ratings are as given. Measure each part before it is built in, and fit balancing resistors.',
  ];
  return lines.join('\n');
}
