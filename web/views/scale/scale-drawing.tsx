import type { Scale, ScaleMark } from '@vast-surge/core/kind';
import { printQuantity } from '@vast-surge/core/quantity';

export interface Arc {
  /** mm, of the volt scale */
  readonly radius: number;
  /** degrees from nought to full scale */
  readonly sweep: number;
}

const margin = 14;

/** Size of the drawing, mm, and where the needle turns. */
function frame({ radius, sweep }: Arc) {
  const half = (sweep / 2) * (Math.PI / 180);
  const width = 2 * radius * Math.sin(Math.min(half, Math.PI / 2)) + 2 * margin;
  const depth = radius - Math.min(radius - 16, radius * Math.cos(half)) + 20;
  return { width, height: depth + margin + 6, x: width / 2, y: radius + margin };
}

/** A mark in millimetres at a share of full deflection: a line inward or outward, and its number. */
function marks(list: readonly ScaleMark[], arc: Arc, side: 1 | -1, text: (value: number) => string) {
  const { x, y } = frame(arc);
  const radius = side === 1 ? arc.radius : arc.radius - 1.2;
  return list.map(({ share, value, labelled }) => {
    const angle = ((share - 0.5) * arc.sweep * Math.PI) / 180;
    const at = (r: number) => `${(x + r * Math.sin(angle)).toFixed(3)} ${(y - r * Math.cos(angle)).toFixed(3)}`;
    const long = labelled ? 3 : 1.6;
    const label = radius + side * (side === 1 ? 4.2 : 6.2);
    return (
      <g key={share}>
        <path d={`M${at(radius)}L${at(radius + side * long)}`} strokeWidth={labelled ? 0.3 : 0.18} />
        {labelled && (
          <text
            x={(x + label * Math.sin(angle)).toFixed(3)}
            y={(y - label * Math.cos(angle)).toFixed(3)}
            transform={`rotate(${((share - 0.5) * arc.sweep).toFixed(3)} ${(x + label * Math.sin(angle)).toFixed(3)} ${(y - label * Math.cos(angle)).toFixed(3)})`}
            textAnchor="middle"
            fontSize={2.7}
            stroke="none"
            fill="currentColor"
          >
            {text(value)}
          </text>
        )}
      </g>
    );
  });
}

const plain = (unit: 'V' | 'J') => (value: number) => printQuantity(value, unit, { digits: 3, trim: true }).replace(/\s.*$/, '');
const prefixed = (value: number, unit: 'V' | 'J') =>
  printQuantity(value, unit, { digits: 3, trim: true }).replace(/^[^\s]*\s/, '');

/** Numbers of a scale share one prefix, that of full scale: 0, 500, 1000 and not 0, 500, 1. */
function sharedPrefix(list: readonly ScaleMark[], unit: 'V' | 'J') {
  const top = list.at(-1)?.value ?? 1;
  const factor = top / Number(plain(unit)(top).replace('\u2212', '-'));
  return { unit: prefixed(top, unit), text: (value: number) => String(Number((value / factor).toPrecision(4))) };
}

interface Props {
  readonly scale: Scale;
  readonly arc: Arc;
  readonly title: string;
  readonly planned: string;
  readonly limit: string | null;
}

/** A meter scale in true millimetres: volts outside, joules of this bank inside, marks at the plan and at the limit. */
export function ScaleDrawing({ scale, arc, title, planned, limit }: Props) {
  const { width, height, x, y } = frame(arc);
  const at = (share: number, r: number) => {
    const angle = ((share - 0.5) * arc.sweep * Math.PI) / 180;
    return [x + r * Math.sin(angle), y - r * Math.cos(angle)] as const;
  };
  const arcPath = (r: number, from = 0, to = 1) => {
    const [[x0, y0], [x1, y1]] = [at(from, r), at(to, r)];
    return `M${x0.toFixed(3)} ${y0.toFixed(3)}A${r} ${r} 0 ${arc.sweep * (to - from) > 180 ? 1 : 0} 1 ${x1.toFixed(3)} ${y1.toFixed(3)}`;
  };
  const volts = sharedPrefix(scale.volts, 'V');
  const joules = sharedPrefix(scale.joules, 'J');
  const [px, py] = at(scale.planned ?? 0, arc.radius + 0.6);
  const [qx, qy] = at(scale.planned ?? 0, arc.radius + 3.4);
  return (
    <svg
      xmlns="http://www.w3.org/2000/svg"
      id="meter-scale"
      width={`${width.toFixed(2)}mm`}
      height={`${height.toFixed(2)}mm`}
      viewBox={`0 0 ${width.toFixed(2)} ${height.toFixed(2)}`}
      fontFamily="'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', sans-serif"
      className="bg-white text-black"
      role="img"
      aria-label={`Meter scale: ${title}`}
      color="#000"
    >
      <rect width="100%" height="100%" fill="#fff" />
      <g fill="none" stroke="currentColor">
        <path d={arcPath(arc.radius)} strokeWidth={0.25} />
        <path d={arcPath(arc.radius - 1.2)} strokeWidth={0.25} />
        {scale.limit !== null && <path d={arcPath(arc.radius - 0.6, scale.limit, 1)} stroke="#9b2423" strokeWidth={1} />}
        {marks(scale.volts, arc, 1, volts.text)}
        {marks(scale.joules, arc, -1, joules.text)}
        {scale.planned !== null && (
          <path
            d={`M${px.toFixed(3)} ${py.toFixed(3)}L${(qx - 1).toFixed(3)} ${qy.toFixed(3)}h2z`}
            fill="#1a4fa3"
            stroke="none"
            data-mark="planned"
          />
        )}
        {scale.limit !== null && (
          <path
            d={`M${at(scale.limit, arc.radius - 3)
              .map((v) => v.toFixed(3))
              .join(' ')}L${at(scale.limit, arc.radius + 4)
              .map((v) => v.toFixed(3))
              .join(' ')}`}
            stroke="#9b2423"
            strokeWidth={0.6}
            data-mark="limit"
          />
        )}
      </g>
      <g textAnchor="middle" fill="currentColor">
        <text x={x} y={height - 12.5} fontSize={3.4} fontWeight="bold">
          {volts.unit} outside, {joules.unit} inside
        </text>
        <text x={x} y={height - 8.6} fontSize={2.7}>
          {title}
        </text>
        <text x={x} y={height - 4.9} fontSize={2.5}>
          {scale.planned === null ? 'planned voltage off the scale' : `blue: ${planned}`}
          {limit === null ? '' : scale.limit === null ? `; limit ${limit} off the scale` : `; red: limit ${limit}`}
        </text>
        <path
          d={`M${margin} ${height - 2}h50m-50 -1v2m10 -2v2m10 -2v2m10 -2v2m10 -2v2m10 -2v2`}
          stroke="currentColor"
          strokeWidth={0.2}
          fill="none"
        />
        <text x={margin + 54} y={height - 1.2} fontSize={2} textAnchor="start">
          50 mm
        </text>
      </g>
    </svg>
  );
}
