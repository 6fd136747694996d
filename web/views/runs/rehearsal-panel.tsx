import { useMemo, useState } from 'react';
import type { StoredRun } from '@vast-surge/contract';
import { printQuantity } from '@vast-surge/core/quantity';
import {
  actGroups,
  actsOf,
  faultsOf,
  faultTitles,
  rehearsalActs,
  scoreOf,
  worldAt,
  type Rehearsal,
} from '@vast-surge/core/rehearsal';
import { Button } from '../../ui/button.tsx';
import { Drawer } from './drawer.tsx';
import { useNow, type Running } from './use-run.ts';
import { Select } from '../../ui/select.tsx';

function ReportFault({ run, can, onFault }: { run: StoredRun; can: boolean; onFault: (fault: string) => void }) {
  const [fault, setFault] = useState('');
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (fault === '') return;
        onFault(fault);
        setFault('');
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-2">
        Something is wrong:
        <Select className="flex-1" disabled={!can} value={fault} onChange={(event) => setFault(event.target.value)}>
          <option value="">say what …</option>
          {faultsOf(run.plan).map((id) => (
            <option key={id} value={id}>
              {faultTitles[id]}
            </option>
          ))}
        </Select>
      </label>
      <Button type="submit" disabled={!can || fault === ''}>
        Report fault
      </Button>
    </form>
  );
}

/** What the trainee does with their hands, what the rig answers, and what they think is wrong. */
export function RehearsalPanel({ run, rehearsal, running }: { run: StoredRun; rehearsal: Rehearsal; running: Running }) {
  const now = useNow(running.state.at === 'running');
  // Looked at once a second: the simulated rig is played from its beginning each time.
  const second = Math.floor((now + (running.isActing ? 0 : running.ahead)) / 1000) * 1000;
  const events = useMemo(() => [...running.events.map((e) => e.event), ...running.waiting], [running.events, running.waiting]);
  const world = useMemo(
    () => worldAt(run.plan, rehearsal, events, Math.max(second, running.state.lastAt)),
    [run.plan, rehearsal, events, second, running.state.lastAt],
  );
  const can = running.isActing;
  const count = actGroups.reduce((sum, title) => sum + actsOf(title, run.plan).length, 0);
  return (
    <Drawer title="What you do with your hands" says={`${count} actions`}>
      <div className="mt-1 grid gap-1">
        {actGroups.map((title) => (
          <div key={title} className="flex flex-wrap items-center gap-1.5">
            <span className="w-full text-13 text-dim">{title}</span>
            {actsOf(title, run.plan).map((act) => (
              <Button
                key={act}
                disabled={!can}
                className="!px-2 !py-1 max-lg:min-h-[44px] disabled:opacity-50"
                onClick={(event) => {
                  // The key of the step is not to press this button again.
                  event.currentTarget.blur();
                  running.act({ type: 'acted', act });
                }}
              >
                {rehearsalActs[act].title}
              </Button>
            ))}
          </div>
        ))}
      </div>
      <ol aria-label="What happens" aria-live="polite" className="mt-2 min-h-[4.5em] border-l-4 border-select pl-3 text-18">
        {world.happened.slice(-3).map((one, i, shown) => (
          <li key={`${one.at} ${one.text}`} className={i === shown.length - 1 ? 'font-bold' : 'text-dim'}>
            {one.isBad && <span className="text-over">! </span>}
            {one.text}
          </li>
        ))}
        {world.happened.length === 0 && <li className="text-dim">Nothing has happened yet. The strap is on.</li>}
      </ol>
      <ReportFault run={run} can={can} onFault={(fault) => running.act({ type: 'suspected', fault })} />
    </Drawer>
  );
}

/** What a rehearsal came to. */
export function ScoreCard({ run, rehearsal, running }: { run: StoredRun; rehearsal: Rehearsal; running: Running }) {
  const events = [...running.events.map((e) => e.event), ...running.waiting];
  const score = scoreOf(run.plan, rehearsal, events, running.state.lastAt);
  const noticed = score.faults.filter((f) => f.isNoticed).length;
  return (
    <section aria-label="Score" className="mt-3 max-w-[60rem]">
      <p className="text-30 font-bold">
        <span className="figure">{score.points}</span> of 100 · {noticed} of {score.faults.length} faults noticed
      </p>
      <p className={`text-20 ${score.joules > 0 ? 'font-bold text-over' : ''}`}>
        {score.touches.length === 0
          ? 'Nobody touched anything that was charged.'
          : `${printQuantity(score.joules, 'J')} went through somebody: ${score.touches
              .map((t) => `${t.who === 'trainee' ? 'you' : 'somebody else'}, ${printQuantity(t.volts, 'V')}`)
              .join('; ')}.`}
      </p>
      {score.faults.length > 0 && (
        <table className="mt-3 w-full text-left text-17">
          <thead className="text-14 text-dim">
            <tr>
              {['Fault', '', 'Symptom', 'Energy behind it, at most'].map((title) => (
                <th key={title} scope="col" className="py-1 pr-3 font-normal">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {score.faults.map((f) => (
              <tr key={f.fault} className="border-t border-rule align-top">
                <th scope="row" className="py-1 pr-3 font-bold">
                  {f.title}
                </th>
                <td className={`py-1 pr-3 whitespace-nowrap ${f.isNoticed ? '' : 'font-bold text-over'}`}>
                  {f.isNoticed ? '✓ noticed' : '✗ missed'}
                </td>
                <td className="py-1 pr-3">{f.how}</td>
                <td className="figure py-1">{printQuantity(f.joules, 'J')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {score.falseAlarms.length > 0 && (
        <p className="mt-2 text-17">Reported, not present: {score.falseAlarms.map((f) => faultTitles[f]).join('; ')}.</p>
      )}
    </section>
  );
}
