/** Terminals 1 on top, 2 on the right, 3 on the left. */
const at = { 1: [36, 14], 2: [62, 56], 3: [10, 56] } as const;
type Terminal = keyof typeof at;
const pairs: readonly (readonly [Terminal, Terminal])[] = [
  [1, 2],
  [2, 3],
  [3, 1],
];

interface Props {
  readonly ends: readonly [readonly number[], readonly number[]];
  readonly open: readonly number[];
}

/** A capacitor between two terminals: two plates across the middle of the line; a thick line where both are joined. */
function Element({ a, b, shorted }: { a: Terminal; b: Terminal; shorted: boolean }) {
  const [[x1, y1], [x2, y2]] = [at[a], at[b]];
  if (shorted) return <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="currentColor" strokeWidth={3.5} />;
  const length = Math.hypot(x2 - x1, y2 - y1);
  const [ux, uy] = [(x2 - x1) / length, (y2 - y1) / length];
  const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
  const plate = (side: 1 | -1) => {
    const [cx, cy] = [mx + side * ux * 2.5, my + side * uy * 2.5];
    return <line x1={cx - uy * 6} y1={cy + ux * 6} x2={cx + uy * 6} y2={cy - ux * 6} stroke="currentColor" strokeWidth={1.8} />;
  };
  return (
    <>
      <line x1={x1} y1={y1} x2={mx - ux * 2.5} y2={my - uy * 2.5} stroke="currentColor" />
      <line x1={mx + ux * 2.5} y1={my + uy * 2.5} x2={x2} y2={y2} stroke="currentColor" />
      {plate(1)}
      {plate(-1)}
    </>
  );
}

/** A delta can as it is connected: one end filled, the other ringed, an open terminal dashed, a shorted element as a thick line. */
export function DeltaFigure({ ends, open }: Props) {
  const endOf = (t: number) => (ends[0].includes(t) ? 'A' : ends[1].includes(t) ? 'B' : '');
  return (
    <svg
      width={72}
      height={72}
      viewBox="-4 0 80 72"
      role="img"
      className="shrink-0"
      aria-label={`Terminals ${ends[0].join(' and ')} are end A, ${ends[1].join(' and ')} end B${open.length > 0 ? `, ${open.join()} open` : ''}`}
    >
      {pairs.map(([a, b]) => (
        <Element key={`${a}${b}`} a={a} b={b} shorted={endOf(a) !== '' && endOf(a) === endOf(b)} />
      ))}
      {([1, 2, 3] as const).map((t) => {
        const [x, y] = at[t];
        const end = endOf(t);
        const isB = end === 'B';
        return (
          <g key={t}>
            <circle
              cx={x}
              cy={y}
              r={8}
              fill={end === 'A' ? 'var(--ink)' : 'var(--plate)'}
              stroke="currentColor"
              strokeWidth={isB ? 2.5 : 1}
              strokeDasharray={end === '' ? '2 2' : undefined}
            />
            <text
              x={x}
              y={y + 3.5}
              textAnchor="middle"
              fontSize={10}
              fontWeight={700}
              fill={end === 'A' ? 'var(--plate)' : 'var(--ink)'}
            >
              {t}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
