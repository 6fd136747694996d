import { useRef, type ComponentProps, type ReactNode } from 'react';
import { Button } from './button.tsx';

interface Props extends Omit<ComponentProps<typeof Button>, 'onClick' | 'children'> {
  /** What the file is, for whoever does not see the button. */
  readonly label: string;
  readonly accept: string;
  readonly onFile: (file: File) => void;
  readonly children: ReactNode;
}

/** A button that asks for a file; the same file may be chosen again. */
export function FileButton({ label, accept, onFile, children, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="hidden"
        aria-label={label}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
