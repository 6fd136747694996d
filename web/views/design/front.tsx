import { printQuantity } from '@vast-surge/core/quantity';
import type { Designed, Ranked } from '@vast-surge/core/study';
import { printPrice } from '../../app/currency.ts';
import { roundTicks } from '../../plot/ticks.ts';

const [width, height, left, bottom] = [560, 300, 76, 42];

interface Props {
  readonly ranked: readonly Ranked<Designed>[];
  readonly chosen: Designed | null;
  onChoose(one: Designed): void;
}

function Scales({ most, far, x, y }: { most: number; far: number; x: (cost: number) => number; y: (energy: number) => number }) {
  return (
    <g fontSize={13} fill="var(--dim)" className="figure">
      {roundTicks(0, most).map((energy) => (
        <text key={energy} x={left - 6} y={y(energy) + 4} textAnchor="end">
          {printQuantity(energy, 'J', { trim: true, like: most })}
        </text>
      ))}
      {roundTicks(0, far).map((cost) => (
        <text key={cost} x={x(cost)} y={height - bottom + 16} textAnchor={cost > 0.95 * far ? 'end' : 'middle'}>
          {printPrice(cost)}
        </text>
      ))}
    </g>
  );
}

/** Every design by what has to be bought and what it stores: those that nothing beats filled, all others hollow. */
export function Front({ ranked, chosen, onChoose }: Props) {
  const most = Math.max(...ranked.map(({ one }) => one.merits.energy), 1e-9) * 1.08;
  const far = Math.max(...ranked.map(({ one }) => one.merits.cost), 1) * 1.06;
  const x = (cost: number) => left + (cost / far) * (width - left - 16);
  const y = (energy: number) => height - bottom - (energy / most) * (height - bottom - 14);
  return (
    <svg
      id="front"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`What ${ranked.length} designs store, over what has to be bought for each`}
      className="w-full max-w-[40rem]"
    >
      <g stroke="var(--rule)" fill="none">
        {roundTicks(0, most).map((energy) => (
          <path key={energy} d={`M${left} ${y(energy)}H${width - 16}`} />
        ))}
      </g>
      {[...ranked].reverse().map(({ one, beaten }) => (
        <circle
          key={one.title + String(one.voltage)}
          cx={x(one.merits.cost)}
          cy={y(one.merits.energy)}
          r={one === chosen ? 8 : 5.5}
          fill={beaten ? 'var(--plate)' : 'var(--select)'}
          stroke={one === chosen ? 'var(--ink)' : beaten ? 'var(--dim)' : 'var(--select)'}
          strokeWidth={one === chosen ? 3 : 2}
          className="cursor-pointer"
          onClick={() => onChoose(one)}
        />
      ))}
      <Scales most={most} far={far} x={x} y={y} />
      <g fontSize={14} fill="var(--ink)">
        <text x={width - 16} y={height - 6} textAnchor="end">
          to buy, about
        </text>
        <text x={left + 6} y={14}>
          stored energy
        </text>
      </g>
    </svg>
  );
}
