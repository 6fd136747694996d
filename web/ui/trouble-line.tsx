import type { ReactNode } from 'react';

const looks = {
  /** Under a form: what it was refused for. */
  bar: 'border-l-4 border-over pl-2 font-bold',
  /** Beside an entry. */
  words: 'font-bold text-over',
} as const;

/** What went wrong, or stands against it: read aloud as it comes, and nothing at all where there is nothing. */
export function TroubleLine({
  look = 'bar',
  className = '',
  children,
}: {
  look?: keyof typeof looks;
  className?: string;
  children: ReactNode;
}) {
  if (children === null) return null;
  return (
    <p role="alert" className={`${looks[look]} ${className}`}>
      {children}
    </p>
  );
}
