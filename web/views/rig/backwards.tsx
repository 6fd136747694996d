import { useState } from 'react';
import { blockDefinition, readQuantityText, slotTitles, textOf, type Slot } from '@vast-surge/core/block';
import { leversOf, solveRig, type Evaluation } from '@vast-surge/core/evaluation';
import type { Worked } from '@vast-surge/core/formula';
import { parseQuantity, printQuantity, wordQuantityIssue } from '@vast-surge/core/quantity';
import { blockIn } from '@vast-surge/core/rig';
import { blockSelected, fieldTyped } from '../../app/editor.ts';
import { useAppDispatch } from '../../app/store.ts';

interface Props {
  readonly evaluation: Evaluation;
  readonly figureId: string;
  readonly worked: Worked;
}

function answerOf(
  { evaluation, figureId, worked }: Props,
  wanted: string,
  path: string,
): { value: number; text: string } | { reason: string } | null {
  if (wanted.trim() === '') return null;
  const parsed = parseQuantity(wanted, worked.unit);
  if (!parsed.ok) return { reason: wordQuantityIssue(parsed.issue) };
  if (parsed.quantity.tolerance) return { reason: 'write it without a tolerance' };
  const solved = solveRig(evaluation.rig, figureId, path, parsed.quantity.value);
  if (!solved.ok) return { reason: solved.reason };
  const [slot, field] = path.split('.') as [Slot, string];
  const spec = blockDefinition(slot, blockIn(evaluation.rig, slot).kind).fields[field];
  return spec?.type === 'quantity'
    ? { value: solved.value, text: printQuantity(solved.value, spec.unit, { digits: 4, trim: true }) }
    : { reason: 'it is not a quantity' };
}

/** Ask backwards: fix this figure and find one input. */
export function Backwards(props: Props) {
  const { evaluation, worked } = props;
  const dispatch = useAppDispatch();
  const paths = leversOf(worked);
  const [wanted, setWanted] = useState('');
  const [chosen, setChosen] = useState(paths.includes('store.V0') ? 'store.V0' : (paths[0] ?? ''));
  if (paths.length === 0) return null;
  const path = paths.includes(chosen) ? chosen : (paths[0] ?? '');
  const answer = answerOf(props, wanted, path);
  const set = (value: number) => {
    const [slot, field] = path.split('.') as [Slot, string];
    const block = blockIn(evaluation.rig, slot);
    const spec = blockDefinition(slot, block.kind).fields[field];
    const old = block.fields[field];
    if (spec?.type !== 'quantity') return;
    const tolerance = old && typeof old === 'object' && old.tolerance ? { tolerance: old.tolerance } : {};
    const read = readQuantityText(spec, textOf({ value: Number(value.toPrecision(4)), ...tolerance }, spec.unit));
    if (read.ok) dispatch(fieldTyped({ slot, field, value: read.value }));
    dispatch(blockSelected(slot));
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <label>
        To make it{' '}
        <input
          className="figure w-28 border border-rule bg-ground px-2 py-0.5"
          value={wanted}
          placeholder={printQuantity(worked.value, worked.unit, { trim: true })}
          onChange={(event) => setWanted(event.target.value)}
        />
      </label>
      <label>
        change{' '}
        <select
          className="border border-rule bg-ground px-1 py-0.5"
          value={path}
          onChange={(event) => setChosen(event.target.value)}
        >
          {paths.map((option) => {
            const [slot, field = ''] = option.split('.') as [Slot, string];
            return (
              <option key={option} value={option}>
                {slotTitles[slot]}, {blockDefinition(slot, blockIn(evaluation.rig, slot).kind).fields[field]?.title.toLowerCase()}
              </option>
            );
          })}
        </select>
      </label>
      <span role="status">
        {answer && 'value' in answer && (
          <>
            to <b className="figure">{answer.text}</b>{' '}
            <button type="button" className="text-select underline" onClick={() => set(answer.value)}>
              set
            </button>
          </>
        )}
        {answer && 'reason' in answer && <span className="text-over">{answer.reason}</span>}
      </span>
    </div>
  );
}
