import { useState, type ReactNode } from 'react';
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
        <p className="font-bold">Hazard class, by published thresholds, worst case over the tolerances</p>
        <ul className="mt-2 space-y-1">
          {hazard.findings.map((finding) => (
            <li key={finding.rule.id} className="border-t border-rule pt-1">
              <span className="font-bold">{finding.exceeded ? 'above' : 'below'}</span> · {wordFinding(finding)}
              <span className="block text-13 text-dim">{finding.rule.source}; from memory, check the current edition</span>
            </li>
          ))}
        </ul>
        <p className="mt-3 text-13">This program informs and protects nobody. Local codes and licensed practice come first.</p>
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

/** One fact of the strip; a number opens its working. */
function Fact({ focus, onTouch, children }: { focus?: string; onTouch: (focus: string) => void; children: ReactNode }) {
  if (focus === undefined)
    return (
      <span className="inline-flex min-h-6 items-center">
        <span>{children}</span>
      </span>
    );
  return (
    <button type="button" className="min-h-6 text-left hover:underline" onClick={() => onTouch(focus)}>
      {children}
    </button>
  );
}

/** How long it takes to be bled, and what happens where the bleeder fails; with less than a minute that stands first. */
function bleedFacts({ evaluation, onTouch }: Props): ReactNode[] {
  const goal = bleedGoal(evaluation.corners.nominal());
  const bleeder = figureIn(evaluation, 'bleed-time');
  const open = figureIn(evaluation, 'bleed-time-open');
  const { rig } = evaluation;
  // Each stage has a bleeder of its own: whose time it is is said.
  const ofStage = rig.channels.length > 1 ? `${channelTitle(rig, channelOf(rig))}: ` : '';
  const normal = bleeder ? (
    <Fact key="bleed" focus="figure:bleed-time" onTouch={onTouch}>
      {ofStage}Below {goal.text} in <b className="figure">{duration(bleeder.worked.value)}</b> (worst case{' '}
      <b className="figure">{duration(bleeder.band.high)}</b>), calculated
    </Fact>
  ) : (
    <b key="bleed">No bleeder</b>
  );
  const failed = open && (
    <Fact key="open" focus="figure:bleed-time-open" onTouch={onTouch}>
      If the bleeder fails: <b className="figure">{duration(open.worked.value)}</b> to{' '}
      <b className="figure">{duration(open.band.high)}</b>
    </Fact>
  );
  return bleeder && bleeder.band.high < 60 ? [failed, normal] : [normal, failed];
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
          The stored energy cannot be calculated: treat this rig as lethal. See the problems beside the blocks.
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
  const facts: ReactNode[] = [
    ...bleedFacts({ evaluation, onTouch }),
    <Fact key="verify" onTouch={onTouch}>
      Verify with a meter rated over <b className="figure">{printQuantity(highestVoltage(reading), 'V')}</b>
    </Fact>,
    ...evaluation.beside
      .filter((one) => one !== leads)
      .map(({ figure, says }) => (
        <Fact key={figure.id} focus={`figure:${figure.id}`} onTouch={onTouch}>
          Up to <b className="figure">{printQuantity(figure.band.high, figure.worked.unit)}</b> {says}
        </Fact>
      )),
    erected && (
      <Fact key="shot" focus="figure:discharge-voltage" onTouch={onTouch}>
        Up to <b className="figure">{printQuantity(erected.band.high, 'V')}</b> at the output during a shot
      </Fact>
    ),
  ].filter(Boolean);
  return (
    <section
      aria-label="Hazard"
      className={`no-print flex shrink-0 items-center gap-x-4 px-3 py-1 max-md:flex-wrap sm:px-5 lg:min-h-[56px] ${warns ? 'bg-warning text-on-warning [&_*]:!outline-offset-2' : 'border-b border-rule bg-plate'}`}
    >
      <div className="shrink-0 max-md:shrink">
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger
            className="flex items-center gap-2.5 text-left leading-tight"
            title={warns ? `Why: by ${sourcesOf(hazard)}` : 'Why: the published thresholds'}
          >
            {warns && <ElectricSign />}
            <span>
              <span className="block text-19 font-bold">
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
            </span>
          </Popover.Trigger>
          <Reasons hazard={hazard} />
        </Popover.Root>
        {/* Under what is spoken of first: the strip is as high for a tank behind a doubler as for a bank. */}
        {leads && (
          <p className="pl-11 text-14 leading-tight lg:-mt-2">
            <Fact onTouch={onTouch}>{onStore} in the store</Fact>
          </p>
        )}
      </div>
      <ul className="flex min-w-0 flex-wrap items-center gap-x-4 text-14 leading-tight">
        {facts.map((fact, i) => (
          <li key={i}>{fact}</li>
        ))}
      </ul>
    </section>
  );
}
