import { useMemo } from 'react';
import { Link } from 'react-router';
import { workingOf, type Worked, type WorkingInput, type WorkingLine } from '@vast-surge/core/formula';
import { fieldName, type Rig } from '@vast-surge/core/rig';
import { FormulaText } from './formula-text.tsx';
import { lineTex, Typeset } from './typeset.tsx';

const originWords = {
  typed: 'typed',
  default: 'assumed',
  measured: 'measured on the part',
  label: 'from the label of the part, not measured',
  typical: 'typical of its dielectric, not measured',
} as const;

/** Where a number came from; of a rig's own field with the name of the field. */
function originText(rig: Rig | null, { origin }: Pick<WorkingInput, 'origin'>): string {
  switch (origin.from) {
    case 'typed':
    case 'default':
    case 'measured':
    case 'label':
    case 'typical':
      return rig ? `${originWords[origin.from]}: ${fieldName(rig, origin.path)}` : originWords[origin.from];
    case 'rule':
      return origin.source;
    default:
      return 'worked out below';
  }
}

function Line({ line, rig }: { line: WorkingLine; rig: Rig | null }) {
  const tex = useMemo(() => lineTex(line), [line]);
  return (
    <li className="border-t border-rule py-2" style={{ paddingLeft: `${line.depth * 18}px` }}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b>{line.title}</b>
        <span className="max-w-full text-15">
          <Typeset tex={tex.symbols} text={line.expression} />
        </span>
      </p>
      <p className="py-0.5 text-16 break-words">
        <Typeset tex={tex.numbers} text={line.substitution} />
      </p>
      <ul className="mt-1 flex flex-wrap gap-x-5 text-13">
        {line.inputs.map((input) => (
          <li key={input.symbol}>
            <b className="figure">
              <FormulaText text={input.symbol} /> = {input.printed}
            </b>{' '}
            <span className="text-dim">
              {input.title}; {originText(rig, input)}
            </span>
          </li>
        ))}
      </ul>
      {line.certainty && (
        <p className="mt-1 text-13">
          The formula itself is {line.certainty.band}.{' '}
          {line.certainty.drawnOut !== null && <b>⚠ Extrapolated: {line.certainty.drawnOut}.</b>}
        </p>
      )}
      <p className="mt-1 text-13 text-dim">
        Source: {line.source}. {line.assumptions.length > 0 && `Assumes: ${line.assumptions.join('; ')}.`}{' '}
        <Link className="text-select underline" to={`/sums/${line.formulaId}`}>
          as a sum
        </Link>
        {', '}
        <Link className="text-select underline" to={`/evidence/formulas/${line.formulaId}`}>
          what it was checked against
        </Link>
      </p>
    </li>
  );
}

/** The whole working of a number: its own line, then the lines of what it was worked out from. */
export function WorkingLines({ rig, worked }: { rig: Rig | null; worked: Worked }) {
  const lines = useMemo(() => workingOf(worked), [worked]);
  const given = worked.kind === 'given' ? worked.origin : null;
  return (
    <ol className="mt-2">
      {given && <li className="border-t border-rule py-2">Not calculated: {originText(rig, { origin: given })}.</li>}
      {lines.map((line, i) => (
        <Line key={i} line={line} rig={rig} />
      ))}
    </ol>
  );
}
