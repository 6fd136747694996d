import type { ReactNode } from 'react';
import type { Glyph } from '@vast-surge/core/block';

/**
 * Graphical symbols after IEC 60617, drawn with the current stroke colour. Horizontal ones lie on the upper rail around
 * (x, top); upright ones stand between the rails at x.
 */
export interface Place {
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
  /** Elements in series and parallel, for a bank. */
  readonly ns: number;
  readonly np: number;
  readonly polar: boolean;
}

const wire = (x1: number, y1: number, x2: number, y2: number) => <line x1={x1} y1={y1} x2={x2} y2={y2} />;

const upright = (place: Place, half: number, body: ReactNode) => {
  const mid = (place.top + place.bottom) / 2;
  return (
    <>
      {wire(place.x, place.top, place.x, mid - half)}
      {wire(place.x, mid + half, place.x, place.bottom)}
      {body}
    </>
  );
};

function Capacitor({ x, y, polar }: { x: number; y: number; polar: boolean }) {
  return (
    <>
      <path d={`M${x - 11} ${y - 3}h22M${x - 11} ${y + 3}h22`} strokeWidth={2.5} />
      {polar && <path d={`M${x - 17} ${y - 8}h6M${x - 14} ${y - 11}v6`} strokeWidth={1.2} />}
    </>
  );
}

/** At most four columns and three rows are drawn; the label says how many there are. */
function Bank({ x, top, bottom, ns, np, polar }: Place) {
  const columns = Math.min(np, 4);
  const rows = Math.min(ns, 3);
  const pitch = 36;
  const xs = Array.from({ length: columns }, (_, i) => x + (i - (columns - 1) / 2) * pitch);
  const ys = Array.from({ length: rows }, (_, i) => top + ((bottom - top) * (i + 1)) / (rows + 1));
  return (
    <>
      {xs.map((cx) => (
        <g key={cx}>
          <path
            d={[top, ...ys.map((y) => y + 3)]
              .map((from, i) => `M${cx} ${from}V${i < ys.length ? (ys[i] ?? 0) - 3 : bottom}`)
              .join('')}
          />
          {ys.map((cy) => (
            <Capacitor key={cy} x={cx} y={cy} polar={polar} />
          ))}
        </g>
      ))}
    </>
  );
}

/** Stages between two rails, with a gap from the top of each to the foot of the next. */
function Erecting({ x, top, bottom }: Place) {
  const [mid, pitch] = [(top + bottom) / 2, 44];
  const columns = [x - pitch, x, x + pitch];
  return (
    <>
      {columns.map((cx, i) => (
        <g key={cx}>
          <path d={`M${cx} ${top}V${mid - 3}M${cx} ${mid + 3}V${bottom}`} />
          <Capacitor x={cx} y={mid} polar={false} />
          {i < 2 && (
            <>
              <path
                d={`M${cx} ${top + 14}l${pitch / 2 - 5} ${mid - top - 19}M${cx + pitch} ${bottom - 14}l${5 - pitch / 2} ${mid - bottom + 19}`}
              />
              <circle cx={cx + pitch / 2 - 3} cy={mid - 4} r={3} fill="var(--plate)" />
              <circle cx={cx + pitch / 2 + 3} cy={mid + 4} r={3} fill="var(--plate)" />
            </>
          )}
        </g>
      ))}
    </>
  );
}

const thyristorBody = (x: number, y: number) => (
  <path d={`M${x - 13} ${y - 12}v24l24-12zM${x + 11} ${y - 12}v24M${x + 11} ${y + 4}l12 14`} />
);

/** Arcs of a winding along the rail, over the rail they take the place of. */
const arcs = (x: number, y: number, turns: number) => (
  <>
    <rect x={x} y={y - 4} width={turns * 14} height={8} fill="var(--plate)" stroke="none" />
    <path d={`M${x} ${y}${'a7 7 0 0 1 14 0'.repeat(turns)}`} />
  </>
);

const diodeBody = (x: number, y: number) => (
  <path d={`M${x - 11} ${y - 10}v20l22-10zM${x + 11} ${y - 10}v20`} fill="var(--plate)" />
);

const earthed = ({ x, bottom }: Place) => <path d={`M${x} ${bottom}v12m-13 0h26m-21 5h16m-11 5h6`} />;

/** A supply standing between the rails, earthed at its foot. */
const source = (place: Place, half: number, body: ReactNode) => (
  <>
    {upright(place, half, body)}
    {earthed(place)}
  </>
);

const directSource = (place: Place, more?: ReactNode) => {
  const mid = (place.top + place.bottom) / 2;
  return source(
    place,
    19,
    <>
      <circle cx={place.x} cy={mid} r={19} />
      <path d={`M${place.x - 9} ${mid - 3}h18M${place.x - 9} ${mid + 3}h4m3 0h4m3 0h4`} />
      {more}
    </>,
  );
};

const box = (place: Place, inside: ReactNode) => {
  const mid = (place.top + place.bottom) / 2;
  return source(
    place,
    18,
    <>
      <rect x={place.x - 18} y={mid - 18} width={36} height={36} fill="var(--plate)" />
      <path d={`M${place.x - 18} ${mid + 18}l36 -36`} />
      <path d={`M${place.x + 2} ${mid + 7}h11m-11 5h3m2 0h2m2 0h2`} strokeWidth={1.6} />
      {inside}
    </>,
  );
};

export const glyphs: { readonly [K in Glyph]: (place: Place) => ReactNode } = {
  'dc-source': (place) => directSource(place),
  'bench-source': (place) => {
    const mid = (place.top + place.bottom) / 2;
    return directSource(place, <path d={`M${place.x - 24} ${mid + 22}L${place.x + 22} ${mid - 22}m-9 1l9 -1l-2 9`} />);
  },
  battery: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return source(
      place,
      15,
      <path
        d={`M${place.x - 16} ${mid - 15}h32M${place.x - 8} ${mid - 7}h16M${place.x - 16} ${mid + 7}h32M${place.x - 8} ${mid + 15}h16M${place.x} ${mid - 7}v14`}
        strokeDasharray="none"
      />,
    );
  },
  transformer: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return source(
      place,
      24,
      <>
        <circle cx={place.x} cy={mid - 9} r={15} />
        <circle cx={place.x} cy={mid + 9} r={15} />
      </>,
    );
  },
  converter: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return box(place, <path d={`M${place.x - 13} ${mid - 12}h11m-11 5h3m2 0h2m2 0h2`} strokeWidth={1.6} />);
  },
  multiplier: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return box(place, <path d={`M${place.x - 13} ${mid - 8}q3 -6 6 0t6 0`} strokeWidth={1.6} />);
  },
  wire: ({ x, top }) => (
    <>
      <circle cx={x - 30} cy={top} r={3.5} fill="var(--plate)" />
      <circle cx={x + 30} cy={top} r={3.5} fill="var(--plate)" />
    </>
  ),
  diode: ({ x, top }) => (
    <>
      {diodeBody(x - 32, top)}
      <rect x={x - 8} y={top - 9} width={52} height={18} fill="var(--plate)" />
    </>
  ),
  choke: ({ x, top }) => arcs(x - 28, top, 4),
  chain: ({ x, top }) => (
    <>
      {diodeBody(x - 32, top)}
      {arcs(x - 10, top, 4)}
    </>
  ),
  resistor: ({ x, top }) => <rect x={x - 30} y={top - 9} width={60} height={18} fill="var(--plate)" />,
  'capacitor-bank': (place) => <Bank {...place} />,
  marx: (place) => <Erecting {...place} />,
  'spark-gap': ({ x, top }) => (
    <>
      <rect x={x - 8} y={top - 5} width={16} height={10} fill="var(--plate)" stroke="none" />
      <circle cx={x - 14} cy={top} r={7} fill="var(--plate)" />
      <circle cx={x + 14} cy={top} r={7} fill="var(--plate)" />
    </>
  ),
  'make-contact': ({ x, top }) => (
    <>
      <rect x={x - 22} y={top - 5} width={44} height={10} fill="var(--plate)" stroke="none" />
      <path d={`M${x - 22} ${top}h4L${x + 17} ${top - 17}M${x + 18} ${top}h4`} />
    </>
  ),
  thyristor: ({ x, top }) => thyristorBody(x, top),
  'thyristor-pair': ({ x, top }) => (
    <>
      <path d={`M${x - 32} ${top - 13}h64v26h-64z`} fill="var(--plate)" />
      <g transform={`translate(${x} ${top - 13}) scale(0.72)`}>{thyristorBody(0, 0)}</g>
      <g transform={`translate(${x} ${top + 13}) rotate(180) scale(0.72)`}>{thyristorBody(0, 0)}</g>
    </>
  ),
  'resistor-inductor': ({ x, top, bottom }) => {
    const mid = (top + bottom) / 2;
    return (
      <>
        <rect x={x - 78} y={top - 9} width={52} height={18} fill="var(--plate)" />
        <path d={`M${x} ${top}V${mid - 24}${'a8 8 0 0 1 0 16'.repeat(3)}V${bottom}`} />
      </>
    );
  },
  'resistor-down': (place) =>
    upright(
      place,
      24,
      <rect x={place.x - 9} y={(place.top + place.bottom) / 2 - 24} width={18} height={48} fill="var(--plate)" />,
    ),
  // A contact that is held open, above its resistor.
  'relay-down': (place) => {
    const { x, top, bottom } = place;
    return (
      <>
        {wire(x, top, x, top + 8)}
        <path d={`M${x} ${top + 22}L${x - 9} ${top + 9}`} strokeWidth={1.6} />
        <circle cx={x} cy={top + 9} r={1.8} fill="currentColor" />
        <circle cx={x} cy={top + 22} r={1.8} fill="currentColor" />
        {wire(x, top + 22, x, top + 28)}
        <rect x={x - 9} y={top + 28} width={18} height={38} fill="var(--plate)" />
        {wire(x, top + 66, x, bottom)}
      </>
    );
  },
  'spark-down': (place) => {
    const mid = (place.top + place.bottom) / 2;
    return upright(
      place,
      16,
      <>
        <circle cx={place.x} cy={mid - 11} r={5} fill="var(--plate)" />
        <circle cx={place.x} cy={mid + 11} r={5} fill="var(--plate)" />
      </>,
    );
  },
  absent: (place) => upright(place, 24, <path d={`M${place.x - 6} ${(place.top + place.bottom) / 2 - 6}l12 12m0 -12l-12 12`} />),
  probe: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return (
      <>
        <path
          d={`M${place.x} ${place.top}v8m0 8V${mid - 16}M${place.x} ${mid + 22}V${place.bottom - 16}m0 8v8`}
          strokeDasharray="4 3"
        />
        <path d={`M${place.x - 4} ${place.top + 12}l4 5l4 -5M${place.x - 4} ${place.bottom - 12}l4 -5l4 5`} />
        <rect x={place.x - 8} y={mid - 16} width={16} height={38} fill="var(--plate)" />
      </>
    );
  },
  movement: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return upright(
      place,
      32,
      <>
        <rect x={place.x - 7} y={mid - 32} width={14} height={26} fill="var(--plate)" />
        <path d={`M${place.x} ${mid - 6}v6`} />
        <circle cx={place.x} cy={mid + 16} r={16} fill="var(--plate)" />
        <path d={`M${place.x} ${mid + 24}l8 -16m-6 3l6 -3l0 7`} />
      </>,
    );
  },
  divider: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return upright(
      place,
      32,
      <>
        <rect x={place.x - 7} y={mid - 32} width={14} height={34} fill="var(--plate)" />
        <path d={`M${place.x} ${mid + 2}v10M${place.x} ${mid + 7}h18`} />
        <circle cx={place.x + 21} cy={mid + 7} r={3} fill="var(--plate)" />
        <rect x={place.x - 7} y={mid + 12} width={14} height={20} fill="var(--plate)" />
      </>,
    );
  },
  shunt: ({ x, bottom }) => (
    <>
      <rect x={x - 26} y={bottom - 6} width={52} height={12} fill="var(--plate)" />
      <path d={`M${x - 16} ${bottom - 6}v-7M${x + 16} ${bottom - 6}v-7`} strokeWidth={1.4} />
    </>
  ),
  'current-loop': ({ x, bottom }) => <ellipse cx={x} cy={bottom} rx={7} ry={14} fill="none" />,
  'no-monitor': () => null,
  // A pulse, and the broken line that leads from it to the switch.
  trigger: ({ x, top }) => (
    <>
      <path d={`M${x - 40} ${top - 24}h-30l-24 16`} strokeDasharray="4 3" />
      <path d={`M${x - 36} ${top - 18}h8v-12h10v12h8`} strokeWidth={1.6} />
    </>
  ),
  'no-trigger': () => null,
  voltmeter: (place) => {
    const mid = (place.top + place.bottom) / 2;
    return upright(
      place,
      16,
      <>
        <circle cx={place.x} cy={mid} r={16} fill="var(--plate)" />
        <text x={place.x} y={mid + 5} textAnchor="middle" fontSize={15} fill="currentColor" stroke="none">
          V
        </text>
      </>,
    );
  },
};
