import type { ComponentProps } from 'react';

type Fit = 'usual' | 'small' | 'tall';

const fits: { readonly [K in Fit]: string } = {
  usual: 'min-h-8 px-2',
  /** Beside text of its line. */
  small: 'min-h-7 px-1',
  /** In a row with buttons. */
  tall: 'min-h-9 px-2',
};

/** A choice of one of several, as the system draws its list: it is read out, typed into and scrolled as everywhere else. */
export function Select({ fit = 'usual', className = '', ...props }: ComponentProps<'select'> & { readonly fit?: Fit }) {
  // The one place where it is made.
  // eslint-disable-next-line no-restricted-syntax
  return <select {...props} className={`min-w-0 border border-rule bg-plate text-ink font-normal ${fits[fit]} ${className}`} />;
}
