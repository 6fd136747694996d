import { useMemo, useRef } from 'react';
import { Printer } from 'lucide-react';
import type { Evaluation } from '@vast-surge/core/evaluation';
import { printDuration } from '@vast-surge/core/quantity';
import type { RigDocument } from '@vast-surge/core/rig';
import { phaseTitles, runSheetOf, whoWords } from '@vast-surge/core/runsheet';
import { Button } from '../../ui/button.tsx';
import { printPart } from '../../ui/print-part.ts';

/** Everything of the rig that holds charge, in the order in which it is taken down: for the door. */
export function RoomPlan({ document, evaluation }: { document: RigDocument; evaluation: Evaluation }) {
  const { name, sheet: edits } = document;
  const made = useMemo(() => runSheetOf(name, evaluation, edits), [name, evaluation, edits]);
  const part = useRef<HTMLElement>(null);
  if (!made.ok) return null;
  const steps = made.sheet.main.filter(({ phase }) => ['isolate', 'bleed', 'verify', 'strap', 'hand-over'].includes(phase));
  return (
    <section ref={part} aria-label="Discharge plan of the room" className="mt-6">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-17 font-bold">Discharge plan of the room, {name}</h2>
        <Button onClick={() => printPart(part.current)}>
          <Printer size={16} aria-hidden /> Print for the door
        </Button>
      </div>
      <ol className="mt-1 text-15">
        {steps.map((step, i) => (
          <li key={step.id} className="grid grid-cols-[2.2rem_minmax(0,1fr)] border-t border-rule py-1 break-inside-avoid">
            <b className="figure">{i + 1}</b>
            <span>
              <b>
                {phaseTitles[step.phase]}, {whoWords[step.who]}.
              </b>{' '}
              {step.text}{' '}
              {step.expect.map(({ label, printed }) => (
                <span key={label} className="mr-4 text-dim">
                  {label} <b className="figure text-ink">{printed}</b>
                </span>
              ))}
              <span className="text-dim">
                {printDuration(step.seconds)}
                {step.wait !== undefined && step.wait > 0 && `, then wait ${printDuration(step.wait)}`}
              </span>
              {step.hold && <span className="block text-14">Hold: {step.hold}</span>}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-1 text-14 text-dim">
        The steps of the run sheet from the supply off to the key: {steps.length} of them, about{' '}
        <b className="figure">{printDuration(steps.reduce((sum, { seconds, wait = 0 }) => sum + seconds + wait, 0))}</b> with
        hands and waits.
      </p>
    </section>
  );
}
