import type { StoredPart } from '@vast-surge/contract';
import {
  choiceOf,
  connectionsOf,
  connectionOf,
  dcLimits,
  elementsOf,
  type Connection,
  type DcLimit,
} from '@vast-surge/core/part';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { DeltaFigure } from './delta-figure.tsx';
import { editPart, short } from './words.tsx';

function School({ stored, limit }: { stored: StoredPart; limit: DcLimit }) {
  return (
    <li className="flex items-baseline gap-2 py-0.5">
      <input
        type="radio"
        name="school"
        id={`school-${limit.id}`}
        className="shrink-0"
        checked={limit.chosen}
        disabled={limit.limit === null}
        onChange={() => editPart(stored, 'fields.school', limit.id)}
      />
      <label htmlFor={`school-${limit.id}`} className="min-w-0 flex-1 leading-tight" title={limit.argument}>
        {limit.title}
        {limit.missing !== null && <span className="block text-13 text-dim">{limit.missing}</span>}
        {limit.chosen && <span className="block text-13 text-dim">{limit.argument}</span>}
      </label>
      {limit.limit && (
        <WorkedNumber
          title={`DC limit by ${limit.title}`}
          printed={short(limit.limit.value, 'V')}
          worked={limit.limit}
          rig={null}
          className={limit.chosen ? 'text-17 font-bold' : ''}
        />
      )}
    </li>
  );
}

const known = (id: string | null) => id !== null && ['ac-twice', 'test-peak'].includes(id);

type DcLimits = ReturnType<typeof dcLimits>;

function Notes({
  polarity,
  reverse,
  notes,
}: {
  polarity: DcLimits['polarity'];
  reverse: DcLimits['reverse'];
  notes: DcLimits['notes'];
}) {
  return (
    <ul className="mt-1 space-y-0.5 text-13 text-dim">
      {reverse && (
        <li>
          In reverse {short(reverse.value, 'V')}
          {polarity === 'polar' ? ': it is polar.' : ': it is not polar.'}
        </li>
      )}
      {notes.map((note) => (
        <li key={note}>{note}</li>
      ))}
      <li>
        Reversal and shot life count once the fields below give both the rating and the use: the swing is kept at the rated one,
        and voltage to its exponent times shots is kept constant.
      </li>
    </ul>
  );
}

/** What direct voltage a capacitor takes, by every school; the chosen one is the rating that banks and limits use. */
export function DcLimitPanel({ stored }: { stored: StoredPart }) {
  const { limits, chosen, polarity, reverse, notes } = dcLimits(stored.part);
  const connection = connectionOf(stored.part);
  const factor = connection?.voltageFactor ?? 1;
  const missing = limits.filter((limit) => limit.missing !== null && !limit.chosen);
  return (
    <>
      <p className="py-1">
        {chosen?.limit ? (
          <>
            DC limit <b className="figure text-22">{short(chosen.limit.value * factor, 'V')}</b>
            {factor !== 1 && ` as it is connected, ${short(chosen.limit.value, 'V')} for each element`}. Banks and limits use this
            value.
          </>
        ) : (
          <b>Its DC limit is not known: enter a rating from its label, or choose another method.</b>
        )}
      </p>
      <ul className="border-y border-rule py-1">
        {limits
          .filter((limit) => limit.missing === null || limit.chosen)
          .map((limit) => (
            <School key={limit.id} stored={stored} limit={limit} />
          ))}
        {missing.length > 0 && (
          <li className="py-0.5 text-13 text-dim">
            Other methods need an AC rating or a test voltage: {[...new Set(missing.map((l) => l.missing))].join('; ')}.
          </li>
        )}
      </ul>
      {known(chosen?.id ?? null) && (
        <p role="alert" className="mt-1 border-l-4 border-warning pl-2 text-14">
          ⚠ Above the default method. Watch for heating and ticking from behind a barrier, and keep the number of shots low.
        </p>
      )}
      <Notes polarity={polarity} reverse={reverse} notes={notes} />
    </>
  );
}

function UseRow({ stored, connection, limit }: { stored: StoredPart; connection: Connection; limit: number | null }) {
  const chosen = choiceOf(stored.part, 'use') === connection.id;
  return (
    <li className="border-b border-rule">
      <label className="flex items-center gap-3 py-1">
        <input
          type="radio"
          name="use"
          className="shrink-0"
          checked={chosen}
          onChange={() => editPart(stored, 'fields.use', connection.id)}
        />
        {connection.ends && <DeltaFigure ends={connection.ends} open={connection.open ?? []} />}
        <span className="min-w-0 flex-1 leading-tight">
          {connection.title}
          {connection.floatsAt != null && (
            <span className="block text-13 text-dim">
              ⚠ the open terminal floats at {Math.round(connection.floatsAt * 100)} % of the voltage: insulate it
            </span>
          )}
        </span>
        <span className="figure shrink-0 text-right whitespace-nowrap">
          <b className="block text-16">{short(connection.capacitance, 'F')}</b>
          {limit !== null && <span className="block text-13">{short(limit * connection.voltageFactor, 'V')}</span>}
        </span>
      </label>
    </li>
  );
}

/** Every useful way to connect the elements of a case, with what it makes of it. */
export function Connections({ stored }: { stored: StoredPart }) {
  const uses = connectionsOf(stored.part);
  if (elementsOf(stored.part) < 2) return null;
  const limit = dcLimits(stored.part).chosen?.limit?.value ?? null;
  if (uses.length === 0) return <p className="text-dim">Its capacitance is not known, so no connection can be worked out.</p>;
  return (
    <ul>
      {uses.map((connection) => (
        <UseRow key={connection.id} stored={stored} connection={connection} limit={limit} />
      ))}
    </ul>
  );
}
