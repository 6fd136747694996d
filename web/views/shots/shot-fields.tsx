import { useState } from 'react';
import { format } from 'date-fns';
import { textOf } from '@vast-surge/core/field';
import type { UnitId } from '@vast-surge/core/quantity';
import { outcomes, outcomeWords } from '@vast-surge/core/run';
import {
  measurable,
  measureNamed,
  measures,
  ofTheAir,
  rangeOf,
  settable,
  type MeasureId,
  type Shot,
  type Values,
} from '@vast-surge/core/shot';
import { Ask, askedFor } from '../../ui/ask.tsx';
import { readTyped } from '../../ui/typed.ts';
import { Select } from '../../ui/select.tsx';
import { OwnQuantities } from '../../ui/own-quantities.tsx';

/** How a value of a shot is asked for. */
export const fieldOf = (id: MeasureId) => {
  const { least, most } = rangeOf(id);
  const { title, unit } = measures[id];
  return askedFor(title, unit, most, null, { optional: true, open: false, min: least });
};

/** A kept value as a person would type it: what a thermometer shows, and no kelvins. */
const typedText = (value: number, unit: UnitId): string =>
  unit === 'K' ? `${Number((value - 273.15).toFixed(6))} °C` : textOf({ value }, unit);

/** One value of a shot: as it was typed while it cannot be read, else as it is kept. */
function ValueField({ id, values, onValues }: { id: MeasureId; values: Values; onValues: (values: Values) => void }) {
  const field = fieldOf(id);
  const kept = values[id];
  const [draft, setDraft] = useState<string | null>(null);
  const read = draft === null ? null : readTyped(field, draft);
  return (
    <Ask
      field={field}
      text={draft ?? (kept === undefined ? '' : typedText(kept, field.unit))}
      reason={read && !read.ok ? read.reason : null}
      onText={(text) => {
        setDraft(text);
        const next = readTyped(field, text);
        if (!next.ok) return;
        const { [id]: _gone, ...others } = values;
        onValues(next.value === null ? others : { ...others, [id]: next.value.value });
      }}
    />
  );
}

/** Pressure, temperature and humidity of the air, as they were read. */
export function AirFields({
  asAt,
  set,
  onSet,
}: {
  /** When the air that stands here was read, where that was at another shot. */
  asAt: string | null;
  set: Values;
  onSet: (set: Values) => void;
}) {
  return (
    <>
      {asAt !== null && (
        <p className="text-14 text-dim">
          As it was read at {format(new Date(asAt), 'HH:mm')}; read it again where it has changed.
        </p>
      )}
      <div className="grid gap-x-8 md:grid-cols-2">
        {ofTheAir.map((id) => (
          <ValueField key={id} id={id} values={set} onValues={onSet} />
        ))}
      </div>
    </>
  );
}

/** What was set, what was measured, and how it went. */
export function ShotFields({
  shot,
  known,
  airAsAt = null,
  onShot,
  onTrouble,
}: {
  shot: Shot;
  /** Quantities of their own that other shots of the rig have. */
  known: readonly { readonly name: string; readonly unit: string }[];
  /** When the air that stands here was read, where that was at another shot. */
  airAsAt?: string | null;
  onShot: (shot: Shot) => void;
  /** Told whether something stands there that cannot be kept. */
  onTrouble: (isTrouble: boolean) => void;
}) {
  return (
    <div className="grid gap-x-8 gap-y-2 md:grid-cols-2">
      <fieldset>
        <legend className="font-bold">Set</legend>
        {settable
          .filter((id) => !ofTheAir.includes(id))
          .map((id) => (
            <ValueField key={id} id={id} values={shot.set} onValues={(set) => onShot({ ...shot, set })} />
          ))}
        <label className="grid grid-cols-[1fr_11rem] items-baseline gap-2 border-b border-rule py-1">
          Outcome
          <Select
            value={shot.outcome}
            onChange={(event) => onShot({ ...shot, outcome: outcomes.find((o) => o === event.target.value) ?? 'fired' })}
          >
            {outcomes.map((o) => (
              <option key={o} value={o}>
                {outcomeWords[o]}
              </option>
            ))}
          </Select>
        </label>
        <label className="grid grid-cols-[1fr_11rem] items-baseline gap-2 border-b border-rule py-1">
          Sound
          <input
            className="border border-rule bg-plate px-2 py-0.5"
            maxLength={200}
            value={shot.sound}
            onChange={(event) => onShot({ ...shot, sound: event.target.value })}
          />
        </label>
      </fieldset>
      <fieldset>
        <legend className="font-bold">Measured</legend>
        {measurable.map((id) => (
          <ValueField key={id} id={id} values={shot.measured} onValues={(measured) => onShot({ ...shot, measured })} />
        ))}
      </fieldset>
      <fieldset className="md:col-span-2">
        <legend className="font-bold">Air of the day</legend>
        <AirFields asAt={airAsAt} set={shot.set} onSet={(set) => onShot({ ...shot, set })} />
      </fieldset>
      <OwnQuantities
        own={shot.own}
        known={known}
        says="What this experiment is about and has no box above: laser energy in mJ, depth of a dent in mm."
        taken={measureNamed}
        onOwn={(own) => {
          onTrouble(own === null);
          if (own) onShot({ ...shot, own });
        }}
      />
      <label className="md:col-span-2">
        Remarks
        <textarea
          className="mt-1 h-16 w-full border border-rule bg-plate p-2"
          maxLength={4000}
          value={shot.remarks}
          onChange={(event) => onShot({ ...shot, remarks: event.target.value })}
        />
      </label>
    </div>
  );
}
