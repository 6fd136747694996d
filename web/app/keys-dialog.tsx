import { Dialog } from 'radix-ui';
import { useGetHealthQuery } from './base-api.ts';
import { keys } from './places.ts';

export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { data } = useGetHealthQuery(undefined, { skip: !open });
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[5vh] left-1/2 z-50 max-h-[90vh] w-[min(38rem,94vw)] overflow-y-auto -translate-x-1/2 border border-ink bg-plate p-5"
        >
          <Dialog.Title className="text-lg font-bold">Keys</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="figure max-w-[12rem] font-bold">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-4 flex items-baseline justify-between gap-3">
            <Dialog.Close className="border border-ink px-3 py-1">Close</Dialog.Close>
            <span className="text-14 text-dim">
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
