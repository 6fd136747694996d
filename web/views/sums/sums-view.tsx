import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { formulaById, formulas, type Formula } from '@vast-surge/core/formula';
import { SumForm } from './sum-form.tsx';

const matches = (formula: Formula, words: string): boolean => {
  const text = `${formula.id} ${formula.title} ${formula.subject}`.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
};

function FormulaList({ current }: { current: string | undefined }) {
  const [words, setWords] = useState('');
  const found = formulas.filter((f) => matches(f, words.trim()));
  const subjects = [...new Set(found.map((f) => f.subject))];
  return (
    <nav aria-label="Formulas" className="border-rule p-5 lg:w-[340px] lg:shrink-0 lg:overflow-y-auto lg:border-r">
      <input
        type="search"
        aria-label="Find a formula"
        placeholder="Find a formula"
        className="w-full border border-rule bg-plate px-2 py-1"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {found.length === 0 && <p className="mt-3 text-dim">No formula matches.</p>}
      {subjects.map((subject) => (
        <section key={subject} className="mt-4">
          <h2 className="text-14 font-bold">{subject}</h2>
          <ul>
            {found
              .filter((f) => f.subject === subject)
              .map((f) => (
                <li key={f.id} className="border-b border-rule">
                  <Link
                    to={`/sums/${f.id}`}
                    aria-current={f.id === current ? 'page' : undefined}
                    className={`block py-1.5 leading-tight ${f.id === current ? 'font-bold text-select' : 'hover:underline'}`}
                  >
                    {f.title}
                  </Link>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </nav>
  );
}

/** One formula by itself. */
export function SumsView() {
  const { formulaId } = useParams();
  const formula = formulaId === undefined ? undefined : formulaById.get(formulaId);
  return (
    <main className="flex min-h-0 flex-1 flex-col-reverse lg:flex-row">
      <FormulaList current={formulaId} />
      <div className="min-w-0 flex-1 p-5 lg:overflow-y-auto">
        {formula && <SumForm key={formula.id} formula={formula} />}
        {!formula && formulaId !== undefined && (
          <p role="alert">There is no formula “{formulaId.slice(0, 60)}”. The list has them all.</p>
        )}
        {!formula && formulaId === undefined && (
          <>
            <h1 className="text-2xl font-bold">Sums</h1>
            <p className="mt-2 max-w-xl">
              One question, one formula: choose it, type what is known, and solve for any symbol. The same formulas stand behind
              every number of a rig.
            </p>
            <p className="mt-3">
              <Link className="text-select underline" to="/discharge">
                Discharge a capacitor
              </Link>{' '}
              on the bench: which resistor, how long, what to read.
            </p>
          </>
        )}
      </div>
    </main>
  );
}
