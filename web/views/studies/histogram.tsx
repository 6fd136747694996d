import type { Output, Spread } from '@vast-surge/core/study';
import { useWidth } from '../../ui/use-width.ts';
import { printTick, scaleOf } from './scale.ts';

const [height, left, right, top, bottom] = [300, 12, 12, 22, 34];

/** Where the median lies, and nine of ten samples. */
function Marks({ marks, at }: { marks: Spread['percentiles']; at: (value: number) => number }) {
  return (
    <>
      {marks.map(({ share, value }) => (
        <g key={share}>
          <path d={`M${at(value)} ${top}V${height - bottom}`} stroke="var(--ink)" strokeDasharray={share === 0.5 ? '' : '4 4'} />
          <text x={at(value)} y={top - 7} fontSize={13} textAnchor="middle" fill="var(--ink)" fontWeight="bold">
            {share === 0.5 ? 'median' : `${Math.round(share * 100)} %`}
          </text>
        </g>
      ))}
    </>
  );
}

/** How samples of a number lie, with their median and what nine of ten lie between. */
export function Histogram({ id, output, spread }: { id: string; output: Output; spread: Spread }) {
  const [ref, space] = useWidth(640);
  const width = Math.max(280, space);
  const { bars, percentiles } = spread;
  const [from, to] = [bars[0]?.from ?? 0, bars.at(-1)?.to ?? 1];
  const x = scaleOf(from, to, left, width - right);
  const most = Math.max(...bars.map(({ count }) => count), 1);
  const y = (count: number) => height - bottom - (count / most) * (height - bottom - top);
  const marks = percentiles.filter(({ share }) => share === 0.05 || share === 0.5 || share === 0.95);
  const like = Math.max(Math.abs(from), Math.abs(to));
  return (
    <div ref={ref}>
      <svg id={id} viewBox={`0 0 ${width} ${height}`} role="img" aria-label={`Samples of ${output.title}`} className="w-full">
        {bars.map((bar) => (
          <rect
            key={bar.from}
            x={x.at(bar.from)}
            y={y(bar.count)}
            width={Math.max(1, x.at(bar.to) - x.at(bar.from) - 1)}
            height={height - bottom - y(bar.count)}
            fill="var(--select)"
            opacity={0.75}
          />
        ))}
        <path d={`M${left} ${height - bottom}H${width - right}`} stroke="var(--ink)" />
        <Marks marks={marks} at={x.at} />
        <g fontSize={13} fill="var(--dim)" className="figure">
          {x.ticks.map((tick) => (
            <text
              key={tick}
              x={x.at(tick)}
              y={height - bottom + 18}
              textAnchor={x.at(tick) > width - 50 ? 'end' : x.at(tick) < 50 ? 'start' : 'middle'}
            >
              {printTick(tick, output, like)}
            </text>
          ))}
        </g>
      </svg>
    </div>
  );
}
