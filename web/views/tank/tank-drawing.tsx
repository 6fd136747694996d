import { printQuantity } from '@vast-surge/core/quantity';
import type { TankDrawing } from '@vast-surge/core/study';

const [width, height, margin] = [400, 380, 16];

/** Primary, secondary and top load cut through their axis, to scale. */
export function TankDrawingView({ drawing, tap }: { drawing: TankDrawing; tap: string }) {
  const { turns, tapped, conductor, secondary, top } = drawing;
  const tube = top.kind === 'toroid' ? top.tube : top.kind === 'sphere' ? top.outer : 0;
  const seat = secondary.from + secondary.length;
  const highest = Math.max(seat + tube, ...turns.map(({ z }) => z + conductor));
  const lowest = Math.min(secondary.from, 0) - conductor;
  const widest = Math.max(
    top.kind === 'none' ? 0 : top.outer / 2,
    secondary.diameter / 2,
    ...turns.map(({ r }) => r + conductor),
  );
  const scale = Math.min((width - 2 * margin) / (2 * widest), (height - 2 * margin - 18) / (highest - lowest));
  const [cx, foot] = [width / 2, height - margin - 18];
  const x = (r: number) => cx + r * scale;
  const y = (z: number) => foot - (z - lowest) * scale;
  const dot = Math.max(1.5, (conductor / 2) * scale);
  // A round length for the bar below.
  const decade = 10 ** Math.floor(Math.log10(widest));
  const bar = widest / decade > 5 ? 5 * decade : widest / decade > 2 ? 2 * decade : decade;
  return (
    <svg
      id="tank-drawing"
      viewBox={`0 0 ${width} ${height}`}
      className="w-full bg-plate"
      role="img"
      aria-label={`Primary of ${turns.length} turns, tap at ${tap}, secondary ${printQuantity(secondary.length, 'm')} long, ${top.kind === 'none' ? 'no top load' : top.kind}, to scale`}
    >
      <line x1={cx} x2={cx} y1={margin / 2} y2={foot} stroke="var(--rule)" strokeDasharray="6 4" />
      <rect
        x={x(-secondary.diameter / 2)}
        y={y(seat)}
        width={secondary.diameter * scale}
        height={secondary.length * scale}
        fill="none"
        stroke="var(--current)"
        strokeWidth={2}
      />
      {Array.from({ length: 24 }, (_, k) => {
        const z = secondary.from + ((k + 0.5) * secondary.length) / 24;
        return (
          <line
            key={k}
            x1={x(-secondary.diameter / 2)}
            x2={x(secondary.diameter / 2)}
            y1={y(z)}
            y2={y(z)}
            stroke="var(--current)"
            strokeWidth={0.7}
          />
        );
      })}
      {[1, -1].map((side) =>
        turns.map(({ r, z }, k) => (
          <circle
            key={`${side} ${k}`}
            cx={x(side * r)}
            cy={y(z)}
            r={dot}
            fill={k < tapped ? 'var(--select)' : 'var(--plate)'}
            stroke="var(--select)"
            strokeWidth={1.5}
          />
        )),
      )}
      {top.kind === 'toroid' &&
        [1, -1].map((side) => (
          <circle
            key={side}
            cx={x((side * (top.outer - top.tube)) / 2)}
            cy={y(seat + top.tube / 2)}
            r={(top.tube / 2) * scale}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={2}
          />
        ))}
      {top.kind === 'toroid' && (
        <path
          d={`M${x(-(top.outer - top.tube) / 2)} ${y(seat + top.tube)}H${x((top.outer - top.tube) / 2)}M${x(-(top.outer - top.tube) / 2)} ${y(seat)}H${x((top.outer - top.tube) / 2)}`}
          stroke="var(--ink)"
          strokeWidth={1}
        />
      )}
      {top.kind === 'sphere' && (
        <circle
          cx={cx}
          cy={y(seat + top.outer / 2)}
          r={(top.outer / 2) * scale}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2}
        />
      )}
      <path d={`M${margin} ${height - 12}v-8m0 4h${bar * scale}m0-4v8`} stroke="var(--ink)" fill="none" />
      <text x={margin + bar * scale + 6} y={height - 11} fontSize={13} className="figure" fill="var(--ink)">
        {printQuantity(bar, 'm', { trim: true })}
      </text>
    </svg>
  );
}
