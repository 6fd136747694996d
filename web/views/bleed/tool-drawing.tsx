import type { ToolPart } from '@vast-surge/core/block';
import { layTool, type DrawnPart, type Place } from './tool-layout.ts';

const d = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x} ${y}`).join('');

/** Symbols are drawn from left to right about the origin, 40 long, and turned into place. */
const symbols: { readonly [K in ToolPart['kind']]: string } = {
  resistor: 'M-20 -8h40v16h-40z',
  // Two zener diodes nose to nose.
  clamp: 'M-16 -8l14 8l-14 8zM-2 -10l-4 4M-2 -10v20M-2 10l4 4M16 -8l-14 8l14 8zM2 -10l4 -4M2 -10v20M2 10l-4 4M-20 0h4M16 0h4',
  // A diode, and the light that leaves it.
  lamp: 'M-8 -9l16 9l-16 9zM8 -9v18M-20 0h12M8 0h12M0 -12l6 -8m0 0l-4 1m4 -1l-1 4M8 -13l6 -8m0 0l-4 1m4 -1l-1 4',
};

function Part({ part, from, to }: DrawnPart) {
  const middle: Place = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
  const angle = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const isUpright = Math.abs(to.y - from.y) > 1;
  return (
    <g data-part={part.name}>
      <g transform={`translate(${middle.x} ${middle.y}) rotate(${angle})`}>
        <path d={`M${-length / 2} 0H-20M20 0H${length / 2}`} />
        <path d={symbols[part.kind]} fill={part.kind === 'resistor' ? 'none' : 'var(--plate)'} />
      </g>
      <text
        x={isUpright ? middle.x + 15 : middle.x}
        y={isUpright ? middle.y + (part.kind === 'lamp' ? 26 : -20) : middle.y - 14}
        textAnchor={isUpright ? 'start' : 'middle'}
        fill="var(--ink)"
        stroke="none"
        fontSize={15}
      >
        {part.label}
      </text>
    </g>
  );
}

const words = (wiring: readonly ToolPart[]): string =>
  wiring
    .map(({ kind, label }) =>
      kind === 'clamp'
        ? `clamp of ${label}`
        : kind === 'lamp'
          ? `lamp for ${label === '+' ? 'plus' : 'minus'}`
          : `resistor ${label}`,
    )
    .join(', ');

/** The discharge tool as it is wired, from the wiring that its numbers are calculated from. */
export function ToolDrawing({ wiring }: { wiring: readonly ToolPart[] }) {
  const { parts, wires, tip, earth, width, height } = layTool(wiring);
  return (
    <svg
      id="discharge-tool"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Discharge stick as it is wired: ${words(wiring)}`}
      className="w-full max-w-[560px]"
      style={{ maxWidth: `${Math.min(560, width * 1.3)}px` }}
    >
      <g fill="none" stroke="var(--ink)" strokeWidth={2}>
        <path d={`M${tip.x} ${tip.y}l-14 -6v12z`} fill="var(--ink)" />
        {wires.map(([a, b]) => (
          <path
            key={`${a.x}/${a.y}/${b.x}`}
            d={d([
              [a.x, a.y],
              [b.x, b.y],
            ])}
          />
        ))}
        {parts.map((one) => (
          <Part key={one.part.name} {...one} />
        ))}
        <path
          d={`M${earth.x} ${earth.y}v10M${earth.x - 12} ${earth.y + 10}h24M${earth.x - 8} ${earth.y + 16}h16M${earth.x - 4} ${earth.y + 22}h8`}
        />
      </g>
      <text x={4} y={tip.y - 14} fontSize={15} fill="var(--ink)">
        tip
      </text>
    </svg>
  );
}
