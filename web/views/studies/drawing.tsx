import type { PointerEvent, ReactNode } from 'react';

interface Props {
  readonly id: string;
  readonly width: number;
  readonly height: number;
  readonly label: string;
  /** Strength of the hatching where a limit is over its rating. */
  readonly hatch: { readonly width: number; readonly opacity: number };
  /** A place that was pointed at, px of the drawing. */
  readonly onPoint: (x: number, y: number) => void;
  readonly children: ReactNode;
}

/** A drawing of a study that can be pointed into; `overFill(id)` hatches what is over its rating. */
export function Drawing({ id, width, height, label, hatch, onPoint, children }: Props) {
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onPoint(((event.clientX - box.left) / box.width) * width, ((event.clientY - box.top) / box.height) * height);
  };
  return (
    <svg
      id={id}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={label}
      className="w-full cursor-crosshair touch-pan-y"
      onPointerDown={point}
    >
      <defs>
        <pattern id={`${id}-over`} width={8} height={8} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V8" stroke="var(--over)" strokeWidth={hatch.width} opacity={hatch.opacity} />
        </pattern>
      </defs>
      {children}
    </svg>
  );
}

export const overFill = (id: string): string => `url(#${id}-over)`;
