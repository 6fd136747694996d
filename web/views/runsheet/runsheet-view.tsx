import { useMemo, useState } from 'react';
import { FileDown, PencilLine, Printer } from 'lucide-react';
import { evaluateRig } from '@vast-surge/core/evaluation';
import type { Rig, SheetEdits } from '@vast-surge/core/rig';
import {
  phaseTitles,
  runSheetMarkdown,
  runSheetOf,
  saysOf,
  sheetChanges,
  stepsIn,
  verdictTitles,
  type RunSheet,
  type Step,
  type Verdict,
} from '@vast-surge/core/runsheet';
import { inSI, printDuration, printQuantity } from '@vast-surge/core/quantity';
import { useGetRigQuery } from '../../app/api.ts';
import { useKeptEdits } from '../../app/session.ts';
import { sheetEdited } from '../../app/edits.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { GuardPlan, planOf } from '../guard/guard-plan.tsx';
import { useRigPage } from '../rig-shell/use-rig-page.ts';
import { BeginDialog } from '../runs/begin-dialog.tsx';
import { Answers, Waived } from './answers.tsx';
import { Changes } from './changes.tsx';
import { EditedPhase, type EditSheet } from './edited-phase.tsx';
import { ConnectionList, StepSays } from './step-item.tsx';
import { WayUp } from './way-up.tsx';
import { Select } from '../../ui/select.tsx';

function phasesOf(steps: readonly Step[]): { phase: Step['phase']; steps: Step[] }[] {
  const groups: { phase: Step['phase']; steps: Step[] }[] = [];
  for (const step of steps) {
    const last = groups.at(-1);
    if (last?.phase === step.phase) last.steps.push(step);
    else groups.push({ phase: step.phase, steps: [step] });
  }
  return groups;
}

interface SheetProps {
  readonly sheet: RunSheet;
  readonly rig: Rig;
  readonly edits: SheetEdits;
  /** Null while the sheet is only read. */
  readonly onEdit: EditSheet | null;
}

function Steps({
  phase,
  steps,
  rig,
  edits,
  onEdit,
}: Omit<SheetProps, 'sheet'> & { phase: Step['phase']; steps: readonly Step[] }) {
  if (onEdit)
    return <EditedPhase phase={phase} title={phaseTitles[phase]} steps={steps} rig={rig} edits={edits} onEdit={onEdit} />;
  return (
    <ol>
      {steps.map((step) => (
        <li key={step.id} className="break-inside-avoid border-t border-rule py-2">
          <StepSays step={step} rig={rig} />
        </li>
      ))}
    </ol>
  );
}

/** What heads the sheet: how far one may go by calculation, or why not, and what would turn it. */
function VerdictLine({ verdict }: { verdict: Verdict }) {
  const isGo = verdict.word === 'go at most';
  return (
    <section aria-label="Verdict of this sheet" className={`mt-2 border-2 p-3 ${isGo ? 'border-ink' : 'border-over'}`}>
      <p className="text-20 font-bold print:text-[13pt]">
        {verdictTitles[verdict.word]} {isGo ? `${verdict.upTo ?? ''}, ${verdict.because}.` : <>because: {verdict.because}</>}
      </p>
      {verdict.turn !== null && (
        <p className="mt-1">
          <b>What would turn it:</b> {verdict.turn}
        </p>
      )}
      <p className="text-14 text-dim">By calculation: it says nothing about what was actually built.</p>
    </section>
  );
}

/** What the time of people makes of the shot, what would mend it, and what cannot be carried out at all. */
function ShotLines({ sheet: { shot, cannot } }: { sheet: RunSheet }) {
  const [, ...others] = cannot;
  return (
    <>
      {others.length > 0 && (
        <section role="alert" className="mt-3 border-2 border-over p-3">
          <h2 className="font-bold">Nobody can carry this sheet out as it stands, also because</h2>
          <ul className="list-disc pl-5">
            {others.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ul>
        </section>
      )}
      {shot.mends.length > 0 && (
        <section className="mt-3 border-l-4 border-ink pl-3">
          <h2 className="font-bold">
            What human time costs: {printDuration(shot.needed)} from supply off to the shot, {printQuantity(shot.high, 'V')} falls
            to {printQuantity(shot.expected, 'V')}
          </h2>
          <ul className="list-disc pl-5">
            {shot.mends.map((mend) => (
              <li key={mend}>{mend}</li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** What to do when somebody was shocked, or it burns; the number to call is filled in while the sheet is edited. */
function EmergencyCards({ sheet, edits, onEdit }: Omit<SheetProps, 'rig'>) {
  return (
    <section aria-label="Emergency cards" className="mt-5 grid gap-3 sm:grid-cols-2 print:grid-cols-2">
      {sheet.emergency.map((card) => (
        <div key={card.title} className="break-inside-avoid border-2 border-ink p-3">
          <h2 className="text-17 font-bold">{card.title}</h2>
          <ol className="list-decimal pl-5">
            {card.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </div>
      ))}
      {onEdit && (
        <label className="flex flex-wrap items-center gap-2 sm:col-span-2">
          Whom to call
          <input
            className="border border-rule bg-plate px-2 py-1"
            maxLength={60}
            placeholder="number and place"
            value={edits.call}
            onChange={(event) => onEdit({ ...edits, call: event.target.value }, 'call')}
          />
        </label>
      )}
    </section>
  );
}

/** Rig, guard and people from above, where a guard is entered. */
function Plan({ rig, name }: { rig: Rig; name: string }) {
  const plan = useMemo(() => planOf(evaluateRig(rig)), [rig]);
  if (!plan) return null;
  return (
    <section className="mt-5 break-inside-avoid">
      <h2 className="text-17 font-bold">Guard and people, to scale</h2>
      <GuardPlan plan={plan} name={name} />
    </section>
  );
}

function Stops({ stops }: { stops: readonly string[] }) {
  return (
    <section role="alert" className="mt-3 border-2 border-over p-3">
      <h2 className="font-bold">Do not run this rig as it stands</h2>
      <ul className="list-disc pl-5">
        {stops.map((stop) => (
          <li key={stop}>{stop}</li>
        ))}
      </ul>
    </section>
  );
}

function Sheet({ sheet, rigId, onAnswer, ...rest }: SheetProps & { rigId: string; onAnswer: EditSheet }) {
  return (
    <article className="mt-4 bg-plate p-5 print:m-0 print:p-0">
      <h1 className="text-2xl font-bold">Run sheet: {sheet.rigName}</h1>
      <VerdictLine verdict={sheet.verdict} />
      <ul className="mt-2 border-2 border-ink p-3 text-16 print:text-[11pt]">
        {sheet.summary.map((line, i) => (
          <li key={line} className={i === 0 ? 'text-19 font-bold print:text-[13pt]' : ''}>
            {line}
          </li>
        ))}
      </ul>
      {sheet.stops.length > 0 && <Stops stops={sheet.stops} />}
      <Answers rigId={rigId} sheet={sheet} edits={rest.edits} onEdit={onAnswer} />
      <Waived sheet={sheet} edits={rest.edits} onEdit={rest.onEdit} />
      <ShotLines sheet={sheet} />
      <p className="mt-3 hidden print:block">
        Date ____________ &nbsp; Key holder ____________________
        {sheet.people === 'two' && <> &nbsp; Reader ____________________</>}
      </p>
      {phasesOf(sheet.main).map(({ phase, steps }) => (
        <section key={phase} className="mt-4">
          <h2 className="break-after-avoid text-17 font-bold">{phaseTitles[phase]}</h2>
          <ConnectionList connections={sheet.connections[phase]} />
          <Steps phase={phase} steps={steps} {...rest} />
        </section>
      ))}
      <WayUp rungs={sheet.commissioning} />
      {sheet.branches.map((branch) => (
        <section key={branch.id} className="mt-5 border-l-4 border-ink pl-4">
          <h2 className="break-after-avoid text-17 font-bold">Branch: {branch.title}</h2>
          <p className="text-dim">{branch.when}</p>
          <Steps phase={branch.id} steps={branch.steps} {...rest} />
        </section>
      ))}
      <Plan rig={rest.rig} name={sheet.rigName} />
      <EmergencyCards sheet={sheet} edits={rest.edits} onEdit={rest.onEdit} />
      <ul className="mt-5 list-disc break-inside-avoid border-t-2 border-ink pt-2 pl-5">
        {sheet.cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
    </article>
  );
}

const peopleWords = { two: 'Two: key holder and reader', one: 'One person alone' } as const;

function PeopleChoice({ edits, onEdit }: { edits: SheetEdits; onEdit: EditSheet }) {
  return (
    <label className="flex items-center gap-2">
      Run by
      <Select
        fit="tall"
        value={edits.people}
        onChange={(event) => onEdit({ ...edits, people: event.target.value === 'one' ? 'one' : 'two' })}
      >
        {Object.entries(peopleWords).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </Select>
    </label>
  );
}

const paces = [5, 10, 15, 20, 30, 60] as const;

/** How fast these people are: the voltage at the shot follows from it. */
function PaceChoice({ edits, onEdit }: { edits: SheetEdits; onEdit: EditSheet }) {
  const own = edits.pace !== null && !(paces as readonly number[]).includes(edits.pace) ? [edits.pace] : [];
  return (
    <label className="flex items-center gap-2">
      An act takes
      <Select
        fit="tall"
        value={edits.pace ?? ''}
        onChange={(event) => onEdit({ ...edits, pace: event.target.value === '' ? null : Number(event.target.value) })}
      >
        <option value="">what is usual</option>
        {[...own, ...paces].map((seconds) => (
          <option key={seconds} value={seconds}>
            {seconds} s
          </option>
        ))}
      </Select>
    </label>
  );
}

/** The procedure of a rig. Edits that are still on their way to the server count: the sheet follows what the rig page shows. */
export function RunSheetView() {
  const { id, document } = useRigPage();
  const dispatch = useAppDispatch();
  const [editing, setEditing] = useState(false);
  const [beginning, setBeginning] = useState(false);
  const fetched = useGetRigQuery(id).data ?? null;
  // What was just sent is the version of the server before the list of rigs has heard of it.
  const sent = useAppSelector((s) => (s.editor.id === id ? s.editor.base : null));
  const base = sent && fetched && sent.version > fetched.version ? sent : fetched;
  const isUnsaved = useKeptEdits().some((edit) => edit.rigId === id);
  const { sheet: edits } = document;
  const evaluation = useMemo(() => evaluateRig(document.rig), [document.rig]);
  const made = useMemo(() => runSheetOf(document.name, evaluation, edits), [document.name, evaluation, edits]);
  const all = made.ok ? stepsIn(made.sheet) : [];
  const steps = all.filter((step) => !step.isAdded);
  const seen = Object.fromEntries(steps.map((step) => [step.id, saysOf(step)]));
  const onEdit: EditSheet = (sheet, burst) => dispatch(sheetEdited(burst === undefined ? { sheet } : { sheet, burst }));
  // What a person edits is compared with from then on; what the rig does afterwards is shown as a change.
  const onEditSeen: EditSheet = (sheet, burst) => onEdit(sheet.seen === null ? { ...sheet, seen } : sheet, burst);
  const changes = made.ok ? sheetChanges(all, edits) : [];
  return (
    <main className="mx-auto w-full max-w-[1000px] p-5 print:max-w-none print:p-0">
      <div className="no-print flex flex-wrap items-center gap-3">
        {made.ok && (
          <>
            {base !== null && (
              <Button look="primary" disabled={isUnsaved} className="disabled:opacity-50" onClick={() => setBeginning(true)}>
                Run or rehearse
              </Button>
            )}
            <PeopleChoice edits={edits} onEdit={onEditSeen} />
            <PaceChoice edits={edits} onEdit={onEditSeen} />
            <Button aria-pressed={editing} onClick={() => setEditing(!editing)}>
              <PencilLine size={17} aria-hidden /> {editing ? 'Done editing' : 'Edit'}
            </Button>
            <Button
              onClick={() =>
                download(
                  `${fileName(document.name)}-run-sheet.md`,
                  inSI(() => {
                    const forOthers = runSheetOf(document.name, evaluateRig(document.rig), edits);
                    return runSheetMarkdown(forOthers.ok ? forOthers.sheet : made.sheet);
                  }),
                  'text/markdown;charset=utf-8',
                )
              }
            >
              <FileDown size={17} aria-hidden /> Markdown
            </Button>
            <Button onClick={() => window.print()}>
              <Printer size={17} aria-hidden /> Print
            </Button>
          </>
        )}
      </div>
      {beginning && base && (
        <BeginDialog rigId={id} version={base.version} document={document} onClose={() => setBeginning(false)} />
      )}
      {changes.length > 0 && <Changes changes={changes} onSeen={() => onEdit({ ...edits, seen })} />}
      {made.ok ? (
        <Sheet
          rigId={id}
          sheet={made.sheet}
          rig={document.rig}
          edits={edits}
          onEdit={editing ? onEditSeen : null}
          onAnswer={onEdit}
        />
      ) : (
        <div role="alert" className="mt-4 border-l-4 border-over bg-plate p-4">
          <h1 className="text-xl font-bold">No run sheet can be made of {document.name}</h1>
          <p className="mt-1">{made.reason}</p>
        </div>
      )}
    </main>
  );
}
