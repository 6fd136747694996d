import { Popover } from 'radix-ui';
import { Link } from 'react-router';
import { withTerms, type GlossaryTerm } from './glossary.ts';

function Term({ word, term }: { word: string; term: GlossaryTerm }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="underline decoration-dotted underline-offset-3" aria-label={`${word}: what it is`}>
        {word}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          aria-label={term.term}
          className="z-50 max-w-[22rem] border border-ink bg-plate p-3 text-14 font-normal text-ink"
        >
          <b>{term.term}</b>: {term.says}.{' '}
          <Link className="text-select underline" to={`/glossary#${term.id}`}>
            Glossary
          </Link>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A text whose terms of the glossary are underlined; each opens its sentence. */
export function Terms({ children }: { children: string }) {
  return <>{withTerms(children).map((piece, i) => (typeof piece === 'string' ? piece : <Term key={i} {...piece} />))}</>;
}
