import { Link } from 'react-router';
import type { Stroke } from '@vast-surge/core/block';
import { otherStarts, starters } from '@vast-surge/core/kind';
import { Strokes } from '../../schematic/glyph.tsx';

export function Picture({ of, className = '' }: { of: readonly Stroke[]; className?: string }) {
  return (
    <svg viewBox="0 0 120 80" className={className} aria-hidden>
      <Strokes of={of} />
    </svg>
  );
}

/** Every way to begin, each as its picture: no kind of rig hides in a drop-down. */
export function StartSomething({ large = false }: { large?: boolean }) {
  const all = [
    ...starters.map(({ id, title, says, picture }) => ({ to: `/start/${id}`, title, says, picture })),
    ...otherStarts.map(({ path, ...other }) => ({ to: path, ...other })),
  ];
  return (
    <ul
      className={`grid gap-2 ${large ? 'grid-cols-2 md:grid-cols-3 xl:grid-cols-5' : 'grid-cols-2 sm:grid-cols-4 xl:grid-cols-7'}`}
    >
      {all.map(({ to, title, says, picture }) => (
        <li key={to}>
          <Link to={to} className="block h-full border border-rule bg-plate p-2 hover:border-ink">
            <Picture of={picture} className={large ? 'mx-auto h-24' : 'mx-auto h-16'} />
            <span className="block text-center font-bold">{title}</span>
            {large && <span className="mt-0.5 block text-center text-14 text-dim">{says}</span>}
          </Link>
        </li>
      ))}
    </ul>
  );
}
