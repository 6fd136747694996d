import { useState } from 'react';
import { Dialog } from 'radix-ui';
import { closeOpenRevision } from '../../app/commands.ts';
import { Button } from '../../ui/button.tsx';

/** Closes the edits into a revision now, with a short name if wanted. */
export function RevisionDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [name, setName] = useState('');
  const [busy, setBusy] = useState(false);
  const close = async () => {
    setBusy(true);
    const done = await closeOpenRevision(name.trim());
    setBusy(false);
    if (!done) return;
    setName('');
    onOpenChange(false);
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <Dialog.Content className="fixed top-[16vh] left-1/2 z-50 w-[min(32rem,94vw)] -translate-x-1/2 border border-ink bg-plate p-5">
          <Dialog.Title className="text-lg font-bold">Save a revision</Dialog.Title>
          <Dialog.Description className="mt-1 text-14 text-dim">
            The rig as it is now is kept for good under a number. Edits become a revision by themselves after a minute without
            changes; a name helps to find this one again.
          </Dialog.Description>
          <form
            className="mt-3 flex flex-wrap gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void close();
            }}
          >
            <label className="min-w-[14rem] flex-1">
              <span className="text-13 text-dim">Name (optional)</span>
              <input
                className="mt-0.5 w-full border border-rule bg-ground px-2 py-1"
                value={name}
                maxLength={80}
                onChange={(event) => setName(event.target.value)}
              />
            </label>
            <span className="flex items-end gap-2">
              <Button look="primary" type="submit" disabled={busy}>
                Save
              </Button>
              <Button onClick={() => onOpenChange(false)}>Cancel</Button>
            </span>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
