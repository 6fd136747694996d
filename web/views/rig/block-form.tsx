import { useState } from 'react';
import { TriangleAlert } from 'lucide-react';
import { Link } from 'react-router';
import { type Problem, type Slot } from '@vast-surge/core/block';
import { blockDefinition, groupsOf, kindsOf, slotTitles } from '@vast-surge/core/kind';
import { type BlockField, type FieldValue, type QuantityValue, type ValueOrigin } from '@vast-surge/core/field';
import type { Evaluation } from '@vast-surge/core/evaluation';
import { blockIn, channelNoun, channelOf, spotIn, type RigDocument } from '@vast-surge/core/rig';
import { fieldTyped, kindChosen, noteWritten } from '../../app/edits.ts';
import { fieldDrafted } from '../../app/editor.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { BlockParts } from './block-parts.tsx';
import { FieldGroup } from './field-group.tsx';
import { NeighbourOffer } from './neighbours.tsx';
import { Built } from './built.tsx';
import { afterPress } from '../../ui/after-press.ts';
import { LinesInput } from '../../ui/lines-input.tsx';
import { newBurst } from '../../ui/burst.ts';
import { QuantityInput } from '../../ui/quantity-input.tsx';
import { ValueSlider } from '../../ui/value-slider.tsx';
import { Select } from '../../ui/select.tsx';

function Problems({ problems }: { problems: readonly Problem[] }) {
  if (problems.length === 0) return null;
  return (
    <ul aria-label="Problems" className="mb-3 space-y-2">
      {problems.map((problem) => (
        <li
          key={problem.text}
          className={`flex gap-2 border-l-4 bg-plate p-2 text-14 ${problem.severity === 'error' ? 'border-over' : 'border-warning'}`}
        >
          <TriangleAlert size={17} aria-label={problem.severity} className="mt-0.5 shrink-0" />
          <span>{problem.text}</span>
        </li>
      ))}
    </ul>
  );
}

const originWords: { readonly [K in ValueOrigin]: string } = {
  default: 'assumed',
  measured: 'measured',
  label: 'from the label',
};

interface FieldProps {
  readonly slot: Slot;
  readonly id: string;
  readonly spec: BlockField;
  readonly value: FieldValue;
  /** Said beside a field that is the same for all channels; null where there is one. */
  readonly ofAll: string | null;
}

function Field({ slot, id, spec, value, ofAll }: FieldProps) {
  const dispatch = useAppDispatch();
  const channel = useAppSelector((s) => s.editor.channel);
  const path = `${spotIn(slot, channel)}.${id}`;
  const draft = useAppSelector((s) => s.editor.drafts[path]);
  const inputId = `field-${slot}-${id}`;
  // The slider stands under the field in hand alone.
  const [held, setHeld] = useState(false);
  const from = typeof value === 'object' && value !== null ? value.from : undefined;
  return (
    <div
      className="grid grid-cols-[118px_minmax(0,1fr)] gap-2 py-[3px]"
      title={spec.help}
      onFocus={() => setHeld(true)}
      onBlur={(event) => {
        const field = event.currentTarget;
        if (field.contains(event.relatedTarget)) return;
        afterPress(() => {
          if (!field.contains(document.activeElement)) setHeld(false);
        });
      }}
    >
      <label htmlFor={inputId} className="pt-1 text-14 leading-tight">
        {spec.title}
        {spec.once && ofAll !== null && <span className="block text-12 text-dim">{ofAll}</span>}
        {from !== undefined && (
          <span className={`block text-12 ${from === 'measured' ? 'font-bold' : 'text-dim'}`}>{originWords[from]}</span>
        )}
      </label>
      {spec.type === 'choice' ? (
        <Select
          id={inputId}
          className="w-full"
          value={String(value)}
          onChange={(event) => dispatch(fieldTyped({ slot, field: id, value: event.target.value }))}
        >
          {spec.options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.title}
            </option>
          ))}
        </Select>
      ) : spec.type === 'lines' ? (
        <LinesInput
          id={inputId}
          field={spec}
          value={typeof value === 'string' ? value : ''}
          onValue={(next, burst) => dispatch(fieldTyped({ slot, field: id, value: next, burst }))}
        />
      ) : (
        <div>
          <QuantityInput
            id={inputId}
            field={spec}
            value={value as QuantityValue | null}
            draft={draft}
            onValue={(next, burst) => dispatch(fieldTyped({ slot, field: id, value: next, burst }))}
            onDraft={(text) => dispatch(fieldDrafted({ path, text }))}
          />
          {held && typeof value === 'object' && value !== null && (
            <>
              <ValueSlider
                field={spec}
                value={value}
                onValue={(next, burst) => dispatch(fieldTyped({ slot, field: id, value: next, burst }))}
              />
              {/* Not on the way of the keyboard from field to field; the page of studies has every field. */}
              <Link tabIndex={-1} className="text-13 text-select underline" to={`studies?vary=${path}`}>
                Vary this field
              </Link>
            </>
          )}
        </div>
      )}
    </div>
  );
}

function KindChoice({ slot, kind, further, onChosen }: { slot: Slot; kind: string; further: boolean; onChosen: () => void }) {
  const dispatch = useAppDispatch();
  const kinds = kindsOf(slot);
  // A channel behind the first has the kind of load of the first.
  if (kinds.length < 2 || (further && slot === 'load'))
    return <span className="text-13 text-dim">{blockDefinition(slot, kind).title}</span>;
  return (
    <Select
      aria-label={`Kind of ${slotTitles[slot].toLowerCase()}`}
      fit="small"
      value={kind}
      onChange={(event) => {
        dispatch(kindChosen({ slot, kind: event.target.value }));
        onChosen();
      }}
    >
      {kinds.map((definition) => (
        <option key={definition.kind} value={definition.kind}>
          {definition.title}
        </option>
      ))}
    </Select>
  );
}

function Note({ note }: { note: string }) {
  const dispatch = useAppDispatch();
  const [burst, setBurst] = useState(newBurst);
  return (
    <label className="mt-4 block text-14 text-dim">
      Note on the rig
      <textarea
        className="mt-1 h-20 w-full border border-rule bg-plate p-2 text-ink"
        maxLength={10_000}
        value={note}
        onFocus={() => setBurst(newBurst())}
        onChange={(event) => dispatch(noteWritten({ note: event.target.value, burst }))}
      />
    </label>
  );
}

/** The fields of a block, group by group. */
function Groups({
  slot,
  channel,
  block,
  definition,
  ofAll,
  isWrong,
}: {
  slot: Slot;
  channel: number;
  block: Parameters<typeof groupsOf>[1];
  definition: Parameters<typeof groupsOf>[0];
  ofAll: string | null;
  isWrong: (id: string) => boolean;
}) {
  return (
    <div className="border-t border-rule">
      {groupsOf(definition, block).map((group) => (
        <FieldGroup key={`${slot} ${block.kind} ${group.group}`} of={group} isWrong={group.fields.some(([id]) => isWrong(id))}>
          {group.fields.map(([id, spec]) => (
            <Field
              key={`${channel} ${slot}.${block.kind}.${id}`}
              slot={slot}
              id={id}
              spec={spec}
              value={block.fields[id] ?? null}
              ofAll={ofAll}
            />
          ))}
        </FieldGroup>
      ))}
    </div>
  );
}

/** The fields of the selected block, drawn from its declaration. */
export function BlockForm({ id, document, evaluation }: { id: string; document: RigDocument; evaluation: Evaluation }) {
  const slot = useAppSelector((s) => s.editor.selected);
  // The place whose kind was just chosen: its neighbours may be brought along, in a rig of one channel.
  const [chosen, setChosen] = useState<string | null>(null);
  const channel = channelOf(document.rig);
  const noun = document.rig.channels.length > 1 ? channelNoun(document.rig) : null;
  const ofAll = noun && `of all ${noun}s`;
  const block = blockIn(document.rig, slot);
  const definition = blockDefinition(slot, block.kind);
  const problems = evaluation.problems.filter((p) => p.slot === slot && p.channel === undefined);
  const drafts = useAppSelector((s) => s.editor.drafts);
  const isWrong = (id: string) =>
    drafts[`${spotIn(slot, channel)}.${id}`] !== undefined || problems.some(({ field }) => field === id);
  return (
    <section
      id="block-fields"
      aria-label={`${slotTitles[slot]} fields`}
      className="min-h-0 overflow-y-auto border-rule px-5 py-2 lg:border-r"
    >
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h2 className="text-17 font-bold">{slotTitles[slot]}</h2>
        <KindChoice
          slot={slot}
          kind={block.kind}
          further={channel > 0}
          onChosen={() => setChosen(`${slot} ${document.rig.channels.length}`)}
        />
      </div>
      {chosen === `${slot} 1` && <NeighbourOffer rig={document.rig} slot={slot} onDone={() => setChosen(null)} />}
      <BlockParts key={`${channel} ${slot} ${block.kind}`} slot={slot} block={block} />
      <Problems problems={problems} />
      <Groups slot={slot} channel={channel} block={block} definition={definition} ofAll={ofAll} isWrong={isWrong} />
      {(definition.desks ?? []).map(({ route, says }) => (
        <Link key={route} className="mt-3 block text-select underline" to={`/rigs/${id}/${route}`}>
          {says}
        </Link>
      ))}
      <Note note={document.note} />
      <Built id={id} document={document} />
    </section>
  );
}
