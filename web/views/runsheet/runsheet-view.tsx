import { useMemo } from 'react';
import { FileDown, Printer, TriangleAlert } from 'lucide-react';
import { Link, useParams } from 'react-router';
import { evaluateRig } from '@vast-surge/core/evaluation';
import type { Rig, RigDocument } from '@vast-surge/core/rig';
import { phaseTitles, runSheetMarkdown, runSheetOf, type Connections, type RunSheet, type Step } from '@vast-surge/core/runsheet';
import { useOpenRig } from '../../app/open-rig.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { download, fileName } from '../../ui/download.ts';

function StepItem({ step, rig }: { step: Step; rig: Rig }) {
  return (
    <li className="grid grid-cols-[2.2rem_minmax(0,1fr)] break-inside-avoid border-t border-rule py-2">
      <span className="figure text-[17px] font-bold">{step.number}</span>
      <div>
        <p className="text-[17px] print:text-[11pt]">{step.text}</p>
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
                  atWorst={e.use === 'high'}
                  className="text-[19px] font-bold print:text-[12pt]"
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
        {step.hold && (
          <p className="mt-1 flex items-start gap-2">
            <span aria-hidden className="mt-0.5 inline-block h-4 w-4 shrink-0 border-2 border-ink" />
            <span>
              <b>Hold</b> until: {step.hold}
            </span>
          </p>
        )}
      </div>
    </li>
  );
}

/** What may be on the rig in a phase, and what must be off it. */
function ConnectionList({ connections }: { connections: Connections | undefined }) {
  const { on = [], off = [] } = connections ?? {};
  if (on.length + off.length === 0) return null;
  return (
    <ul aria-label="Instruments" className="mb-1 text-[14.5px] print:text-[10pt]">
      {on.map((text) => (
        <li key={text} className="text-dim">
          May be connected: {text}
        </li>
      ))}
      {off.map((text) => (
        <li key={text}>
          <b>Off the rig:</b> {text}
        </li>
      ))}
    </ul>
  );
}

function phasesOf(steps: readonly Step[]): { phase: Step['phase']; steps: Step[] }[] {
  const groups: { phase: Step['phase']; steps: Step[] }[] = [];
  for (const step of steps) {
    const last = groups.at(-1);
    if (last?.phase === step.phase) last.steps.push(step);
    else groups.push({ phase: step.phase, steps: [step] });
  }
  return groups;
}

function Sheet({ sheet, rig }: { sheet: RunSheet; rig: Rig }) {
  return (
    <article className="mt-4 bg-plate p-5 print:m-0 print:p-0">
      <h1 className="text-2xl font-bold">Run sheet: {sheet.rigName}</h1>
      <ul className="mt-2 border-2 border-ink p-3 text-[16px] print:text-[11pt]">
        {sheet.summary.map((line, i) => (
          <li key={line} className={i === 0 ? 'text-[19px] font-bold print:text-[13pt]' : ''}>
            {line}
          </li>
        ))}
      </ul>
      {sheet.stops.length > 0 && (
        <section role="alert" className="mt-3 border-2 border-over p-3">
          <h2 className="font-bold">Do not run this rig as it stands</h2>
          <ul className="list-disc pl-5">
            {sheet.stops.map((stop) => (
              <li key={stop}>{stop}</li>
            ))}
          </ul>
        </section>
      )}
      <p className="mt-3 hidden print:block">
        Date ____________ &nbsp; Acts ____________________ &nbsp; Reads ____________________
      </p>
      {phasesOf(sheet.main).map(({ phase, steps }) => (
        <section key={phase} className="mt-4">
          <h2 className="break-after-avoid text-[17px] font-bold">{phaseTitles[phase]}</h2>
          <ConnectionList connections={sheet.connections[phase]} />
          <ol>
            {steps.map((step) => (
              <StepItem key={step.id} step={step} rig={rig} />
            ))}
          </ol>
        </section>
      ))}
      {sheet.branches.map((branch) => (
        <section key={branch.id} className="mt-5 border-l-4 border-ink pl-4">
          <h2 className="break-after-avoid text-[17px] font-bold">Branch: {branch.title}</h2>
          <p className="text-dim">{branch.when}</p>
          <ol>
            {branch.steps.map((step) => (
              <StepItem key={step.id} step={step} rig={rig} />
            ))}
          </ol>
        </section>
      ))}
      <ul className="mt-5 list-disc break-inside-avoid border-t-2 border-ink pt-2 pl-5">
        {sheet.cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
    </article>
  );
}

function RunSheetOf({ id, document }: { id: string; document: RigDocument }) {
  const made = useMemo(() => runSheetOf(document.name, evaluateRig(document.rig)), [document]);
  return (
    <main className="mx-auto w-full max-w-[1000px] p-5 print:max-w-none print:p-0">
      <div className="no-print flex flex-wrap items-center gap-3">
        <Link className="mr-auto text-select underline" to={`/rigs/${id}`}>
          Back to {document.name}
        </Link>
        {made.ok && (
          <>
            <Button
              onClick={() =>
                download(`${fileName(document.name)}-run-sheet.md`, runSheetMarkdown(made.sheet), 'text/markdown;charset=utf-8')
              }
            >
              <FileDown size={17} aria-hidden /> Save as Markdown
            </Button>
            <Button look="primary" onClick={() => window.print()}>
              <Printer size={17} aria-hidden /> Print
            </Button>
          </>
        )}
      </div>
      {made.ok ? (
        <Sheet sheet={made.sheet} rig={document.rig} />
      ) : (
        <div role="alert" className="mt-4 border-l-4 border-over bg-plate p-4">
          <h1 className="text-xl font-bold">No run sheet can be made of {document.name}</h1>
          <p className="mt-1">{made.reason}</p>
        </div>
      )}
    </main>
  );
}

export function RunSheetView() {
  const { id = '' } = useParams();
  // Edits that are still on their way to the server count: the sheet follows what the rig page shows.
  const { document, error, refetch } = useOpenRig(id);
  if (document) return <RunSheetOf id={id} document={document} />;
  if (error) return <Failure error={error} onRetry={refetch} />;
  return <p className="p-6 text-dim">Fetching the rig …</p>;
}
