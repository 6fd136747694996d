import { useMemo, useState } from 'react';
import { Unavailable } from '@vast-surge/core/block';
import { evaluateRig, type Evaluation } from '@vast-surge/core/evaluation';
import { FormulaError } from '@vast-surge/core/formula';
import { printDuration, printQuantity, type UnitId } from '@vast-surge/core/quantity';
import type { Rig, RigDocument } from '@vast-surge/core/rig';
import { phaseTitles, runSheetOf, type Step } from '@vast-surge/core/runsheet';
import { bleedStudy, type BleedStudy, type RuleAnswer } from '@vast-surge/core/study';
import { Chart } from '../../plot/chart.tsx';
import { saveDrawing, tracesCsv } from '../../plot/export.ts';
import { StickCard } from './stick-card.tsx';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { WorkedNumber } from '../../ui/worked-number.tsx';
import { RigDesk } from '../rig-desk.tsx';
import { bleedWaysPlot } from '../rig/plots.ts';
import { schools } from './schools.ts';
import { ToolDrawing } from './tool-drawing.tsx';
import { Select } from '../../ui/select.tsx';

const print = (value: number, unit: UnitId) => printQuantity(value, unit);

/** The study, or the reason why there is none. */
function studyOf(rig: Rig): { study: BleedStudy | null; reason: string | null } {
  try {
    return { study: bleedStudy(rig, print), reason: null };
  } catch (error) {
    if (error instanceof Unavailable || error instanceof FormulaError) return { study: null, reason: error.message };
    throw error;
  }
}

function Ways({ study, evaluation }: { study: BleedStudy; evaluation: Evaluation }) {
  return (
    <table className="w-full text-16 [&_td]:pl-3 [&_td]:whitespace-nowrap">
      <caption className="text-left font-bold">Calculated below {study.goal.text} after</caption>
      <thead>
        <tr className="text-14 text-dim">
          <td />
          <th scope="col" className="text-right font-normal">
            nominal
          </th>
          <th scope="col" className="text-right font-normal">
            worst case
          </th>
        </tr>
      </thead>
      <tbody>
        {study.ways.map(({ id, title, worked, nominal, worst }) => (
          <tr key={id} className="border-t border-rule">
            <th scope="row" className="text-left font-normal">
              {title}
            </th>
            <td className="figure text-right">
              <WorkedNumber title={title} printed={printDuration(nominal)} worked={worked} rig={evaluation.rig} />
            </td>
            <td className="figure text-right font-bold">
              <WorkedNumber title={title} printed={printDuration(worst)} worked={worked} rig={evaluation.rig} atWorst />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Rules({ rules }: { rules: readonly RuleAnswer[] }) {
  const [chosen, setChosen] = useState(rules[0]?.rule.id);
  const answer = rules.find(({ rule }) => rule.id === chosen) ?? rules[0];
  if (!answer) return null;
  const { rule, nominal, worst, isMet } = answer;
  return (
    <section aria-label="Published rules" className="mt-4">
      <h2 className="font-bold">Check against a published rule</h2>
      <Select className="mt-1 w-full" aria-label="Rule" value={rule.id} onChange={(event) => setChosen(event.target.value)}>
        {rules.map(({ rule: { id, title } }) => (
          <option key={id} value={id}>
            {title}
          </option>
        ))}
      </Select>
      <p role="status" className={`mt-1 border-l-4 bg-plate p-2 ${isMet ? 'border-rule' : 'border-warning'}`}>
        {nominal === null || worst === null
          ? 'There is no permanent bleeder: the rule is not met.'
          : `Through the bleeder it takes ${printDuration(nominal)}, worst case ${printDuration(worst)}, to ${print(rule.voltage, 'V')}; the rule allows ${printDuration(rule.within)}: ${isMet ? 'met' : 'not met'}.`}
      </p>
      <p className="mt-1 text-13 text-dim">
        {rule.source}; from memory. Why: {rule.reason}.
      </p>
    </section>
  );
}

function Rebound({ study }: { study: BleedStudy }) {
  // That of this store, where it says which; of one that does not, the one that gives back the most.
  const own = study.rebounds.find((one) => one.id === study.dielectric)?.id;
  const [chosen, setId] = useState<string | null>(null);
  const id = chosen ?? own ?? 'electrolytic';
  const rebound = study.rebounds.find((one) => one.id === id);
  if (!rebound) return null;
  return (
    <section aria-label="Recovery voltage" className="mt-4">
      <h2 className="font-bold">Recovery voltage after a discharge</h2>
      <label className="mt-1 flex items-center gap-2">
        Dielectric
        <Select value={id} onChange={(event) => setId(event.target.value)}>
          {study.rebounds.map(({ id: value, title }) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
        </Select>
      </label>
      <p className="mt-1">
        From {print(study.highest, 'V')} about{' '}
        <b className="figure text-19">
          {print(rebound.low, 'V')} to {print(rebound.high, 'V')}
        </b>{' '}
        can recover within minutes once the stick is off.{' '}
        {rebound.high > study.goal.voltage ? `That is above ${study.goal.text}: ` : 'More after a long time at voltage: '}the
        strap stays on.
      </p>
      <p className="text-13 text-dim">Typical ranges as makers state them; from memory.</p>
    </section>
  );
}

function HeldElsewhere({ study, evaluation }: { study: BleedStudy; evaluation: Evaluation }) {
  if (study.held.length === 0) return null;
  return (
    <section aria-label="Charge that the terminals do not show" className="mt-5">
      <h2 className="font-bold">Charge that the terminals do not show</h2>
      <ul className="text-15">
        {study.held.map(({ title, V, worst, goal: goalOf, through, time, then }) => (
          <li key={title} className="border-t border-rule py-1.5">
            {title}: up to{' '}
            <b className="figure text-19">
              <WorkedNumber title={title} printed={printQuantity(worst, 'V')} worked={V} rig={evaluation.rig} atWorst />
            </b>
            , discharged by {through}
            {time && (
              <>
                : below {printQuantity(goalOf, 'V', { trim: true })} only after{' '}
                <b className="figure">
                  <WorkedNumber
                    title={title}
                    printed={printDuration(time.worst)}
                    worked={time.worked}
                    rig={evaluation.rig}
                    atWorst
                  />
                </b>{' '}
                worst case
              </>
            )}
            . {then}
          </li>
        ))}
      </ul>
    </section>
  );
}

function StepList({ steps }: { steps: readonly Step[] }) {
  return (
    <section aria-label="What is left, and where" className="mt-5">
      <h2 className="font-bold">What is left, and where: the steps of the run sheet</h2>
      <ol className="text-15">
        {steps.map((step) => (
          <li key={step.id} className="border-t border-rule py-1">
            <b>{phaseTitles[step.phase]}.</b> {step.text}{' '}
            {step.expect.map(({ label, printed }) => (
              <span key={label} className="mr-4 text-dim">
                {label} <b className="figure text-ink">{printed}</b>
              </span>
            ))}
          </li>
        ))}
      </ol>
    </section>
  );
}

function stepsOf(name: string, evaluation: Evaluation): readonly Step[] {
  const made = runSheetOf(name, evaluation);
  return made.ok ? made.sheet.main.filter(({ phase }) => phase === 'bleed' || phase === 'verify' || phase === 'strap') : [];
}

function Desk({ document }: { document: RigDocument }) {
  const { rig } = document;
  const { study, reason } = useMemo(() => studyOf(rig), [rig]);
  const evaluation = useMemo(() => evaluateRig(rig), [rig]);
  const steps = useMemo(() => stepsOf(document.name, evaluation), [evaluation, document.name]);
  const spec = useMemo(() => (study ? bleedWaysPlot(evaluation) : null), [study, evaluation]);
  const name = `${fileName(document.name)}-bleed`;
  const bleeder = study?.ways.find((way) => way.id === 'bleeder');
  const tool = study?.ways.find((way) => way.id === 'tool');
  return (
    <>
      <h1 className="text-20 font-bold">Bleed-down: {document.name}</h1>
      {reason !== null && (
        <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-3">
          It cannot be worked out: {reason}. Treat it as charged.
        </p>
      )}
      {study && spec && (
        <div className="mt-2 grid grid-cols-1 gap-6 lg:grid-cols-[minmax(0,1fr)_430px]">
          <div className="min-w-0">
            <p className="text-18">
              {bleeder ? (
                <>
                  Below {study.goal.text} after <b className="figure text-30">{printDuration(bleeder.worst)}</b> worst case
                </>
              ) : (
                <b>No permanent bleeder</b>
              )}
              {tool && (
                <>
                  ; with the stick and the bleeder open after <b className="figure">{printDuration(tool.worst)}</b>
                </>
              )}
              . Verify with a meter for more than <b className="figure">{print(study.highest, 'V')}</b>.
            </p>
            <div className="h-[270px]">
              <Chart spec={spec} label="voltage of the store over time, by each way" />
            </div>
            <p className="mb-1 flex flex-wrap gap-x-5 text-14">
              {spec.traces.map(({ trace, ink, dash }) => (
                <span key={trace.id} className="flex items-center gap-2">
                  <svg aria-hidden width={22} height={4}>
                    <path d="M0 2h22" stroke={`var(--${ink})`} strokeWidth={3} strokeDasharray={dash ? '6 3' : undefined} />
                  </svg>
                  {trace.title}
                </span>
              ))}
            </p>
            <p className="mb-1 text-14 text-dim">
              {spec.traces.some(({ trace }) => trace.id === 'worst')
                ? 'Nominal values, except the worst-case curve of the bleeder; '
                : 'Nominal values; '}
              wait for the worst case of each way, given in the table.
            </p>
            <Button onClick={() => download(`${name}.csv`, tracesCsv(study.traces))}>CSV</Button>
            <HeldElsewhere study={study} evaluation={evaluation} />
            <StepList steps={steps} />
          </div>
          <div className="self-start">
            <Ways study={study} evaluation={evaluation} />
            <Rules rules={study.rules} />
            <Rebound study={study} />
            <StickCard rig={rig} />
            <section aria-label="Build card" className="mt-4 border border-ink bg-plate p-3">
              <h2 className="font-bold">Build card: discharge stick of {document.name}</h2>
              <ToolDrawing wiring={study.tool} />
              {study.card.map((line) => (
                <p key={line} className="border-t border-rule py-0.5 text-14">
                  {line}
                </p>
              ))}
              <div className="mt-2">
                <Button onClick={() => saveDrawing('discharge-tool', `${fileName(document.name)}-tool`)}>Drawing as SVG</Button>
              </div>
            </section>
          </div>
        </div>
      )}
      <section aria-label="Schools of practice" className="mt-6">
        <h2 className="font-bold">Where practice differs</h2>
        <div className="mt-1 grid gap-x-8 gap-y-3 md:grid-cols-2">
          {schools.map(({ question, ways, ours, why }) => (
            <div key={question} className="border-t border-rule pt-1 text-15">
              <b>{question}:</b> {ways.join('; ')}. <b>Here: {ours}.</b> {why}
            </div>
          ))}
        </div>
        <p className="mt-2 text-14 text-dim">
          Calculated from what was entered; it protects nobody. Local codes and licensed practice come first.
        </p>
      </section>
    </>
  );
}

/** All that takes the charge off a rig: how long, by what rule, the recovery voltage, and the tool as it is built. */
export function BleedView() {
  return <RigDesk width="max-w-[1500px]">{(document) => <Desk document={document} />}</RigDesk>;
}
