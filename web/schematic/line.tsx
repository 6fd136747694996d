import type { KeyboardEvent } from 'react';
import { slots, type Problem, type Slot } from '@vast-surge/core/block';
import { blockDefinition, slotTitles } from '@vast-surge/core/kind';
import type { Evaluation } from '@vast-surge/core/evaluation';
import { reasonOf } from '@vast-surge/core/figure';
import { limitState, tightest, type Limit } from '@vast-surge/core/limit';
import { blockIn } from '@vast-surge/core/rig';
import { limitWords, ratingShare } from '../ui/gauge.tsx';
import { useWidth } from '../ui/use-width.ts';
import { Strokes } from './glyph.tsx';

const height = 194;
const top = 70;
const bottom = 142;
const narrowest = 1180;

/** Where a block stands on the line, as a share of its width or in pixels from an end, and where its label goes. */
interface Stand {
  readonly x: (width: number) => number;
  readonly label: { readonly dx: number; readonly y: number; readonly anchor: 'start' | 'middle' | 'end' };
  /** Box that is clicked and framed, around (x, 0). */
  readonly box: { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number };
}

const beside = { dx: 26, y: 92, anchor: 'start' as const };
const above = { dx: 0, y: 15, anchor: 'middle' as const };

const stands: { readonly [K in Slot]: Stand } = {
  supply: { x: () => 46, label: { ...beside, dx: 28 }, box: { left: -30, right: 138, top: 72, bottom: 164 } },
  charging: { x: (w) => w * 0.155, label: above, box: { left: -76, right: 76, top: 2, bottom: 84 } },
  dump: { x: (w) => w * 0.31, label: beside, box: { left: -20, right: 104, top: 64, bottom: 148 } },
  bleeder: { x: (w) => w * 0.215, label: beside, box: { left: -20, right: 108, top: 64, bottom: 148 } },
  store: { x: (w) => w * 0.455, label: above, box: { left: -84, right: 84, top: 2, bottom: 148 } },
  meter: { x: (w) => w * 0.56, label: beside, box: { left: -24, right: 106, top: 64, bottom: 148 } },
  tool: { x: (w) => w * 0.655, label: beside, box: { left: -20, right: 108, top: 64, bottom: 148 } },
  switch: { x: (w) => w * 0.8, label: above, box: { left: -66, right: 66, top: 2, bottom: 86 } },
  monitor: {
    x: (w) => w * 0.8,
    label: { dx: 0, y: 108, anchor: 'middle' },
    box: { left: -66, right: 66, top: 88, bottom: 162 },
  },
  // Above the rail, beside the switch that it fires.
  trigger: {
    x: (w) => w * 0.8 + 108,
    label: { dx: -4, y: 15, anchor: 'start' },
    box: { left: -44, right: 110, top: 2, bottom: 66 },
  },
  // Across the load, behind the switch; its name stands below the return.
  crowbar: {
    x: (w) => w * 0.8 + 76,
    label: { dx: 0, y: 166, anchor: 'middle' },
    box: { left: -44, right: 44, top: 118, bottom: 190 },
  },
  // Between switch and load; drawn on the return, where there is room.
  leads: {
    x: (w) => w * 0.7,
    label: { dx: 0, y: 166, anchor: 'middle' },
    box: { left: -48, right: 48, top: 122, bottom: 190 },
  },
  // Around all of it, and no part of the circuit.
  guard: { x: () => 18, label: { dx: 0, y: 15, anchor: 'start' }, box: { left: -12, right: 104, top: 2, bottom: 66 } },
  air: { x: (w) => w * 0.29, label: { dx: 0, y: 15, anchor: 'start' }, box: { left: -10, right: 100, top: 2, bottom: 60 } },
  load: { x: (w) => w - 40, label: { dx: -22, y: 92, anchor: 'end' }, box: { left: -110, right: 30, top: 56, bottom: 148 } },
};

function Gauge({ x, y, limit }: { x: number; y: number; limit: Limit }) {
  const width = 54;
  const over = limitState(limit) === 'over';
  const share = (u: number) => Math.min(u * ratingShare, 1) * width;
  return (
    <g aria-hidden stroke="none">
      <rect x={x} y={y} width={width} height={8} fill="none" stroke="var(--rule)" />
      <rect x={x} y={y} width={share(limit.worst ?? 0)} height={8} fill={over ? 'var(--over)' : 'currentColor'} />
      <rect x={x + width * ratingShare} y={y - 3} width={2} height={14} fill="var(--over)" />
    </g>
  );
}

function ProblemSign({ x, y, problem }: { x: number; y: number; problem: Problem }) {
  return (
    <g aria-hidden>
      <path d={`M${x} ${y}l8 -14l8 14z`} fill="var(--warning)" stroke="var(--on-warning)" strokeWidth={1.2} />
      <text x={x + 8} y={y - 2.5} textAnchor="middle" fontSize={10} fontWeight="bold" fill="var(--on-warning)" stroke="none">
        !
      </text>
      <title>{problem.text}</title>
    </g>
  );
}

interface Props {
  readonly evaluation: Evaluation;
  readonly selected: Slot;
  readonly onSelect: (slot: Slot) => void;
}

/** What a block is called by; a dash where the number in it cannot be had, which its problem then says. */
function keyOf(read: () => { readonly text: string; readonly detail?: string }): {
  readonly text: string;
  readonly detail?: string;
} {
  try {
    return read();
  } catch (error) {
    if (reasonOf(error)) return { text: '–' };
    throw error;
  }
}

function BlockOnLine({ slot, width, evaluation, selected, onSelect }: Props & { slot: Slot; width: number }) {
  const { rig, corners, ladder, problems } = evaluation;
  const reading = corners.nominal();
  const own = reading.ownOf(slot);
  const block = blockIn(rig, slot);
  const definition = blockDefinition(slot, block.kind);
  const stand = stands[slot];
  const x = stand.x(width);
  const key = keyOf(() => definition.key(own, reading));
  const limit = tightest(ladder, slot);
  const problem = problems.find((p) => p.slot === slot && p.channel === undefined);
  const title = `${slotTitles[slot]}${key.detail ? ` · ${key.detail}` : ''}`;
  const lx = x + stand.label.dx;
  const { anchor } = stand.label;
  const left = anchor === 'start' ? lx : anchor === 'middle' ? lx - 27 : lx - 54;
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    onSelect(slot);
  };
  const spoken = [
    title,
    key.text,
    limit ? `${limit.title} ${limitWords(limit)}` : '',
    problem ? `${problem.severity}: ${problem.text}` : '',
  ]
    .filter(Boolean)
    .join(', ');
  const active = selected === slot;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={active}
      aria-label={spoken}
      data-slot={slot}
      onClick={() => onSelect(slot)}
      onKeyDown={onKeyDown}
      className="group cursor-pointer outline-none"
    >
      <rect
        x={x + stand.box.left}
        y={stand.box.top}
        width={stand.box.right - stand.box.left}
        height={stand.box.bottom - stand.box.top}
        fill="transparent"
        stroke={active ? 'var(--select)' : 'transparent'}
        strokeDasharray="2 3"
        className="group-hover:stroke-[var(--dim)] group-focus-visible:stroke-[var(--select)] group-focus-visible:[stroke-dasharray:none]"
      />
      <Strokes of={definition.glyph(own)({ x, top, bottom })} />
      <text
        x={lx}
        y={stand.label.y}
        textAnchor={anchor}
        fontSize={13}
        fill={active ? 'var(--select)' : 'var(--dim)'}
        fontWeight={active ? 700 : 400}
      >
        {title}
      </text>
      <text
        x={lx}
        y={stand.label.y + 17}
        textAnchor={anchor}
        fontSize={17}
        fontWeight={600}
        className="figure"
        fill="currentColor"
      >
        {key.text}
      </text>
      {limit && <Gauge x={left} y={stand.label.y + 23} limit={limit} />}
      {problem && <ProblemSign x={left + 62} y={stand.label.y + 34} problem={problem} />}
    </g>
  );
}

/** The rig as one line, supply on the left and load on the right, drawn from its data. */
export function RigLine(props: Props) {
  const [ref, space] = useWidth(1280);
  const width = Math.max(narrowest, space);
  const x = (slot: Slot) => stands[slot].x(width);
  return (
    <div ref={ref} className="overflow-x-auto border-b border-rule bg-plate" role="group" aria-label="The rig as one line">
      <svg width={width} height={height} className="block text-ink">
        <g fill="none" stroke="currentColor" strokeWidth={2}>
          <path d={`M${x('supply')} ${top}H${x('load')}M${x('supply')} ${bottom}H${x('load')}`} />
        </g>
        {slots.map((slot) => (
          <BlockOnLine key={slot} slot={slot} width={width} {...props} />
        ))}
      </svg>
    </div>
  );
}
