import { useState } from 'react';
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ArrowDown, ArrowUp, GripVertical, Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import type { Rig, SheetEdits } from '@vast-surge/core/rig';
import { moved, type Step } from '@vast-surge/core/runsheet';
import { newBurst } from '../../ui/burst.ts';
import { Button } from '../../ui/button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { StepSays } from './step-item.tsx';

export type EditSheet = (sheet: SheetEdits, burst?: string) => void;

const without = <T,>(record: Readonly<Record<string, T>>, key: string): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([k]) => k !== key));

function NoteField({ step, edits, onEdit }: { step: Step; edits: SheetEdits; onEdit: EditSheet }) {
  const [burst, setBurst] = useState(newBurst);
  return (
    <textarea
      aria-label={`Note on step ${step.number}`}
      placeholder="Note"
      className="mt-1 ml-[2.2rem] h-9 w-[calc(100%-2.2rem)] border border-rule bg-plate px-2 py-1 focus:h-20"
      maxLength={2000}
      value={edits.notes[step.id] ?? ''}
      onFocus={() => setBurst(newBurst())}
      onChange={(event) => {
        const text = event.target.value;
        const notes = text === '' ? without(edits.notes, step.id) : { ...edits.notes, [step.id]: text };
        onEdit({ ...edits, notes }, burst);
      }}
    />
  );
}

const [leastSeconds, mostSeconds] = [1, 3600] as const;

/** s that a step takes these people; empty: what is usual for such an act. */
function SecondsField({ step, edits, onEdit }: { step: Step; edits: SheetEdits; onEdit: EditSheet }) {
  const own = edits.seconds[step.id];
  const [text, setText] = useState(own === undefined ? '' : String(own));
  const value = Number(text);
  const isWrong = text.trim() !== '' && !(value >= leastSeconds && value <= mostSeconds);
  const keep = (typed: string) => {
    setText(typed);
    const seconds = Number(typed);
    if (typed.trim() === '') onEdit({ ...edits, seconds: without(edits.seconds, step.id) });
    else if (seconds >= leastSeconds && seconds <= mostSeconds)
      onEdit({ ...edits, seconds: { ...edits.seconds, [step.id]: seconds } });
  };
  return (
    <label className="mt-1 ml-[2.2rem] flex flex-wrap items-center gap-2 text-14">
      It takes
      <input
        aria-label={`Seconds that step ${step.number} takes`}
        aria-invalid={isWrong}
        inputMode="decimal"
        placeholder={String(step.seconds)}
        className="w-20 border border-rule bg-plate px-2 py-0.5"
        value={text}
        onChange={(event) => keep(event.target.value)}
      />
      s
      {isWrong && (
        <span role="alert" className="font-bold text-over">
          must be a time from 1 s to 1 h; {own === undefined ? 'the usual time applies' : `${own} s stand`}
        </span>
      )}
    </label>
  );
}

function Moves({ step, onMove, onRemove }: { step: Step; onMove: (by: number) => void; onRemove: () => void }) {
  return (
    <>
      <IconButton label={`Move step ${step.number} up`} onClick={() => onMove(-1)}>
        <ArrowUp size={16} aria-hidden />
      </IconButton>
      <IconButton label={`Move step ${step.number} down`} onClick={() => onMove(1)}>
        <ArrowDown size={16} aria-hidden />
      </IconButton>
      {step.isAdded && (
        <IconButton label={`Remove step ${step.number}`} onClick={onRemove}>
          <Trash2 size={16} aria-hidden />
        </IconButton>
      )}
    </>
  );
}

function EditedStep({
  step,
  rig,
  edits,
  onEdit,
  onMove,
}: {
  step: Step;
  rig: Rig;
  edits: SheetEdits;
  onEdit: EditSheet;
  onMove: (by: number) => void;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: step.id,
  });
  const remove = () =>
    onEdit({
      ...edits,
      added: edits.added.filter((a) => a.id !== step.id),
      notes: without(edits.notes, step.id),
    });
  const tools = (
    <span className="flex items-start gap-0.5">
      <Moves step={step} onMove={onMove} onRemove={remove} />
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={`Drag step ${step.number}`}
        className="cursor-grab touch-none p-1.5 text-dim hover:text-ink"
      >
        <GripVertical size={16} aria-hidden />
      </button>
    </span>
  );
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`border-t border-rule bg-plate py-2 ${isDragging ? 'relative z-10 border-2 border-select' : ''}`}
    >
      <StepSays step={step} rig={rig} tools={tools} />
      <SecondsField step={step} edits={edits} onEdit={onEdit} />
      <NoteField step={step} edits={edits} onEdit={onEdit} />
    </li>
  );
}

function AddStep({ phase, title, edits, onEdit }: { phase: Step['phase']; title: string; edits: SheetEdits; onEdit: EditSheet }) {
  const [text, setText] = useState('');
  const [hold, setHold] = useState('');
  const full = edits.added.length >= 60;
  const add = () => {
    if (text.trim() === '') return;
    const id = `own-${crypto.randomUUID().slice(0, 8)}`;
    onEdit({ ...edits, added: [...edits.added, { id, phase, text: text.trim(), hold: hold.trim() }] });
    setText('');
    setHold('');
  };
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-2 border-t border-rule py-2"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <input
        aria-label={`A step of your own in ${title}`}
        placeholder="A step of your own"
        className="min-w-48 flex-[3] border border-rule bg-plate px-2 py-1"
        maxLength={500}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <input
        aria-label={`Hold until, in ${title}`}
        placeholder="hold until (may be empty)"
        className="min-w-40 flex-[2] border border-rule bg-plate px-2 py-1"
        maxLength={300}
        value={hold}
        onChange={(event) => setHold(event.target.value)}
      />
      <Button type="submit" disabled={text.trim() === '' || full}>
        Add
      </Button>
      {full && <span role="alert">A sheet takes 60 steps of your own; remove one first.</span>}
    </form>
  );
}

/** One phase while the sheet is edited: its steps move by dragging or by keys, take notes, and others are added. */
export function EditedPhase({
  phase,
  title,
  steps,
  rig,
  edits,
  onEdit,
}: {
  phase: Step['phase'];
  title: string;
  steps: readonly Step[];
  rig: Rig;
  edits: SheetEdits;
  onEdit: EditSheet;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const place = (id: string, to: number) => {
    const order = moved(steps, id, to);
    if (order) onEdit({ ...edits, order: { ...edits.order, [phase]: order } });
    else toast('That step stays: it is at the end of its phase, or has to come before or after the one beside it.');
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const to = steps.findIndex((s) => s.id === over?.id);
    if (over && to >= 0 && active.id !== over.id) place(String(active.id), to);
  };
  return (
    <>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={steps.map((s) => s.id)} strategy={verticalListSortingStrategy}>
          <ol>
            {steps.map((step, i) => (
              <EditedStep
                key={step.id}
                step={step}
                rig={rig}
                edits={edits}
                onEdit={onEdit}
                onMove={(by) => place(step.id, i + by)}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <AddStep phase={phase} title={title} edits={edits} onEdit={onEdit} />
    </>
  );
}
