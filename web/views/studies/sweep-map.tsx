import { printPlace, sweptTitle, type Axis, type Output, type SweepPoint } from '@vast-surge/core/study';
import { useWidth } from '../../ui/use-width.ts';
import { Drawing, overFill } from './drawing.tsx';
import { printTick, scaleOf } from './scale.ts';

const [height, left, right, top, bottom] = [420, 96, 130, 10, 34];

const hatch = { width: 3, opacity: 0.7 } as const;

interface Props {
  readonly id: string;
  /** Along the bottom, and up. */
  readonly across: Axis;
  readonly up: Axis;
  readonly output: Output;
  /** At a place along the bottom and up. */
  readonly pointAt: (i: number, j: number) => SweepPoint | undefined;
  readonly now: readonly [number | null, number | null];
  readonly cursor: readonly [number, number];
  readonly onCursor: (i: number, j: number) => void;
}

/** Edges of the cells of an axis: half way between its values. */
function edgesOf({ values, isLog }: Axis): number[] {
  const middle = (a: number, b: number) => (isLog ? Math.sqrt(a * b) : (a + b) / 2);
  const inner = values.slice(1).map((value, i) => middle(values[i] ?? value, value));
  return [values[0] ?? 0, ...inner, values.at(-1) ?? 1];
}

const shade = (share: number) => `color-mix(in srgb, var(--select) ${Math.round(8 + 84 * share)}%, var(--plate))`;

interface PlacesProps {
  readonly x: ReturnType<typeof scaleOf>;
  readonly y: ReturnType<typeof scaleOf>;
  readonly across: Props['across'];
  readonly up: Props['up'];
}

const Places = ({ x, y, across, up }: PlacesProps) => (
  <>
    {y.ticks.map((tick) => (
      <text key={tick} x={left - 8} y={y.at(tick) + 4} textAnchor="end">
        {printPlace(tick, up)}
      </text>
    ))}
    {x.ticks.map((tick) => (
      <text key={tick} x={x.at(tick)} y={height - bottom + 18} textAnchor="middle">
        {printPlace(tick, across)}
      </text>
    ))}
  </>
);

interface ShadesProps {
  readonly least: number;
  readonly most: number;
  readonly output: Props['output'];
  readonly x: number;
}

const Shades = ({ least, most, output, x }: ShadesProps) =>
  [1, 0.75, 0.5, 0.25, 0].map((share, k) => (
    <g key={share} transform={`translate(${x} ${top + 20 + 30 * k})`}>
      <rect width={24} height={24} fill={shade(share)} stroke="var(--rule)" />
      <text x={32} y={17}>
        {printTick(least + share * (most - least), output, most)}
      </text>
    </g>
  ));

const Now = ({ x, y }: { x: number; y: number }) => (
  <g stroke="var(--ink)" strokeWidth={3}>
    <path d={`M${x - 8} ${y}h16m-8 -8v16`} />
  </g>
);

/** What is asked over two fields: a cell for each pair, hatched where a limit is over its rating. */
export function SweepMap({ id, across, up, output, pointAt, now, cursor, onCursor }: Props) {
  const [ref, space] = useWidth(760);
  const width = Math.max(280, space);
  const [xs, ys] = [edgesOf(across), edgesOf(up)];
  const x = scaleOf(xs[0] ?? 0, xs.at(-1) ?? 1, left, width - right, across.isLog);
  const y = scaleOf(ys[0] ?? 0, ys.at(-1) ?? 1, height - bottom, top, up.isLog, 28);
  const cells = across.values.flatMap((_, i) => up.values.map((__, j) => ({ i, j, point: pointAt(i, j) })));
  const known = cells.flatMap(({ point }) => {
    const value = point?.outputs[0]?.value ?? NaN;
    return Number.isFinite(value) ? [value] : [];
  });
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const shareOf = (value: number) => (most > least ? (value - least) / (most - least) : 0.5);
  const box = (i: number, j: number) => {
    const [a = 0, b = 0, c = 0, d = 0] = [xs[i], xs[i + 1], ys[j], ys[j + 1]];
    return { x: x.at(a), y: y.at(d), width: x.at(b) - x.at(a) + 0.4, height: y.at(c) - y.at(d) + 0.4 };
  };
  const choose = (px: number, py: number) => {
    const i = xs.findLastIndex((edge) => x.at(edge) <= px);
    const j = ys.findLastIndex((edge) => y.at(edge) >= py);
    onCursor(Math.min(Math.max(i, 0), across.values.length - 1), Math.min(Math.max(j, 0), up.values.length - 1));
  };
  const at = box(...cursor);
  return (
    <div ref={ref}>
      <Drawing
        id={id}
        width={width}
        height={height}
        label={`${sweptTitle(output)} over ${across.title} and ${up.title}`}
        hatch={hatch}
        onPoint={choose}
      >
        {cells.map(({ i, j, point }) => {
          const value = point?.outputs[0]?.value ?? NaN;
          return Number.isFinite(value) ? <rect key={`${i} ${j}`} {...box(i, j)} fill={shade(shareOf(value))} /> : null;
        })}
        {cells.map(({ i, j, point }) =>
          point && point.over.length > 0 ? <rect key={`${i} ${j}`} {...box(i, j)} fill={overFill(id)} /> : null,
        )}
        {now[0] !== null && now[1] !== null && <Now x={x.at(now[0])} y={y.at(now[1])} />}
        <rect {...at} fill="none" stroke="var(--ink)" strokeWidth={3} />
        <g fontSize={13} fill="var(--dim)" className="figure">
          <Places x={x} y={y} across={across} up={up} />
          {known.length > 0 && <Shades least={least} most={most} output={output} x={width - right + 14} />}
        </g>
      </Drawing>
    </div>
  );
}
