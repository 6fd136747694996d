import type { ComponentProps } from 'react';

type Look = 'plain' | 'primary' | 'quiet';

const looks: { readonly [K in Look]: string } = {
  plain: 'border border-rule bg-plate px-3 py-1.5 hover:border-ink',
  primary: 'border border-ink bg-ink px-3 py-1.5 font-bold text-plate',
  quiet: 'px-1 text-select underline decoration-1 underline-offset-2',
};

export function Button({ look = 'plain', className = '', ...props }: ComponentProps<'button'> & { look?: Look }) {
  return (
    <button type="button" {...props} className={`inline-flex items-center gap-2 whitespace-nowrap ${looks[look]} ${className}`} />
  );
}
