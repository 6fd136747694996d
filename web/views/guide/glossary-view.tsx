import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { glossary } from '../../ui/glossary.ts';

/** The words of the field and of this program, with what else they are called; the one of the address is marked. */
export function GlossaryView() {
  const { hash } = useLocation();
  const asked = decodeURIComponent(hash.slice(1));
  const [search, setSearch] = useState('');
  const words = search.toLowerCase().trim();
  const shown = glossary.filter(({ term, also, says }) => [term, ...also, says].join(' ').toLowerCase().includes(words));
  useEffect(() => document.getElementById(asked)?.scrollIntoView({ block: 'center' }), [asked]);
  return (
    <main className="mx-auto w-full max-w-[860px] p-5">
      <h1 className="text-2xl font-bold">Glossary</h1>
      <label className="mt-2 flex items-center gap-2">
        Filter
        <input
          className="w-64 border border-rule bg-plate px-2 py-1"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
      </label>
      {shown.length === 0 && <p className="mt-3">No term has “{search}”.</p>}
      <dl className="mt-3 border-t border-rule">
        {shown.map(({ id, term, also, says }) => (
          <div
            key={id}
            id={id}
            className={`border-b border-rule px-2 py-1.5 ${id === asked ? 'border-l-4 border-l-select bg-plate' : ''}`}
          >
            <dt className="font-bold">
              {term}
              {also.length > 0 && <span className="ml-2 font-normal text-dim">also: {also.join(', ')}</span>}
            </dt>
            <dd>{says}.</dd>
          </div>
        ))}
      </dl>
    </main>
  );
}
