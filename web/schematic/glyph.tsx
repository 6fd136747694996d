import type { Stroke } from '@vast-surge/core/block';

const fills = { ground: 'var(--plate)', line: 'currentColor' };

/** The strokes of a glyph, in the colour of what they stand in. */
export const Strokes = ({ of }: { of: readonly Stroke[] }) => (
  <g fill="none" stroke="currentColor" strokeWidth={2}>
    {of.map(({ d, width, fill, dashed, words }) =>
      words ? (
        <text key={words.text} x={words.x} y={words.y} textAnchor="middle" fontSize={12} fill="var(--dim)" stroke="none">
          {words.text}
        </text>
      ) : (
        <path
          key={d}
          d={d}
          {...(width === 0 ? { stroke: 'none' } : width === undefined ? {} : { strokeWidth: width })}
          {...(fill ? { fill: fills[fill] } : {})}
          {...(dashed ? { strokeDasharray: '4 3' } : {})}
        />
      ),
    )}
  </g>
);
