import { useMemo } from 'react';
import type { SweepQuestion } from '@vast-surge/contract';
import type { RigDocument } from '@vast-surge/core/rig';
import {
  pointsOf,
  readAxis,
  sweepRefusal,
  usualAxis,
  type AskedAxis,
  type Axis,
  type Output,
  type ReadAxis,
  type Sweep,
} from '@vast-surge/core/study';
import { Button } from '../../ui/button.tsx';
import { useSweep } from '../../workers/rig-study.ts';
import { AxisForm } from './axis-form.tsx';
import { KeptStudies } from './kept.tsx';
import { StudyProgress } from './progress.tsx';
import { limitTitles, SweptShown } from './swept.tsx';

interface Props {
  readonly rigId: string;
  readonly document: RigDocument;
  readonly outputs: readonly Output[];
  /** Everything that can be asked, for the titles of limits. */
  readonly all: readonly Output[];
  readonly levers: readonly string[];
  readonly axes: readonly AskedAxis[];
  readonly onAxes: (axes: readonly AskedAxis[]) => void;
}

/** A sweep of the rig as it stands, worked out by the page. */
function Swept({
  document,
  outputs,
  all,
  axes,
  refused,
}: { axes: readonly Axis[]; refused: string | null } & Pick<Props, 'document' | 'outputs' | 'all'>) {
  const { rig } = document;
  const sweep = useMemo<Sweep>(() => ({ axes, outputs: outputs.map(({ id }) => id) }), [axes, outputs]);
  const soFar = useSweep(rig, refused === null ? sweep : null, refused === null ? pointsOf(sweep) : 0);
  if (refused !== null)
    return (
      <p role="alert" className="mt-3 border-l-4 border-over bg-plate p-3">
        {refused}
      </p>
    );
  return (
    <>
      <StudyProgress progress={soFar} what="points" />
      <SweptShown
        as="study"
        document={document}
        axes={axes}
        outputs={outputs}
        points={soFar?.points ?? []}
        isDone={soFar !== null && soFar.done >= soFar.total}
        titleOf={limitTitles(all)}
      />
    </>
  );
}

/** What is typed, read; what stands against the sweep of it, and what the server is asked for where nothing does. */
function useRead(rig: RigDocument['rig'], outputs: Props['outputs'], asked: readonly AskedAxis[]) {
  // What is typed stands here at once; the address follows.
  const key = JSON.stringify(asked);
  const read = useMemo<readonly ReadAxis[]>(
    () => (JSON.parse(key) as AskedAxis[]).map((axis) => readAxis(rig, axis)),
    [rig, key],
  );
  const axes = useMemo(() => read.flatMap((one) => (one.ok ? [one.axis] : [])), [read]);
  const isWhole = axes.length === asked.length && axes.length > 0;
  const refused = useMemo(
    () => (isWhole ? sweepRefusal(rig, { axes, outputs: outputs.map(({ id }) => id) }) : null),
    [rig, axes, outputs, isWhole],
  );
  const question = useMemo<SweepQuestion | null>(
    () =>
      isWhole && refused === null
        ? { of: 'sweep', outputs: outputs.map(({ id }) => id), axes: JSON.parse(key) as AskedAxis[] }
        : null,
    [isWhole, refused, outputs, key],
  );
  return { read, axes, isWhole, refused, question };
}

/** Fields varied, and what comes of it. */
export function Vary({ rigId, document, outputs, all, levers, axes: asked, onAxes }: Props) {
  const { rig } = document;
  const { read, axes, isWhole, refused, question } = useRead(rig, outputs, asked);
  const free = levers.find((path) => !asked.some((axis) => axis.path === path)) ?? 'store.V0';
  const add = () => {
    const usual = usualAxis(rig, free);
    if (usual)
      onAxes([
        ...asked.map((axis) => ({ ...axis, steps: Math.min(axis.steps, 15) })),
        { ...usual, steps: Math.min(usual.steps, 15) },
      ]);
  };
  return (
    <>
      <div className="grid gap-3">
        {asked.map((axis, k) => (
          <AxisForm
            key={k}
            rig={rig}
            asked={axis}
            read={read[k] ?? readAxis(rig, axis)}
            levers={levers}
            label={['Vary', 'and', 'and'][k] ?? 'and'}
            onChange={(next) => onAxes(asked.with(k, next))}
            {...(k > 0 ? { onRemove: () => onAxes(asked.filter((_, i) => i !== k)) } : {})}
          />
        ))}
      </div>
      {asked.length < 3 && (
        <p className="mt-2">
          <Button look="quiet" onClick={add}>
            Add a field
          </Button>
        </p>
      )}
      {isWhole && <Swept document={document} outputs={outputs} all={all} axes={axes} refused={refused} />}
      <KeptStudies rigId={rigId} document={document} of="sweep" question={question} size={question ? pointsOf({ axes }) : 0} />
    </>
  );
}
