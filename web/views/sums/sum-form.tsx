import { useState } from 'react';
import { Link } from 'react-router';
import { heldOf, standingOf, standings, wordError } from '@vast-surge/core/evidence';
import {
  displaySymbol,
  evaluateFormula,
  expressionText,
  FormulaError,
  solveFormula,
  substitutionText,
  symbolsOf,
  withSolution,
  wordRange,
  wordCertainty,
  type Formula,
  type SymbolSpec,
} from '@vast-surge/core/formula';
import { FormulaText } from '../../ui/formula-text.tsx';
import { printExact, printQuantity, unitName, wordQuantityIssue } from '@vast-surge/core/quantity';
import type { StudyAnswer } from '../../workers/studies.calculations.ts';
import { useSum } from '../../workers/studies.ts';
import { parseTyped } from '../../ui/typed.ts';
import { formulaTex, numbersTex, Typeset } from '../../ui/typeset.tsx';

interface Entry {
  readonly symbol: string;
  readonly spec: SymbolSpec;
}

function reasonFor({ spec }: Entry, text: string): string | null {
  if (text.trim() === '') return null;
  const parsed = parseTyped(text, spec.unit);
  if (!parsed.ok) return `${wordQuantityIssue(parsed.issue)}; it must be ${wordRange(spec)}`;
  return parsed.quantity.tolerance ? 'takes no tolerance here' : null;
}

type Outcome =
  | { at: 'answer'; value: number; substitution: string; tex: string | null; certainty: ReturnType<typeof wordCertainty> }
  | { at: 'waiting'; missing: string[] }
  | { at: 'working' }
  | { at: 'refused'; reason: string };

/** What was typed for the symbols that are not solved for, and which of them are still to be typed. */
function readEntries(formula: Formula, entries: readonly Entry[], texts: Readonly<Record<string, string>>, solve: string) {
  const known: Record<string, number> = {};
  const missing: string[] = [];
  for (const { symbol, spec } of entries) {
    if (symbol === solve) continue;
    const parsed = parseTyped(texts[symbol] ?? '', spec.unit);
    if (parsed.ok && !parsed.quantity.tolerance) known[symbol] = parsed.quantity.value;
    else missing.push(displaySymbol(formula, symbol));
  }
  return { known, missing };
}

/** Whether a symbol is only found by a search. */
const isSearched = (formula: Formula, symbol: string) =>
  symbol !== formula.result.symbol && formula.inverse?.[symbol] === undefined;

type Read = ReturnType<typeof readEntries>;

function outcomeOf(formula: Formula, { known, missing }: Read, solve: string, searched: StudyAnswer<number> | null): Outcome {
  if (missing.length > 0) return { at: 'waiting', missing };
  try {
    const forward = solve === formula.result.symbol;
    if (isSearched(formula, solve)) {
      if (searched === null) return { at: 'working' };
      if (!searched.ok) return { at: 'refused', reason: searched.reason };
    }
    const value = searched?.ok ? searched.value : forward ? evaluateFormula(formula, known) : solveFormula(formula, solve, known);
    const result = forward ? value : (known[formula.result.symbol] ?? NaN);
    const { [formula.result.symbol]: _, ...inputs } = withSolution(known, solve, value);
    return {
      at: 'answer',
      value,
      substitution: substitutionText(formula, inputs, result, 5),
      tex: numbersTex(formula, inputs, result, 5),
      certainty: wordCertainty(formula, inputs, result),
    };
  } catch (error) {
    if (error instanceof FormulaError) return { at: 'refused', reason: error.message };
    throw error;
  }
}

function ValueField({
  id,
  text,
  solving,
  title,
  reason,
  onText,
}: {
  id: string;
  text: string;
  solving: boolean;
  title: string;
  reason: string | null;
  onText: (text: string) => void;
}) {
  return (
    <div className="col-start-2 sm:col-start-auto">
      {solving ? (
        <p className="px-2 py-1 text-dim">solved for, below</p>
      ) : (
        <input
          id={id}
          className={`figure w-full border bg-plate px-2 py-1 text-16 ${reason ? 'border-over' : 'border-rule'}`}
          value={text}
          autoComplete="off"
          spellCheck={false}
          aria-invalid={reason !== null}
          aria-describedby={`${id}-says`}
          onChange={(event) => onText(event.target.value)}
        />
      )}
      <p id={`${id}-says`} role={reason ? 'alert' : undefined} className="mt-1 text-13 font-bold text-over">
        {reason && `${title} ${reason}.`}
      </p>
    </div>
  );
}

function SymbolRow({
  formula,
  entry,
  text,
  solving,
  onText,
  onSolve,
}: {
  formula: Formula;
  entry: Entry;
  text: string;
  solving: boolean;
  onText: (text: string) => void;
  onSolve: () => void;
}) {
  const { symbol, spec } = entry;
  const reason = solving ? null : reasonFor(entry, text);
  const id = `sum-${symbol}`;
  return (
    <div className="grid grid-cols-[3rem_minmax(0,1fr)] items-start gap-x-3 gap-y-1 border-b border-rule py-2 sm:grid-cols-[3rem_minmax(0,1fr)_240px_140px]">
      <label htmlFor={id} className="figure pt-1 text-19 font-bold">
        <FormulaText text={displaySymbol(formula, symbol)} />
      </label>
      <div>
        <span>{spec.title}</span>
        <span className="block text-13 text-dim">
          {unitName(spec.unit)}, {wordRange(spec)}
        </span>
      </div>
      <ValueField id={id} text={text} solving={solving} title={spec.title} reason={reason} onText={onText} />
      <label className="col-start-2 flex items-center gap-2 pt-1 sm:col-start-auto">
        <input type="radio" name="solve" checked={solving} onChange={onSolve} />
        <span>
          solve for <FormulaText text={displaySymbol(formula, symbol)} />
        </span>
      </label>
    </div>
  );
}

/** Where several schools differ, the default stands in its field from the first, to be seen and changed. */
const defaultTexts = (formula: Formula): Record<string, string> =>
  Object.fromEntries(
    symbolsOf(formula).flatMap(({ symbol, spec }) =>
      spec.default === undefined ? [] : [[symbol, printExact(spec.default, spec.unit)]],
    ),
  );

/** A formula with a field for every symbol; any one of them is solved for. */
export function SumForm({ formula }: { formula: Formula }) {
  const entries = symbolsOf(formula);
  const held = heldOf(formula.id);
  const worst = held.length === 0 ? null : Math.max(...held.map((one) => one.worst));
  const [texts, setTexts] = useState<Readonly<Record<string, string>>>(() => defaultTexts(formula));
  const [solve, setSolve] = useState(formula.result.symbol);
  const read = readEntries(formula, entries, texts, solve);
  const isAsked = read.missing.length === 0 && isSearched(formula, solve);
  const searched = useSum(isAsked ? { id: formula.id, symbol: solve, known: read.known } : null);
  const outcome = outcomeOf(formula, read, solve, searched);
  const solved = entries.find((e) => e.symbol === solve);
  const chooseSolve = (symbol: string) => {
    // What was the answer becomes what is typed, so that one can go on from it.
    if (outcome.at === 'answer' && solved)
      setTexts({ ...texts, [solve]: printExact(Number(outcome.value.toPrecision(6)), solved.spec.unit) });
    setSolve(symbol);
  };
  return (
    <article className="max-w-4xl">
      <h1 className="text-2xl font-bold">{formula.title}</h1>
      <p className="mt-2 text-19">
        <Typeset tex={formulaTex(formula)} text={expressionText(formula)} />
      </p>
      <div className="mt-4 border-t border-rule">
        {entries.map((entry) => (
          <SymbolRow
            key={entry.symbol}
            formula={formula}
            entry={entry}
            text={texts[entry.symbol] ?? ''}
            solving={entry.symbol === solve}
            onText={(text) => setTexts({ ...texts, [entry.symbol]: text })}
            onSolve={() => chooseSolve(entry.symbol)}
          />
        ))}
      </div>
      <section aria-label="Result" aria-live="polite" className="mt-4 border-2 border-ink bg-plate p-4">
        {outcome.at === 'answer' && solved && (
          <>
            <p className="text-28 font-bold">
              <span className="figure">
                <FormulaText text={displaySymbol(formula, solve)} /> ={' '}
                {printQuantity(outcome.value, solved.spec.unit, { digits: 5, trim: true })}
              </span>
            </p>
            <p className="mt-1 text-18 break-words">
              <Typeset tex={outcome.tex} text={outcome.substitution} />
            </p>
            {outcome.certainty && (
              <p className="mt-1">
                <FormulaText text={displaySymbol(formula, formula.result.symbol)} /> is {outcome.certainty.band}, by the formula
                itself. {outcome.certainty.drawnOut !== null && <b>⚠ Extrapolated: {outcome.certainty.drawnOut}.</b>}
              </p>
            )}
          </>
        )}
        {outcome.at === 'waiting' && (
          <p className="text-dim">
            Still missing: <FormulaText text={outcome.missing.join(', ')} />.
          </p>
        )}
        {outcome.at === 'working' && <p className="text-dim">Solving …</p>}
        {outcome.at === 'refused' && <p className="font-bold text-over">{outcome.reason}</p>}
      </section>
      <p className="mt-3 text-14">
        <b>Source:</b> {formula.source}.
      </p>
      <p className="mt-1 text-14">
        <b>Evidence:</b> {standings[standingOf(formula)].title.toLowerCase()}
        {worst !== null && `, ${wordError(worst)} off, worst case`}.{' '}
        <Link className="text-select underline" to={`/evidence/formulas/${formula.id}`}>
          What it was checked against
        </Link>
      </p>
      {formula.assumptions.length > 0 && (
        <p className="mt-1 text-14">
          <b>Assumes:</b> {formula.assumptions.join('; ')}.
        </p>
      )}
      <p className="mt-1 text-14 text-dim">
        In the terminal: <span className="figure">./surge calc {formula.id}</span>
      </p>
    </article>
  );
}
