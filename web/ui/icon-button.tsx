import type { ComponentProps } from 'react';

interface Props extends Omit<ComponentProps<'button'>, 'title'> {
  readonly label: string;
  /** Shown when the pointer rests on it, where that says more than the label. */
  readonly hint?: string;
}

/** A button that is a sign alone; its label is there for whoever does not see it. */
export function IconButton({ label, hint = label, className = '', ...props }: Props) {
  return (
    <button
      type="button"
      aria-label={label}
      title={hint}
      {...props}
      className={`p-2 text-dim enabled:hover:text-ink ${className}`}
    />
  );
}
