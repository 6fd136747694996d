import { useState } from 'react';
import { Popover } from 'radix-ui';
import { TriangleAlert } from 'lucide-react';
import { channelOf, channelTitle } from '@vast-surge/core/rig';
import { bleedGoal, highestVoltage } from '@vast-surge/core/block';
import { figureIn, leadsHazard, type Evaluation } from '@vast-surge/core/evaluation';
import { wordFinding, type Hazard } from '@vast-surge/core/hazard';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';

/** ISO 3864 warning sign: a triangle with a flash of electricity. */
function ElectricSign() {
  return (
    <svg width="34" height="30" viewBox="0 0 34 30" role="img" aria-label="Warning: electricity" className="shrink-0">
      <path d="M17 1.5L32.5 28.5H1.5z" fill="none" stroke="currentColor" strokeWidth="2.4" strokeLinejoin="round" />
      <path d="M19.5 9l-6.5 9h4l-2.5 7.5l7.5 -10h-4.2z" fill="currentColor" />
    </svg>
  );
}

function Reasons({ hazard }: { hazard: Hazard }) {
  return (
    <Popover.Portal>
      <Popover.Content align="start" sideOffset={6} className="z-50 w-[min(40rem,94vw)] border border-ink bg-plate p-4 text-ink">
        <p className="font-bold">Hazard class, by published thresholds, at the worst corner of the tolerances</p>
        <ul className="mt-2 space-y-1">
          {hazard.findings.map((finding) => (
            <li key={finding.rule.id} className="border-t border-rule pt-1">
              <span className="font-bold">{finding.exceeded ? 'above' : 'below'}</span> · {wordFinding(finding)}
              <span className="block text-[13px] text-dim">{finding.rule.source}; from memory, check the current edition</span>
            </li>
          ))}
        </ul>
        <p className="mt-3 text-[13px]">
          This program informs and protects nobody. Local codes and licensed practice come first.
        </p>
      </Popover.Content>
    </Popover.Portal>
  );
}

/** The documents whose thresholds are exceeded, named short. */
const sourcesOf = (hazard: Hazard): string =>
  [...new Set(hazard.findings.filter((f) => f.exceeded).map((f) => f.rule.source.split(/[,(]/)[0]?.trim() ?? ''))].join(', ');

const duration = (seconds: number) => (Number.isFinite(seconds) ? printDuration(seconds) : 'never');

interface Props {
  readonly evaluation: Evaluation;
  readonly onTouch: (focus: string) => void;
}

function BleedWords({ evaluation, onTouch }: Props) {
  const goal = bleedGoal(evaluation.corners.nominal());
  const bleeder = figureIn(evaluation, 'bleed-time');
  const open = figureIn(evaluation, 'bleed-time-open');
  const { rig } = evaluation;
  // Each stage has a bleeder of its own: whose time it is is said.
  const ofStage = rig.channels.length > 1 ? `${channelTitle(rig, channelOf(rig))}: ` : '';
  return (
    <>
      {bleeder ? (
        <button type="button" className="min-h-6 px-2.5 text-left" onClick={() => onTouch('figure:bleed-time')}>
          {ofStage}Calculated below {goal.text} after <b className="figure">{duration(bleeder.worked.value)}</b>, at worst{' '}
          <b className="figure">{duration(bleeder.band.high)}</b>
        </button>
      ) : (
        <span className="px-3 font-bold">No bleeder</span>
      )}
      {open && (
        <button type="button" className="min-h-6 px-2.5 text-left" onClick={() => onTouch('figure:bleed-time-open')}>
          Bleeder open: <b className="figure">{duration(open.worked.value)}</b> to{' '}
          <b className="figure">{duration(open.band.high)}</b>
        </button>
      )}
    </>
  );
}

/** What this rig can do to a person, before all else. */
export function HazardStrip({ evaluation, onTouch }: Props) {
  const [open, setOpen] = useState(false);
  const energy = figureIn(evaluation, 'stored-energy');
  const { hazard } = evaluation;
  if (!energy || !hazard) {
    return (
      <section aria-label="Hazard" className="flex items-center gap-3 bg-warning px-5 py-2 text-on-warning">
        <TriangleAlert aria-hidden size={22} />
        <span className="font-bold">
          The stored energy cannot be calculated: take this rig for deadly. See the problems beside the blocks.
        </span>
      </section>
    );
  }
  const reading = evaluation.corners.nominal();
  const warns = hazard.class !== 'below';
  const leads = leadsHazard(evaluation);
  const onStore = `${printQuantity(energy.worked.value, 'J')} at ${printQuantity(reading.offer('chargedTo').value, 'V')}`;
  // Stages in series stand far above what each is charged to, for as long as the shot lasts.
  const erected = reading.offers('store').ladder ? figureIn(evaluation, 'discharge-voltage') : null;
  return (
    <section
      aria-label="Hazard"
      className={`flex min-h-[44px] flex-wrap items-center gap-y-1 px-5 py-1 ${warns ? 'bg-warning text-on-warning [&_*]:!outline-offset-2' : 'border-b border-rule bg-plate'}`}
    >
      {warns && <ElectricSign />}
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="px-2.5 text-left leading-tight" title="Why: the published thresholds">
          <span className="block text-[19px] font-bold">
            {leads ? (
              <>
                Up to {printQuantity(leads.figure.band.high, leads.figure.worked.unit)} {leads.says}
              </>
            ) : (
              onStore
            )}{' '}
            <span className="underline decoration-dotted underline-offset-4">
              {warns ? hazard.headline : `is ${hazard.headline}`}
            </span>
          </span>
          {warns && <span className="block text-[12px]">by {sourcesOf(hazard)}</span>}
        </Popover.Trigger>
        <Reasons hazard={hazard} />
      </Popover.Root>
      <span className="flex flex-wrap items-center divide-current/50 sm:divide-x">
        <BleedWords evaluation={evaluation} onTouch={onTouch} />
        <span className="px-2.5">
          Verify, meter above <b className="figure">{printQuantity(highestVoltage(reading), 'V')}</b>
        </span>
        {leads && <span className="px-2.5">On the store {onStore}</span>}
        {evaluation.beside
          .filter((one) => one !== leads)
          .map(({ figure, says }) => (
            <button
              key={figure.id}
              type="button"
              className="min-h-6 px-2.5 text-left"
              onClick={() => onTouch(`figure:${figure.id}`)}
            >
              Up to <b className="figure">{printQuantity(figure.band.high, figure.worked.unit)}</b> {says}
            </button>
          ))}
        {erected && (
          <button type="button" className="min-h-6 px-2.5 text-left" onClick={() => onTouch('figure:discharge-voltage')}>
            In the shot at most <b className="figure">{printQuantity(erected.band.high, 'V')}</b>
          </button>
        )}
      </span>
    </section>
  );
}
