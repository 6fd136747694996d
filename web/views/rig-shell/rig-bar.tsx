import type { ReactNode } from 'react';
import { Redo2, Undo2 } from 'lucide-react';
import type { Evaluation } from '@vast-surge/core/evaluation';
import type { RigDocument } from '@vast-surge/core/rig';
import { redoEdit, undoEdit } from '../../app/commands.ts';
import { renamed } from '../../app/edits.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { redoWords, undoWords } from '../../app/undo.ts';
import { Button } from '../../ui/button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { SaveLine } from './save-line.tsx';
import { ShareButton } from './share.tsx';
import { VerdictLine } from './verdict-line.tsx';

function RigName({ name }: { name: string }) {
  const dispatch = useAppDispatch();
  return (
    <input
      aria-label="Name of the rig"
      title="Rename"
      className="max-w-[15rem] min-w-[5rem] border border-transparent bg-transparent text-20 font-bold [field-sizing:content] hover:border-rule focus:border-select"
      defaultValue={name}
      maxLength={80}
      onBlur={(event) => {
        const next = event.target.value.trim();
        if (next === '') event.target.value = name;
        else if (next !== name) dispatch(renamed(next));
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

function UndoButtons() {
  const history = useAppSelector((s) => s.history);
  const [back, forth] = [undoWords(history), redoWords(history)];
  const button = (title: string, words: string | null, act: () => void, icon: ReactNode) => (
    <IconButton
      label={title}
      hint={words === null ? `${title}: nothing yet` : `${title}: ${words}`}
      className="!px-1.5"
      disabled={words === null}
      onClick={act}
    >
      {icon}
    </IconButton>
  );
  return (
    <span className="flex max-[430px]:hidden">
      {button('Undo', back, undoEdit, <Undo2 size={17} aria-hidden />)}
      {button('Redo', forth, redoEdit, <Redo2 size={17} aria-hidden />)}
    </span>
  );
}

interface Props {
  readonly id: string;
  readonly document: RigDocument;
  readonly evaluation: Evaluation;
  readonly away: boolean;
  readonly onSaveRevision: () => void;
}

/** Which rig this is, whether it may be fired, and where its edits are: on every page of it. */
export function RigBar({ id, document, evaluation, away, onSaveRevision }: Props) {
  return (
    <div className="no-print flex flex-wrap items-center gap-x-4 bg-plate px-3 py-1 sm:px-5 lg:h-12 lg:flex-nowrap">
      <RigName key={`${id} ${document.name}`} name={document.name} />
      <VerdictLine id={id} document={document} evaluation={evaluation} />
      <span className="ml-auto flex shrink-0 items-center gap-2">
        <SaveLine serverAway={away} />
        <UndoButtons />
        <ShareButton id={id} document={document} />
        <Button className="!py-1 max-sm:hidden" title="Ctrl+S" onClick={onSaveRevision}>
          Save revision
        </Button>
      </span>
    </div>
  );
}
