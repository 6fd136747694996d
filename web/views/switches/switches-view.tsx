import { useMemo, useState } from 'react';
import { evaluateRig, figureIn } from '@vast-surge/core/evaluation';
import { printQuantity, type UnitId } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import { compareSwitches, ownSwitch, usualStock } from '@vast-surge/core/study';
import { Ask, askedFor } from '../../ui/ask.tsx';
import { RigDesk } from '../rig-desk.tsx';
import { readTyped } from '../../ui/typed.ts';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);

/** What is asked: of the shot first, then of what is at hand, then what each costs. */
const fields = {
  rate: askedFor('Shots a second', 'Hz', 1e5, '0.02 Hz'),
  jitter: askedFor('Allowed jitter', 's', 1, '', { optional: true, help: 'Empty: it does not matter.' }),
  Vr: askedFor('Thyristor, voltage rating', 'V', 1e5, '1.6 kV'),
  Isurge: askedFor('Thyristor, surge current', 'A', 1e6, '1.5 kA'),
  action: askedFor('Thyristor, action rating (I²t)', 'A²s', 1e9, '11e3 A²s'),
  didt: askedFor('Thyristor, di/dt rating', 'A/s', 1e12, '150 A/µs'),
  leakage: askedFor('Thyristor, leakage spread', 'A', 1, '5 mA', { help: 'How much two of them may differ.' }),
  spread: askedFor('Turn-on spread', 's', 1e-3, '200 ns'),
  igbtV: askedFor('IGBT, voltage rating', 'V', 1e5, '1.2 kV'),
  igbtI: askedFor('IGBT, pulse current', 'A', 1e6, '600 A'),
  tubeV: askedFor('Tube, hold-off', 'V', 1e6, '20 kV'),
  tubeI: askedFor('Tube, peak current', 'A', 1e7, '30 kA'),
  tubeQ: askedFor('Tube, charge per shot', 'C', 1e5, '10 C'),
  derating: askedFor('Derating', '1', 1, '70 %'),
  own: askedFor('Cost of the one it has', '1', 1e9, '0', { open: false }),
  thyristor: askedFor('Cost of one thyristor', '1', 1e9, '0', { open: false }),
  gap: askedFor('Cost of a gap', '1', 1e9, '0', { open: false }),
  triggeredGap: askedFor('Cost of a triggered gap', '1', 1e9, '0', { open: false }),
  igbt: askedFor('Cost of one IGBT', '1', 1e9, '0', { open: false }),
  tube: askedFor('Cost of a tube', '1', 1e9, '0', { open: false }),
  contact: askedFor('Cost of a contact', '1', 1e9, '0', { open: false }),
} as const;
type Key = keyof typeof fields;
const keys = Object.keys(fields) as Key[];

function Comparison({ document }: { document: RigDocument }) {
  const [texts, setTexts] = useState<Readonly<Record<Key, string>>>(
    () => Object.fromEntries(keys.map((key) => [key, fields[key].initial ?? ''])) as Record<Key, string>,
  );
  const evaluation = useMemo(() => evaluateRig(document.rig), [document.rig]);
  const reads = Object.fromEntries(keys.map((key) => [key, readTyped(fields[key], texts[key])])) as Record<
    Key,
    ReturnType<typeof readTyped>
  >;
  const reasonOf = (key: Key) => {
    const read = reads[key];
    return read.ok ? null : read.reason;
  };
  // What cannot be read leaves the value that it began with.
  const value = (key: Key): number => {
    const read = reads[key];
    if (read.ok && read.value) return read.value.value;
    const first = readTyped(fields[key], fields[key].initial ?? '');
    return first.ok && first.value ? first.value.value : 0;
  };
  const [I, action] = (['peak-current', 'action-integral'] as const).map((of) => figureIn(evaluation, of)?.band.high);
  // The least inductance lets the current rise fastest.
  const L = figureIn(evaluation, 'loop-inductance')?.band.low;
  if (I === undefined || action === undefined || L === undefined)
    return (
      <p role="alert" className="border-l-4 border-over bg-plate p-4">
        {evaluation.problems.find((p) => p.severity === 'error')?.text ?? 'The shot of this rig cannot be worked out.'}
      </p>
    );
  const V = evaluation.corners.bandOf((reading) => reading.offer('chargedTo')).high;
  const jitter = reads.jitter.ok && reads.jitter.value ? reads.jitter.value.value : null;
  const Q = figureIn(evaluation, 'stored-charge')?.band.high ?? 0;
  const reversal = figureIn(evaluation, 'voltage-reversal')?.band.high ?? 0;
  const others = compareSwitches(
    { V, I, action, L, rate: value('rate'), Q: Q * (1 + reversal), rings: reversal > 0.05, jitter },
    {
      ...usualStock,
      Vr: value('Vr'),
      Isurge: value('Isurge'),
      action: value('action'),
      didt: value('didt'),
      leakage: value('leakage'),
      spread: value('spread'),
      derating: value('derating'),
      igbt: { V: value('igbtV'), I: value('igbtI') },
      tube: { V: value('tubeV'), I: value('tubeI'), Q: value('tubeQ') },
      cost: {
        own: value('own'),
        igbt: value('igbt'),
        tube: value('tube'),
        thyristor: value('thyristor'),
        gap: value('gap'),
        triggeredGap: value('triggeredGap'),
        contact: value('contact'),
      },
    },
    print,
  );
  const choices = [ownSwitch(evaluation, value('own'), jitter, print), ...others];
  return (
    <>
      <h1 className="text-20 font-bold">Switches for {document.name}</h1>
      <p className="mt-1 text-17">
        In the worst case it holds off <b className="figure">{print(V, 'V')}</b>, then carries{' '}
        <b className="figure">{print(I, 'A')}</b> and <b className="figure">{print(action, 'A²s')}</b>.
      </p>
      <div className="mt-3 grid gap-6 lg:grid-cols-[330px_minmax(0,1fr)]">
        <section aria-label="What the shot asks of a switch">
          {keys.map((key) => (
            <Ask
              key={key}
              field={fields[key]}
              text={texts[key]}
              reason={reasonOf(key)}
              onText={(text) => setTexts({ ...texts, [key]: text })}
            />
          ))}
          <p className="mt-1 text-13 text-dim">Costs in any currency. Left empty, the moment does not matter.</p>
        </section>
        <ul aria-label="Switches" className="min-w-0">
          {choices.map((choice) => (
            <li key={choice.id} className="border-t border-rule py-2">
              <p className="flex items-baseline justify-between gap-3">
                <b className="text-18">{choice.title}</b>
                <span className={choice.against.length === 0 ? 'font-bold' : 'font-bold text-over'}>
                  {choice.against.length === 0 ? 'suitable' : 'not suitable'}
                  {choice.cost > 0 && (
                    <span className="figure ml-3 text-ink">{printQuantity(choice.cost, '1', { trim: true })}</span>
                  )}
                </span>
              </p>
              {choice.against.map((reason) => (
                <p key={reason} className="text-over">
                  {reason}
                </p>
              ))}
              <p className="text-14 text-dim">{choice.needs.join('; ')}.</p>
            </li>
          ))}
        </ul>
      </div>
    </>
  );
}

/** Kinds of switch for the shot of a rig beside each other. */
export function SwitchesView() {
  return <RigDesk width="max-w-[1200px]">{(document) => <Comparison document={document} />}</RigDesk>;
}
