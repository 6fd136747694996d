import { useState, type ReactNode } from 'react';
import type { Worked } from '@vast-surge/core/formula';
import { balanceOf, bankWorking, type Composed, type Piece, type Target } from '@vast-surge/core/part';
import { printDuration, printPercent, wordQuantityIssue } from '@vast-surge/core/quantity';
import { ColumnHeads } from '../../ui/column-heads.tsx';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { short } from './words.tsx';
import { parseTyped } from '../../ui/typed.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

function Big({
  title,
  value,
  worked,
  detail,
  bad = false,
}: {
  title: string;
  value: string;
  worked?: Worked;
  detail?: string | undefined;
  bad?: boolean;
}) {
  const big = `text-26 leading-tight font-bold ${bad ? 'text-over' : ''}`;
  return (
    <div className="min-w-[150px]">
      <dt className="text-13 text-dim">{title}</dt>
      <dd>
        {worked ? (
          <WorkedNumber title={title} printed={value} worked={worked} rig={null} className={big} />
        ) : (
          <span className={`figure ${big}`}>{value}</span>
        )}
        {detail && <span className="block text-13">{detail}</span>}
      </dd>
    </div>
  );
}

function Resistors({ balance }: { balance: Extract<ReturnType<typeof balanceOf>, { ok: true }> }) {
  return (
    <p className="py-1">
      At most{' '}
      <WorkedNumber
        title="Balancing resistor"
        printed={short(balance.resistor.value, 'Ω')}
        worked={balance.resistor}
        rig={null}
        className="text-19 font-bold"
      />{' '}
      across each group,{' '}
      <WorkedNumber title="Power in each" printed={short(balance.power.value, 'W')} worked={balance.power} rig={null} /> in each,{' '}
      {short(balance.current, 'A')} from the supply. Groups differ by {short(balance.difference, 'A')} of leakage. They also
      bleed: {printDuration(balance.bleeds)} to each factor of 2.7; they are no bleeder until you have sized them as one.
    </p>
  );
}

function Balance({
  composed,
  target,
  insulationOf,
  tagOf,
}: {
  composed: Composed;
  target: Target;
  insulationOf: (id: string) => number | null;
  tagOf: (piece: Piece) => string;
}) {
  const [typed, setTyped] = useState('');
  const read = typed.trim() === '' ? null : parseTyped(typed, 'A');
  const given = read?.ok ? read.quantity.value : null;
  const balance = balanceOf(composed.bank, insulationOf, target.voltage, given);
  const pieces = composed.bank.groups.flatMap((g) => g.pieces);
  return (
    <section aria-label="Balancing resistors" className="mt-5">
      <h3 className="border-b border-ink text-15 font-bold">Balancing resistors, from leakage</h3>
      {balance.ok ? (
        <Resistors balance={balance} />
      ) : (
        <p className="py-1">
          {balance.missing.length > 0
            ? `Not sized: ${balance.missing.length} of the ${pieces.length} pieces have no insulation reading (${[...new Set(pieces.filter((p) => balance.missing.includes(p.id)).map(tagOf))].slice(0, 8).join(', ')}${balance.missing.length > 8 ? ' …' : ''}). Measure them, or type by how much the groups’ leakage differs.`
            : `Not sized: ${balance.reason}.`}
        </p>
      )}
      <label className="flex flex-wrap items-center gap-2 text-14">
        Leakage of the groups differs by
        <input
          className="figure w-28 border border-rule bg-plate px-2 py-0.5"
          placeholder={balance.ok && given === null ? short(balance.difference, 'A') : '100 µA'}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      {read && !read.ok && (
        <TroubleLine look="words" className="text-14">
          Leakage: {wordQuantityIssue(read.issue)}.
        </TroubleLine>
      )}
    </section>
  );
}

interface Props {
  readonly composed: Composed;
  readonly target: Target;
  readonly tagOf: (piece: Piece) => string;
  readonly insulationOf: (id: string) => number | null;
  readonly actions: ReactNode;
}

/** What the bank takes in the worst case, what it stores, and how great it is. */
function Takes({ bank, target, working }: { bank: Composed['bank']; target: Target; working: ReturnType<typeof bankWorking> }) {
  const wanted = target.voltage * (1 + target.margin);
  const bears = bank.worstUsableVoltage >= wanted;
  const energy = 0.5 * bank.capacitance * target.voltage ** 2;
  const enough = target.energy === null || energy >= target.energy;
  return (
    <dl className="flex flex-wrap gap-x-8 gap-y-3">
      <Big
        title="Withstands, worst case"
        value={short(bank.worstUsableVoltage, 'V')}
        worked={working.usable}
        detail={`${bears ? '' : 'below '}${bears ? 'above ' : ''}the ${short(wanted, 'V')} wanted with the margin`}
        bad={!bears}
      />
      <Big
        title={`Energy at ${short(target.voltage, 'V')}`}
        value={short(energy, 'J')}
        worked={working.energy}
        detail={
          target.energy === null
            ? undefined
            : `${enough ? 'wanted' : 'less than the'} ${short(target.energy, 'J')}${enough ? '' : ' wanted'}`
        }
        bad={!enough}
      />
      <Big
        title="Capacitance"
        value={short(bank.capacitance, 'F')}
        detail={`${bank.groups.length}s × ${bank.groups[0]?.pieces.length ?? 0}p`}
      />
    </dl>
  );
}

function GroupRow({
  group,
  nth,
  target,
  tagOf,
  isWorst,
  worked,
}: {
  group: Composed['bank']['groups'][number];
  nth: number;
  target: Target;
  tagOf: (piece: Piece) => string;
  isWorst: boolean;
  worked: Worked;
}) {
  const volts = group.worstShare * target.voltage;
  const part = volts / group.rating;
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className="figure py-1.5 pr-2 text-16">
        {nth}
      </th>
      <td className="figure px-2 py-1.5 text-14">{group.pieces.map(tagOf).join(' ')}</td>
      <td className="figure px-2 py-1.5 text-right whitespace-nowrap">{short(group.capacitance, 'F')}</td>
      <td className="figure hidden px-2 py-1.5 text-right whitespace-nowrap sm:table-cell">{printPercent(group.share, 3)}</td>
      <td className="w-[170px] px-2 py-1.5 text-right">
        <span className={`figure whitespace-nowrap ${part > 1 ? 'font-bold text-over' : ''}`}>
          <WorkedNumber
            title={`What group ${nth} sees at the worst corner`}
            printed={short(volts, 'V')}
            worked={worked}
            rig={null}
          />{' '}
          of {short(group.rating, 'V')}
        </span>
        <span className="mt-1 block h-[6px] w-full border border-rule">
          <span
            className={`block h-full ${part > 1 ? 'bg-over' : isWorst ? 'bg-ink' : 'bg-dim'}`}
            style={{ width: `${Math.min(100, part * 100)}%` }}
          />
        </span>
      </td>
    </tr>
  );
}

const groupHeads = [
  ['Group', 'py-1 pr-2'],
  ['Parts', 'px-2'],
  ['Capacitance', 'px-2 text-right'],
  ['Share', 'hidden px-2 text-right sm:table-cell'],
  ['Worst-case voltage', 'px-2 text-right'],
] as const;

/** Group by group: its parts, and what it sees of the voltage in the worst case. */
function Groups({
  bank,
  target,
  tagOf,
  working,
}: {
  bank: Composed['bank'];
  target: Target;
  tagOf: (piece: Piece) => string;
  working: ReturnType<typeof bankWorking>;
}) {
  const worst = Math.max(...bank.groups.map((g) => (g.worstShare * target.voltage) / g.rating));
  return (
    <table className="mt-4 w-full text-left">
      <ColumnHeads titles={groupHeads} look="" row="border-b border-ink" />
      <tbody>
        {bank.groups.map((group, i) => {
          return (
            <GroupRow
              key={i}
              group={group}
              nth={i + 1}
              target={target}
              tagOf={tagOf}
              isWorst={(group.worstShare * target.voltage) / group.rating === worst}
              worked={working.groups[i] ?? working.usable}
            />
          );
        })}
      </tbody>
    </table>
  );
}

/** A composed bank: what it takes in the worst case, group by group, what the mismatch costs and what would help. */
export function BankResult({ composed, target, tagOf, insulationOf, actions }: Props) {
  const { bank, spares, cost, help, baselines } = composed;
  const working = bankWorking(bank, target.voltage);
  return (
    <>
      <h2 className="sr-only">
        {bank.groups.length} in series, {bank.groups[0]?.pieces.length} in parallel
      </h2>
      <Takes bank={bank} target={target} working={working} />
      <p className="mt-1 text-14">
        Withstands, as measured, {short(bank.usableVoltage, 'V')}; serpentine sort {short(baselines.snake, 'V')}, the best of a
        thousand at random {short(baselines.random, 'V')}. Verify the sharing with a meter rated for each group, at a tenth of the
        voltage first.
      </p>
      <div className="mt-3">{actions}</div>
      <Groups bank={bank} target={target} tagOf={tagOf} working={working} />
      <ul className="mt-3 space-y-1">
        <li>
          Mismatch costs <b className="figure">{short(cost.volts, 'V')}</b> and{' '}
          <b className="figure">{short(cost.joules, 'J')}</b> compared with equal groups of the same ratings.
        </li>
        <li>
          {help ? (
            <>
              The spare that would help most: <b className="figure">{tagOf(help.spare)}</b> beside group {help.group + 1}; the
              bank then takes {short(help.usableVoltage, 'V')} as measured.
            </>
          ) : spares.length > 0 ? (
            'No single spare would raise it.'
          ) : (
            'No spares are left.'
          )}
        </li>
        {spares.length > 0 && (
          <li className="text-14 text-dim">
            Left over: <span className="figure">{spares.map(tagOf).join(' ')}</span>
          </li>
        )}
      </ul>
      <Balance composed={composed} target={target} insulationOf={insulationOf} tagOf={tagOf} />
    </>
  );
}
