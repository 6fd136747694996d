import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { displaySymbol, expressionIn, formulaById, type Formula, type WorkingLine } from '@vast-surge/core/formula';
import { printQuantity } from '@vast-surge/core/quantity';
import { FormulaText } from './formula-text.tsx';
import { expressionTex, substitutionTex, symbolTex } from './tex.ts';

type Draw = (tex: string, into: HTMLElement) => void;

let drawing: Promise<Draw> | null = null;

/** What draws TeX, fetched when the first formula is shown. */
function fetched(): Promise<Draw> {
  drawing ??= Promise.all([import('katex'), import('katex/dist/katex.min.css')]).then(
    ([{ default: katex }]) =>
      (tex: string, into: HTMLElement) =>
        // Set through the page's own objects and not as a text: nothing of a formula is ever read as markup.
        katex.render(tex, into, { throwOnError: true, strict: 'ignore', trust: false, maxSize: 20, maxExpand: 100 }),
  );
  // What did not come is asked for again by the next formula.
  drawing.catch(() => (drawing = null));
  return drawing;
}

/** A formula set as in a book; as it is written where it cannot be, and until what draws it is here. */
export function Typeset({ tex, text }: { tex: string | null; text: string }) {
  const place = useRef<HTMLSpanElement>(null);
  const [drawn, setDrawn] = useState<string | null>(null);
  const [isCut, setIsCut] = useState(false);
  useLayoutEffect(() => {
    const { current } = place;
    if (!current || typeof ResizeObserver === 'undefined') return undefined;
    // What is moved sideways has to be reached by the keyboard; what is not would only be in the way of it. Looked at before it is painted,
    // then with its box, and once more when its letters have come, which are wider or narrower within the same box.
    const look = () => setIsCut(current.scrollWidth > current.clientWidth + 1);
    look();
    const observer = new ResizeObserver(look);
    observer.observe(current);
    void document.fonts.ready.then(look);
    return () => observer.disconnect();
  }, [drawn]);
  useEffect(() => {
    if (tex === null) return undefined;
    let stays = true;
    void fetched()
      .then((draw) => {
        if (!stays || !place.current) return;
        draw(tex, place.current);
        setDrawn(tex);
      })
      // It stands there as it is written.
      .catch(() => stays && setDrawn(null));
    return () => {
      stays = false;
    };
  }, [tex]);
  const isDrawn = tex !== null && drawn === tex;
  return (
    <>
      <span
        ref={place}
        {...(isCut ? { tabIndex: 0 } : {})}
        className={`max-w-full overflow-x-auto overflow-y-hidden align-middle ${isDrawn ? 'inline-block' : 'hidden'}`}
      />
      {!isDrawn && (
        <span className="figure">
          <FormulaText text={text} />
        </span>
      )}
    </>
  );
}

const resultOf = (formula: Formula): string => symbolTex(displaySymbol(formula, formula.result.symbol));
const equals = (result: string, right: string | null): string | null => right && `${result} = ${right}`;

/** A formula with its symbols. @param values for which it is asked, where it has cases */
export const formulaTex = (formula: Formula, values?: Readonly<Record<string, number>>): string | null =>
  equals(
    resultOf(formula),
    expressionTex(expressionIn(formula, values), (symbol) => displaySymbol(formula, symbol)),
  );

/** The same with numbers in place of symbols, and what it comes to. */
export function numbersTex(
  formula: Formula,
  values: Readonly<Record<string, number>>,
  result: number,
  digits = 4,
): string | null {
  const printed = (symbol: string) =>
    printQuantity(values[symbol] ?? NaN, formula.inputs[symbol]?.unit ?? '1', { digits, trim: true });
  const says = printQuantity(result, formula.result.unit, { digits, trim: true });
  return equals(resultOf(formula), substitutionTex(expressionIn(formula, values), printed, says));
}

/** A line of the working in its two forms; null where the formula is none of the registry. */
export function lineTex({ formulaId, inputs, value }: WorkingLine): {
  readonly symbols: string | null;
  readonly numbers: string | null;
} {
  const formula = formulaById.get(formulaId);
  if (!formula) return { symbols: null, numbers: null };
  const values = Object.fromEntries(
    Object.keys(formula.inputs).flatMap((key) => {
      const input = inputs.find(({ symbol }) => symbol === displaySymbol(formula, key));
      return input ? [[key, input.value]] : [];
    }),
  );
  return { symbols: formulaTex(formula, values), numbers: numbersTex(formula, values, value) };
}
