import { useState } from 'react';
import { leversOf, solveRig, type Evaluation } from '@vast-surge/core/evaluation';
import type { Worked } from '@vast-surge/core/formula';
import { printQuantity, wordQuantityIssue } from '@vast-surge/core/quantity';
import { fieldName, quantityAt } from '@vast-surge/core/rig';
import { valueSet } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import type { FigureId } from '@vast-surge/core/block';
import { parseTyped } from '../../ui/typed.ts';
import { Select } from '../../ui/select.tsx';

interface Props {
  readonly evaluation: Evaluation;
  readonly figureId: FigureId;
  readonly worked: Worked;
}

function answerOf(
  { evaluation, figureId, worked }: Props,
  wanted: string,
  path: string,
): { value: number; text: string } | { reason: string } | null {
  if (wanted.trim() === '') return null;
  const parsed = parseTyped(wanted, worked.unit);
  if (!parsed.ok) return { reason: wordQuantityIssue(parsed.issue) };
  if (parsed.quantity.tolerance) return { reason: 'write it without a tolerance' };
  const solved = solveRig(evaluation.rig, figureId, path, parsed.quantity.value);
  if (!solved.ok) return { reason: solved.reason };
  const unit = quantityAt(evaluation.rig, path)?.field.unit ?? '1';
  return { value: solved.value, text: printQuantity(solved.value, unit, { digits: 4, trim: true }) };
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
  const set = (value: number) => dispatch(valueSet({ path, value: Number(value.toPrecision(4)) }));
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
        <Select fit="small" value={path} onChange={(event) => setChosen(event.target.value)}>
          {paths.map((option) => (
            <option key={option} value={option}>
              {fieldName(evaluation.rig, option)}
            </option>
          ))}
        </Select>
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
