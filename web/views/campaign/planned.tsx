import Papa from 'papaparse';
import { CalendarDays, FileDown, Printer } from 'lucide-react';
import {
  coolingWords,
  planCalendar,
  planMarkdown,
  planRows,
  planTimes,
  settingsNamed,
  settingTold,
  settingWords,
  stockWords,
  type CampaignPlan,
  type Series,
} from '@vast-surge/core/campaign';
import { printDuration, printPercent } from '@vast-surge/core/quantity';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { KeepForm } from './keep-form.tsx';
import { moments } from './moments.ts';

function Sessions({ plan }: { plan: CampaignPlan }) {
  return plan.schedule.sessions.map(({ session, shots, free }, i) => (
    <section key={session.start + i} aria-label={`Session ${i + 1}`} className="mt-4">
      <h3 className="text-17 font-bold">
        Session {i + 1}: {moments.day(session.start)}, {printDuration(session.seconds)}
      </h3>
      <p className="text-14 text-dim">
        {session.people ? `${session.people}. ` : ''}Prepare {printDuration(plan.before)}, hand over {printDuration(plan.after)},{' '}
        {free < 60 ? 'full' : `${printDuration(free)} free`}.
      </p>
      <div className="overflow-x-auto">
        <table className="mt-1 w-full max-w-[46rem] text-15">
          <thead>
            <tr className="text-left text-13 text-dim">
              <th scope="col" className="pr-4 font-normal">
                Strap off
              </th>
              <th scope="col" className="pr-4 font-normal">
                Shot
              </th>
              <th scope="col" className="pr-4 font-normal">
                Set
              </th>
              <th scope="col" className="font-normal">
                Calculated
              </th>
            </tr>
          </thead>
          <tbody>
            {shots.map(({ of, start, changes }, k) => (
              <tr key={start} className="border-t border-rule">
                <td className="figure py-0.5 pr-4">{moments.hour(start)}</td>
                <td className="figure pr-4">{k + 1}</td>
                <td className={`pr-4 ${changes || k === 0 ? 'font-bold' : ''}`}>{settingWords(of)}</td>
                <td className="figure">{settingTold(of)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  ));
}

/** What the shots take of each stock, and where it does not last. */
function Stocks({ plan }: { plan: CampaignPlan }) {
  if (plan.stocks.length === 0) return null;
  return (
    <ul aria-label="What the shots use up" className="mt-1">
      {plan.stocks.map((one) => (
        <li key={one.stock.id} className={one.lastsFor < plan.shots ? 'border-l-4 border-warning pl-2 font-bold' : ''}>
          {stockWords(one, plan.shots)}
        </li>
      ))}
    </ul>
  );
}

/** What a plan comes to: what fits, what it uses up, session by session. */
export function Planned({ id, name, series, plan }: { id: string; name: string; series: Series; plan: CampaignPlan }) {
  const { schedule, shots, settings, life } = plan;
  const dropped = schedule.dropped.length;
  const last = schedule.sessions.flatMap((one) => one.shots).at(-1);
  const cooling = coolingWords(plan);
  const file = `${fileName(name)}-campaign`;
  return (
    <>
      <p className="text-18">
        <b className="figure text-30">{shots}</b> {shots === 1 ? 'shot' : 'shots'} at {settings.length}{' '}
        {settings.length === 1 ? 'setting' : 'settings'}
        {dropped === 0 && last ? <>: all of them fit, the last is strapped at {moments.hour(last.end)}.</> : '.'}
      </p>
      {dropped > 0 && (
        <p role="alert" className="mt-1 border-l-4 border-warning pl-2">
          <b>
            {dropped} of {shots} shots do not fit
          </b>
          , the last of the order: {settingsNamed(schedule.dropped)}. Add a session, or take fewer.
        </p>
      )}
      {life !== null && <p className="mt-1">Life of the capacitors used up by it: {printPercent(life, 2)}.</p>}
      <Stocks plan={plan} />
      {cooling !== null && <p className="mt-1">{cooling}</p>}
      {series.design === 'next-best' && (
        <p className="mt-1">
          The corners and the middle come first. From then on the page says before each shot where one teaches the most, by what
          was read: this order is the one for a campaign that has read nothing yet.
        </p>
      )}
      <KeepForm rigId={id} series={series} plan={plan} />
      <p className="no-print mt-4 flex flex-wrap gap-2">
        <Button onClick={() => download(`${file}.ics`, planCalendar(name, plan, moments), 'text/calendar;charset=utf-8')}>
          <CalendarDays size={16} aria-hidden /> Calendar
        </Button>
        <Button onClick={() => download(`${file}.csv`, Papa.unparse(planRows(plan), { newline: '\n', escapeFormulae: true }))}>
          <FileDown size={16} aria-hidden /> CSV
        </Button>
        <Button onClick={() => download(`${file}.md`, planMarkdown(name, plan, moments))}>
          <FileDown size={16} aria-hidden /> Markdown
        </Button>
        <Button onClick={() => window.print()}>
          <Printer size={16} aria-hidden /> Print
        </Button>
      </p>
      <Sessions plan={plan} />
      <p className="mt-4 text-14 text-dim">{planTimes}</p>
    </>
  );
}
