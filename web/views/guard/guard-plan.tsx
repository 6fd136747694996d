import { figureIn, type Evaluation } from '@vast-surge/core/evaluation';
import { printQuantity } from '@vast-surge/core/quantity';
import { niceStep } from '../../plot/ticks.ts';

/** Distances from the middle of the rig, m. */
export interface Plan {
  readonly people: number;
  readonly flashover: number;
  readonly burn: number;
  /** What the shield is made of; null where there is none. */
  readonly shield: string | null;
}

/** @returns null of a rig without a guard */
export function planOf(evaluation: Evaluation): Plan | null {
  const { people, shield } = evaluation.corners.nominal().offers('guard');
  if (!people) return null;
  const most = (id: 'flashover-reach' | 'burn-reach') => figureIn(evaluation, id)?.band.high ?? 0;
  return { people: people.value, flashover: most('flashover-reach'), burn: most('burn-reach'), shield: shield ?? null };
}

const [width, height] = [560, 260];
const middle = { x: 130, y: 130 };

/** Rig, guard and people from above, to one scale: circles are what reaches out, the arrow what flies. */
export function GuardPlan({ plan, name }: { plan: Plan; name: string }) {
  const { people, flashover, burn, shield } = plan;
  const far = Math.max(people, Math.min(flashover, 3 * people), Math.min(burn, 3 * people));
  const scale = (width - middle.x - 60) / far;
  const step = niceStep(far);
  const at = middle.x + people * scale;
  const print = (d: number) => printQuantity(d, 'm', { digits: 2, trim: true });
  const ring = (d: number, colour: string, dash: string, words: string, below: boolean) =>
    d * scale < 24 ? null : (
      <g>
        <circle cx={middle.x} cy={middle.y} r={d * scale} fill="none" stroke={colour} strokeWidth={2} strokeDasharray={dash} />
        <text
          x={middle.x}
          y={below ? Math.min(height - 34, middle.y + d * scale + 15) : Math.max(14, middle.y - d * scale - 6)}
          textAnchor="middle"
          fontSize={13}
          fill={colour}
          stroke="none"
        >
          {words} {print(d)}
        </text>
      </g>
    );
  return (
    <svg
      id="guard-plan"
      viewBox={`0 0 ${width} ${height}`}
      className="w-full max-w-[640px] text-ink"
      role="img"
      aria-label={`Guard of ${name} from above: people at ${print(people)}, flashover reaches ${print(flashover)}, flash burns up to ${print(burn)}`}
      fontFamily="'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace"
    >
      {ring(flashover, 'var(--over)', '6 4', 'flashover', false)}
      {ring(burn, 'var(--current)', '2 3', 'burns', true)}
      <rect
        x={middle.x - 16}
        y={middle.y - 16}
        width={32}
        height={32}
        fill="var(--plate)"
        stroke="var(--ink)"
        strokeWidth={2.5}
      />
      <text x={middle.x} y={middle.y + 5} textAnchor="middle" fontSize={13} fontWeight="bold" fill="var(--ink)">
        rig
      </text>
      <path
        d={`M${middle.x + 18} ${middle.y}H${at - 34}m-9 -5l9 5l-9 5`}
        fill="none"
        stroke="var(--dim)"
        strokeWidth={1.5}
        strokeDasharray="1 4"
      />
      <text x={(middle.x + at) / 2} y={middle.y - 8} textAnchor="middle" fontSize={13} fill="var(--dim)">
        {print(people)}
      </text>
      {shield !== null && (
        <g>
          <path d={`M${at - 26} ${middle.y - 46}v92`} stroke="var(--ink)" strokeWidth={5} />
          <text x={at - 26} y={middle.y - 54} textAnchor="middle" fontSize={13} fill="var(--ink)">
            {shield}
          </text>
        </g>
      )}
      <g stroke="var(--ink)" strokeWidth={2} fill="none">
        <circle cx={at} cy={middle.y - 9} r={6} />
        <path d={`M${at} ${middle.y - 3}v18m-8 -11h16m-16 26l8 -15l8 15`} />
      </g>
      <text x={at} y={middle.y + 66} textAnchor="middle" fontSize={13} fill="var(--ink)">
        people
      </text>
      <text x={20} y={18} fontSize={13} fill="var(--dim)">
        flashover {print(flashover)}, burns {print(burn)}
      </text>
      <g stroke="var(--ink)" strokeWidth={1.5}>
        <path d={`M20 ${height - 14}h${step * scale}m0 -5v10M20 ${height - 19}v10`} fill="none" />
      </g>
      <text x={26 + step * scale} y={height - 10} fontSize={13} fill="var(--ink)">
        {print(step)}
      </text>
    </svg>
  );
}
