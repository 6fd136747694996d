import { useState } from 'react';
import { FileDown } from 'lucide-react';
import { writeRigFile } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';
import { ExportLink } from '../../app/export-link.tsx';
import { useKeptEdits } from '../../app/session.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { IconButton } from '../../ui/icon-button.tsx';
import { Sheet } from '../../ui/sheet.tsx';

/** What can be given away of a rig, and in what files. */
export function ShareSheet({ id, document, onClose }: { id: string; document: RigDocument; onClose: () => void }) {
  // The whole of it is written by the server, which does not know what waits here.
  const isUnsaved = useKeptEdits().some((edit) => edit.rigId === id);
  const name = fileName(document.name);
  return (
    <Sheet
      title={`Share ${document.name}`}
      says="One file, for another workshop or another bench. Import, on the page of all rigs, shows what it would bring before anything is written."
      onClose={onClose}
    >
      <ul className="mt-3">
        <li className="grid items-start gap-x-4 gap-y-2 border-t border-rule py-3 sm:grid-cols-[minmax(0,1fr)_auto]">
          <div>
            <b>With parts, runs and shots</b>
            <p>
              Revisions; the parts it uses, with readings and photos; runs and rehearsals; shots with photos and traces. A ZIP
              file of texts, with checksums.
            </p>
            {isUnsaved && <p className="mt-1 font-bold">Edits that are not saved yet are not included.</p>}
          </div>
          <ExportLink may={['designs']} href={`/api/archive/rigs/${id}`} name={`${name}.zip`} look="main" onClick={onClose}>
            {name}.zip
          </ExportLink>
        </li>
        <li className="grid items-start gap-x-4 gap-y-2 border-t border-rule py-3 sm:grid-cols-[minmax(0,1fr)_auto]">
          <div>
            <b>The rig as it is now</b>
            <p>Blocks, values as they were typed, and the run sheet: a rig file, text that can be read and compared.</p>
          </div>
          <Button
            onClick={() => {
              download(`${name}.rig.json`, writeRigFile(document, id), 'application/json');
              onClose();
            }}
          >
            <FileDown size={16} aria-hidden /> {name}.rig.json
          </Button>
        </li>
      </ul>
      <p className="mt-2 text-14 text-dim">Names of people on its run sheet and in its runs are in the file.</p>
    </Sheet>
  );
}

/** Opens what can be given away of a rig. */
export function ShareButton({ id, document }: { id: string; document: RigDocument }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <IconButton label="Share" hint="Share this rig as one file" className="!px-1.5 max-sm:hidden" onClick={() => setOpen(true)}>
        <FileDown size={17} aria-hidden />
      </IconButton>
      {open && <ShareSheet id={id} document={document} onClose={() => setOpen(false)} />}
    </>
  );
}
