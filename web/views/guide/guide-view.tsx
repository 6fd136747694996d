import Markdown from 'react-markdown';
import { Link, useParams } from 'react-router';
import { starterBy } from '@vast-surge/core/kind';
import { Picture } from '../start/pictures.tsx';
import { guides, pictureOf } from './guides.ts';

/** The walk-throughs, each with the picture of what it begins with. */
export function GuidesView() {
  return (
    <main className="mx-auto w-full max-w-[1100px] p-5">
      <h1 className="text-2xl font-bold">Walk-throughs</h1>
      <p className="mt-1 mb-4">Each goes from a starter to the shot book in a quarter of an hour.</p>
      <ul className="grid gap-3 sm:grid-cols-3">
        {guides.map(({ id, title, starter }) => (
          <li key={id}>
            <Link to={`/guide/${id}`} className="block h-full border border-rule bg-plate p-3 hover:border-ink">
              <Picture of={starterBy(starter)?.picture ?? []} className="mx-auto h-24" />
              <span className="block text-center font-bold">{title}</span>
            </Link>
          </li>
        ))}
      </ul>
    </main>
  );
}

/** One walk-through, as it stands in the documents. */
export function GuideView() {
  const { guide: id } = useParams();
  const guide = guides.find((one) => one.id === id);
  if (!guide)
    return (
      <main className="p-5">
        <h1 className="text-2xl font-bold">There is no such walk-through</h1>
        <p className="mt-2">
          <Link className="text-select underline" to="/guide">
            All walk-throughs
          </Link>
        </p>
      </main>
    );
  return (
    <main className="mx-auto w-full max-w-[780px] p-5 text-17">
      <Markdown
        components={{
          h1: ({ children }) => <h1 className="text-2xl font-bold">{children}</h1>,
          h2: ({ children }) => <h2 className="mt-6 text-19 font-bold">{children}</h2>,
          p: ({ children }) => <p className="mt-2">{children}</p>,
          code: ({ children }) => <code className="figure border border-rule bg-plate px-1">{children}</code>,
          img: ({ src, alt }) => (
            <img src={pictureOf[typeof src === 'string' ? src : ''] ?? ''} alt={alt ?? ''} className="border border-rule" />
          ),
        }}
      >
        {guide.text}
      </Markdown>
      <p className="mt-6 flex flex-wrap gap-5">
        <Link className="text-select underline" to={`/start/${guide.starter}`}>
          Begin: {starterBy(guide.starter)?.title}
        </Link>
        <Link className="text-select underline" to="/guide">
          All walk-throughs
        </Link>
      </p>
    </main>
  );
}
