import { printQuantity } from '@vast-surge/core/quantity';
import type { CoilStudy } from '@vast-surge/core/study';

const [width, height, left, top] = [760, 360, 10, 10];

/** A length between two arrows, with what it is. */
function Measure({ x1, x2, y, text }: { x1: number; x2: number; y: number; text: string }) {
  return (
    <g stroke="var(--ink)" fill="var(--ink)">
      <path d={`M${x1} ${y - 6}v12M${x2} ${y - 6}v12M${x1} ${y}H${x2}`} fill="none" />
      <text x={(x1 + x2) / 2} y={y - 5} textAnchor="middle" fontSize={13} stroke="none" className="figure">
        {text}
      </text>
    </g>
  );
}

/** A coil cut along its axis, to scale, over the size of its flux density. */
export function CoilSection({ study }: { study: CoilStudy }) {
  const { winding, map, wires } = study;
  const scale = Math.min((width - 2 * left) / (2 * map.zMax), (height - 2 * top - 34) / (2 * map.rMax));
  const [cx, cy] = [width / 2, top + map.rMax * scale];
  const x = (z: number) => cx + z * scale;
  const y = (r: number) => cy - r * scale;
  const strongest = map.B.reduce((most, B) => Math.max(most, B), 0);
  const [w, h] = [(2 * map.zMax * scale) / map.columns, (map.rMax * scale) / map.rows];
  const wireRadius = Math.max(1, (winding.round / 2) * scale);
  const foot = cy + map.rMax * scale;
  return (
    <svg
      id="coil-section"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`The coil in section, to scale: ${winding.turns} turns in ${winding.layers.length} layers; the flux density is at most ${printQuantity(strongest, 'T')}`}
      className="w-full"
    >
      <g shapeRendering="crispEdges">
        {Array.from(map.B, (B, i) => {
          const [row, column] = [Math.floor(i / map.columns), i % map.columns];
          const share = B / strongest;
          return [1, -1].map((side) => (
            <rect
              key={`${i} ${side}`}
              x={x(-map.zMax) + column * w}
              y={side > 0 ? cy - (row + 1) * h : cy + row * h}
              width={w}
              height={h}
              fill="var(--select)"
              opacity={0.75 * share}
            />
          ));
        })}
      </g>
      {[1, -1].map((side) => (
        <rect
          key={side}
          x={x(-winding.length / 2)}
          y={side > 0 ? y(winding.inner / 2) - 2 : y(-winding.inner / 2)}
          width={winding.length * scale}
          height={2}
          fill="var(--ink)"
        />
      ))}
      {wires.flatMap(({ r, z }, i) =>
        [r, -r].map((at) => (
          <circle
            key={`${i} ${at}`}
            cx={x(z)}
            cy={y(at)}
            r={wireRadius}
            fill="var(--third)"
            stroke="var(--plate)"
            strokeWidth={wireRadius > 3 ? 1 : 0}
          />
        )),
      )}
      <path d={`M${left} ${cy}H${width - left}`} stroke="var(--ink)" strokeDasharray="14 4 3 4" fill="none" />
      <Measure x1={x(-winding.length / 2)} x2={x(winding.length / 2)} y={foot + 24} text={printQuantity(winding.length, 'm')} />
      <text x={left} y={foot + 20} fontSize={13} fill="var(--ink)">
        former <tspan className="figure">{printQuantity(winding.inner, 'm')}</tspan>, outside{' '}
        <tspan className="figure">{printQuantity(winding.outer, 'm')}</tspan>
      </text>
      <text x={width - left} y={foot + 20} fontSize={13} fill="var(--ink)" textAnchor="end">
        darkest <tspan className="figure">{printQuantity(strongest, 'T')}</tspan>
      </text>
    </svg>
  );
}
