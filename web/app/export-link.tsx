import type { ReactNode } from 'react';
import { FileDown } from 'lucide-react';
import type { Role } from '@vast-surge/contract';
import { useMayNot } from './may.ts';

interface Props {
  /** Whose export it is, as the server has it. */
  readonly may: readonly Role[];
  readonly href: string;
  /** Of the file; the server names it where this is left out. */
  readonly name?: string;
  readonly look?: 'main' | 'quiet';
  readonly onClick?: () => void;
  readonly children: ReactNode;
}

const looks = {
  main: 'border-ink bg-ink font-bold text-plate',
  quiet: 'border-rule bg-plate hover:border-ink',
} as const;

/** A file of the workshop, written by the server. Whoever may not take it out is told why in its place. */
export function ExportLink({ may, href, name, look = 'quiet', onClick, children }: Props) {
  const mayNot = useMayNot(...may);
  if (mayNot !== null) return <span className="block max-w-80 text-14 text-dim">No export: {mayNot}</span>;
  return (
    <a
      className={`inline-flex items-center gap-2 border px-3 py-1.5 whitespace-nowrap ${looks[look]}`}
      href={href}
      download={name ?? true}
      onClick={onClick}
    >
      <FileDown size={16} aria-hidden /> {children}
    </a>
  );
}
