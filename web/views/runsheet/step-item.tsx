import type { ReactNode } from 'react';
import { TriangleAlert } from 'lucide-react';
import type { Rig } from '@vast-surge/core/rig';
import { whoWords, type Connections, type Step } from '@vast-surge/core/runsheet';
import { printDuration } from '@vast-surge/core/quantity';
import { WorkedNumber } from '../../ui/worked-number.tsx';

/** What a step says: what to do, who, what to expect, what has to be so before the next. `tools` stands beside it while it is edited. */
export function StepSays({ step, rig, tools }: { step: Step; rig: Rig; tools?: ReactNode }) {
  return (
    <div className="grid grid-cols-[2.2rem_minmax(0,1fr)_auto]">
      <span className="figure text-17 font-bold">{step.number}</span>
      <div>
        <p className="text-17 print:text-[11pt]">
          {step.text}{' '}
          <span className="text-13 whitespace-nowrap text-dim">
            {whoWords[step.who]}
            {step.isAdded && ', added'}, {printDuration(step.seconds)}
          </span>
        </p>
        {step.expect.length > 0 && (
          <ul className="mt-1 flex flex-wrap gap-x-8">
            {step.expect.map((e) => (
              <li key={e.label}>
                <span className="text-dim">{e.label}</span>{' '}
                <WorkedNumber
                  title={e.label}
                  printed={e.printed}
                  worked={e.worked}
                  rig={rig}
                  atWorst={e.use !== 'nominal'}
                  className="text-19 font-bold print:text-[12pt]"
                />
              </li>
            ))}
          </ul>
        )}
        {step.caution && (
          <p className="mt-1 flex items-start gap-2 font-bold">
            <TriangleAlert size={17} className="mt-0.5 shrink-0" aria-label="Caution" /> {step.caution}
          </p>
        )}
        {step.note && <p className="mt-1 border-l-4 border-select pl-2 whitespace-pre-line">{step.note}</p>}
        {(step.hold !== undefined || step.wait !== undefined || step.second) && (
          <p className="mt-1 flex items-start gap-2">
            <span aria-hidden className="mt-0.5 inline-block h-4 w-4 shrink-0 border-2 border-ink" />
            <span>
              <b>Hold</b> {step.hold ? <>until: {step.hold}</> : <>here.</>}
              {step.wait !== undefined && <> Not before {printDuration(step.wait)} have passed.</>}
              {step.second && <> Both answer.</>}
            </span>
          </p>
        )}
      </div>
      {tools}
    </div>
  );
}

/** What may be on the rig in a phase, and what must be off it. */
export function ConnectionList({ connections }: { connections: Connections | undefined }) {
  const { on = [], off = [] } = connections ?? {};
  if (on.length + off.length === 0) return null;
  return (
    <ul aria-label="Instruments" className="mb-1 text-14 print:text-[10pt]">
      {off.map((text) => (
        <li key={text}>
          <b>Must be off:</b> {text}
        </li>
      ))}
      {on.map((text) => (
        <li key={text} className="text-dim">
          Stays on: {text}
        </li>
      ))}
    </ul>
  );
}
