import { printQuantity } from '@vast-surge/core/quantity';
import type { LaunchStudy } from '@vast-surge/core/study';

const [width, height, foot] = [760, 150, 18];

const cy = (height - foot) / 2;

/** The copper of each coil above and below its axis; the one that carries current in its colour. */
function Windings({
  coils,
  live,
  at,
  scale,
}: {
  coils: LaunchStudy['coils'];
  live: readonly boolean[];
  at: (z: number) => number;
  scale: number;
}) {
  return (
    <>
      {coils.map(({ at: middle, winding }, k) =>
        [-1, 1].map((side) => (
          <rect
            key={`${k} ${side}`}
            x={at(middle - winding.length / 2)}
            y={side < 0 ? cy - (winding.outer / 2) * scale : cy + (winding.inner / 2) * scale}
            width={winding.length * scale}
            height={((winding.outer - winding.inner) / 2) * scale}
            fill={live[k] ? 'var(--current)' : 'var(--third)'}
          />
        )),
      )}
    </>
  );
}

function Slug({ projectile, x, scale }: { projectile: LaunchStudy['projectile']; x: number; scale: number }) {
  return (
    <rect
      x={x}
      y={cy - (projectile.diameter / 2) * scale}
      width={projectile.length * scale}
      height={projectile.diameter * scale}
      fill={projectile.body.kind === 'slug' ? 'var(--ink)' : 'var(--plate)'}
      stroke="var(--ink)"
      strokeWidth={projectile.body.kind === 'slug' ? 0 : 3}
      opacity={0.82}
    />
  );
}

/** Coils and what they launch in section, to scale, where it is at an instant. */
export function LaunchSection({ study, x, live }: { study: LaunchStudy; x: number; live: readonly boolean[] }) {
  const { coils, projectile, run, barrel, stages } = study;
  const outer = Math.max(...coils.map(({ winding }) => winding.outer));
  const inner = coils[0]?.winding.inner ?? 0;
  const last = coils.at(-1);
  const ends = (last?.at ?? 0) + (last?.winding.length ?? 0) / 2;
  const first = Math.min((run.x[0] ?? 0) - projectile.length * 0.6, -(coils[0]?.winding.length ?? 0) * 0.6);
  const until = Math.max(ends + projectile.length * 1.1, Math.min(barrel ?? 0, ends + 3 * projectile.length));
  const scale = Math.min(width / (until - first), (height - foot - 8) / outer);
  const cx = width / 2 - ((first + until) / 2) * scale;
  const at = (z: number) => cx + z * scale;
  const muzzle = barrel === null ? width : Math.min(width, at(barrel));
  return (
    <svg
      id="launch-section"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${coils.length > 1 ? `${coils.length} coils` : 'Coil'} and ${projectile.body.kind} in section, to scale; the middle of the ${projectile.body.kind} is ${printQuantity(x, 'm')} from that of the first coil`}
      className="w-full"
    >
      <Windings coils={coils} live={live} at={at} scale={scale} />
      <path
        d={[-1, 1].map((side) => `M0 ${cy + (side * inner * scale) / 2}H${muzzle}`).join('')}
        stroke="var(--ink)"
        fill="none"
      />
      <path d={`M0 ${cy}H${width}`} stroke="var(--ink)" strokeDasharray="14 4 3 4" fill="none" />
      {stages.map(({ fired }, k) =>
        fired && k > 0 ? (
          <path
            key={k}
            d={`M${at(fired.x)} ${cy + (outer / 2) * scale + 3}l-5 9h10z`}
            fill="var(--ink)"
            role="img"
            aria-label={`coil ${k + 1} fires here`}
          />
        ) : null,
      )}
      <Slug projectile={projectile} x={at(x - projectile.length / 2)} scale={scale} />
    </svg>
  );
}
