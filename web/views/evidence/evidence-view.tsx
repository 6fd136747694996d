import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import { book, heldOf, standingOf, standings, wordError, wordRangeOf, type Held, type Standing } from '@vast-surge/core/evidence';
import { formulaById, formulas, type Formula } from '@vast-surge/core/formula';
import { Select } from '../../ui/select.tsx';

const has = (text: string, words: string): boolean =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.toLowerCase().includes(word));

/** What something was held against: the error first, for that is what is asked. */
function HeldAgainst({ held, formula }: { held: readonly Held[]; formula: Formula | null }) {
  return (
    <ul className="grid gap-1.5">
      {held.map((one) => (
        <li key={one.source}>
          within <b className="figure">{wordError(one.worst)}</b>, {one.points} {one.points === 1 ? 'point' : 'points'}:{' '}
          {one.source}
          {one.memory && !one.source.includes('from memory') && ' (from memory)'}
          {Object.keys(one.range).length > 0 && <span className="block text-13 text-dim">{wordRangeOf(one, formula)}</span>}
        </li>
      ))}
    </ul>
  );
}

/** One row, marked and brought into view when it is what a working points at. */
function Row({ named, title, isAsked, children }: { named: string; title: string; isAsked: boolean; children: ReactNode }) {
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isAsked) row.current?.scrollIntoView({ block: 'center' });
  }, [isAsked]);
  return (
    <li
      ref={row}
      aria-current={isAsked || undefined}
      className={`grid gap-x-5 gap-y-1 border-t border-rule py-2.5 md:grid-cols-[minmax(14rem,2fr)_8.5rem_minmax(18rem,4fr)] ${isAsked ? 'border-l-4 border-l-select bg-plate pl-3' : ''}`}
    >
      <div>
        <b>{title}</b>
        <span className="figure block text-13 text-dim">{named}</span>
      </div>
      {children}
    </li>
  );
}

function FormulaRow({ formula, isAsked }: { formula: Formula; isAsked: boolean }) {
  const held = heldOf(formula.id);
  const standing = standings[standingOf(formula)];
  return (
    <Row named={formula.id} title={formula.title} isAsked={isAsked}>
      <span title={standing.means}>{standing.title}</span>
      <div>
        <HeldAgainst held={held} formula={formula} />
        <p className="mt-1 text-13 text-dim">
          Its own source: {formula.source}.{' '}
          <Link className="text-select underline" to={`/sums/${formula.id}`}>
            as a sum
          </Link>
        </p>
      </div>
    </Row>
  );
}

function FigureRow({ id, isAsked }: { id: string; isAsked: boolean }) {
  const made = book.made[id];
  const held = book.figure[id] ?? [];
  if (!made) return null;
  return (
    <Row named={id} title={made.title} isAsked={isAsked}>
      <span>{held.length > 0 ? 'Checked as a whole' : 'By its formulas'}</span>
      <div>
        <HeldAgainst held={held} formula={null} />
        {made.formulas.length === 0 ? (
          <p className="text-13 text-dim">Given, not worked out.</p>
        ) : (
          <details open={isAsked} className="mt-1 text-13">
            <summary className="text-dim">
              Made of {made.formulas.length} {made.formulas.length === 1 ? 'formula' : 'formulas'}, as the rig has it
            </summary>
            <ul className="mt-1 flex flex-wrap gap-x-3 gap-y-0.5">
              {made.formulas.map((one) => (
                <li key={one}>
                  <Link className="text-select underline" to={`/evidence/formulas/${one}`}>
                    {formulaById.get(one)?.title ?? one}
                  </Link>
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </Row>
  );
}

function Section({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <section className="mt-7">
      <h2 className="text-19 font-bold">{title}</h2>
      {note && <p className="max-w-3xl text-dim">{note}</p>}
      {children}
    </section>
  );
}

/** What stands behind the numbers: what each formula, model and figure was held against, and how far off it was in the worst case. */
export function EvidenceView() {
  const { kind, id } = useParams();
  const [words, setWords] = useState('');
  const [only, setOnly] = useState<Standing | 'all'>('all');
  const asked = kind === 'formulas' || kind === 'figures' ? id : undefined;
  const isKnown = asked === undefined || (kind === 'formulas' ? formulaById.has(asked) : asked in book.made);
  const seek = words.trim();
  const found = formulas.filter(
    (f) => has(`${f.id} ${f.title} ${f.subject} ${f.source}`, seek) && (only === 'all' || standingOf(f) === only),
  );
  const models = only === 'all' ? Object.entries(book.model).filter(([name]) => has(name, seek)) : [];
  const figures = only === 'all' ? Object.entries(book.made).filter(([name, { title }]) => has(`${name} ${title}`, seek)) : [];
  const points = Object.values(book.formula).flatMap((list) => list.map((one) => one.points));
  const subjects = [...new Set(found.map((f) => f.subject))];
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-5">
      <h1 className="text-2xl font-bold">Evidence</h1>
      <p className="mt-1 max-w-3xl">
        What each number rests on. {points.reduce((a, b) => a + b, 0)} points of {Object.keys(book.formula).length} formulas were
        checked against something outside this program; the error given is the greatest one seen. The tests write this page and
        fail where it is no longer true.
      </p>
      {!isKnown && (
        <p role="alert" className="mt-3 font-bold">
          There is no row “{(id ?? '').slice(0, 60)}”. All rows stand below.
        </p>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2">
        <input
          type="search"
          aria-label="Find in the evidence"
          placeholder="Find a formula, a figure, a source"
          className="w-72 border border-rule bg-plate px-2 py-1"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <label className="flex items-baseline gap-2">
          Show
          <Select value={only} onChange={(event) => setOnly(event.target.value as Standing | 'all')}>
            <option value="all">everything</option>
            {Object.entries(standings).map(([standing, { title }]) => (
              <option key={standing} value={standing}>
                {title} ({formulas.filter((f) => standingOf(f) === standing).length})
              </option>
            ))}
          </Select>
        </label>
        {only !== 'all' && <span className="text-dim">{standings[only].means}</span>}
      </div>
      {found.length + models.length + figures.length === 0 && <p className="mt-4">No results.</p>}
      {models.length > 0 && (
        <Section title="Models" note="What is solved step by step, and not by one formula.">
          <ul>
            {models.map(([name, held]) => (
              <Row key={name} named="" title={name} isAsked={false}>
                <span>Checked</span>
                <HeldAgainst held={held} formula={null} />
              </Row>
            ))}
          </ul>
        </Section>
      )}
      {subjects.map((subject) => (
        <Section key={subject} title={subject}>
          <ul>
            {found
              .filter((f) => f.subject === subject)
              .map((f) => (
                <FormulaRow key={f.id} formula={f} isAsked={kind === 'formulas' && asked === f.id} />
              ))}
          </ul>
        </Section>
      ))}
      {figures.length > 0 && (
        <Section
          title="Figures of a rig"
          note="Some are held as a whole against the circuit solver on the demo rigs; where the two differ by more than 2 %, the page of the rig names what the closed form leaves out."
        >
          <ul>
            {figures.map(([name]) => (
              <FigureRow key={name} id={name} isAsked={kind === 'figures' && asked === name} />
            ))}
          </ul>
        </Section>
      )}
    </main>
  );
}
