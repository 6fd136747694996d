import { Dialog } from 'radix-ui';
import { useGetHealthQuery } from './api.ts';

const keys: readonly (readonly [string, string])[] = [
  ['?', 'this list'],
  ['Ctrl K', 'find any part, rig, run, shot, sum or action'],
  ['Ctrl Z', 'undo; with Shift, redo'],
  ['Ctrl S', 'save a revision of the rig'],
  ['g p, g r, g u, g o, g s, g e', 'parts, all rigs, runs, shots, sums, evidence'],
  ['Space, Esc Esc', 'in a run: the one action of the step; abort'],
  ['[ and ]', 'the block before and after, on a rig'],
  ['w', 'open or close the working of the number last touched'],
  ['Esc', 'close the working; in a field, take back what was typed'],
  ['↑ ↓ in a field', 'the next preferred value (E12), or one more and one less'],
  ['Alt ↑ ↓ in a field', 'one per cent more or less'],
  ['/', 'the filter of the shelf'],
  ['↑ ↓, Space, Enter', 'on the shelf: move, choose, open; Delete takes off'],
  ['n, m', 'on the shelf: new parts; measure'],
  ['1 2 3 4', 'charge, discharge, bleed, and a running Tesla coil, on a rig'],
  ['Tab', 'every field, block and number in turn'],
];

export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { data } = useGetHealthQuery(undefined, { skip: !open });
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(34rem,94vw)] -translate-x-1/2 border border-ink bg-plate p-5"
        >
          <Dialog.Title className="text-lg font-bold">Keys</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="figure font-bold whitespace-nowrap">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-4 flex items-baseline justify-between gap-3">
            <Dialog.Close className="border border-ink px-3 py-1">Close</Dialog.Close>
            <span className="text-[14px] text-dim">
              {data && `Vast Surge ${data.version} · `}
              <a className="underline" href="/api/docs">
                API
              </a>
            </span>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
