import { setVoltage, type DeskRoute, type FigureId } from '@vast-surge/core/block';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { ifKnown, reasonOf, RigReading } from '@vast-surge/core/figure';
import { printQuantity, type UnitId } from '@vast-surge/core/quantity';
import { deskOf, slotTitles } from '@vast-surge/core/kind';
import { hasDesk, type RigDocument } from '@vast-surge/core/rig';
import {
  bleedStudy,
  erectionShot,
  erectionStudy,
  faultLevels,
  faultStudy,
  gapStudy,
  launchStudy,
  overvoltages,
  predictedShot,
  tankStudy,
  type Predicted,
} from '@vast-surge/core/study';
import { UsageError } from './usage.ts';

/** What the pages of one kind of rig show, asked from the terminal: the same functions, in SI units. */
export interface Desk {
  readonly data: unknown;
  readonly text: string;
}

const print = (value: number, unit: UnitId) => printQuantity(value, unit);
const quantity = (value: number | null | undefined, unit: UnitId) =>
  value === null || value === undefined || !Number.isFinite(value) ? 'not known' : print(value, unit);
const within = (one: Predicted | null, unit: UnitId): string =>
  one
    ? `${print(one.value, unit)} (${print(one.low, unit)} to ${print(one.high, unit)}; closed form ${quantity(one.closed, unit)})`
    : 'not known';

/** @throws UsageError where the rig lacks what is asked for, in the words of the rig's page */
function asked<T>(get: () => T): T {
  try {
    return get();
  } catch (error) {
    const known = reasonOf(error);
    throw known ? new UsageError(`RIG.json: ${known.reason}.`) : error;
  }
}

/** @throws UsageError where no block of the rig brings the desk with it */
const needs = ({ rig, name }: RigDocument, route: DeskRoute): void => {
  if (hasDesk(rig, route)) return;
  const { of, title, kinds } = deskOf(route);
  const with_ = kinds.map((kind) => `“${kind.title}” as the ${slotTitles[kind.slot].toLowerCase()}`).join(' or ');
  throw new UsageError(`RIG.json: ${name} has no ${of.replace(/^an? /, '')}: ${title} comes with ${with_}.`);
};

export function erect(document: RigDocument, shots: number): Desk {
  const { rig, name } = document;
  needs(document, 'erection');
  return asked(() => {
    const reading = new RigReading(rig);
    const figure = (id: FigureId) => ifKnown(() => reading.figure(id).value);
    const [shot, over, predicted] = [erectionShot(rig), overvoltages(rig), predictedShot(rig)];
    const study = erectionStudy(rig, { shots });
    const data = {
      rig: name,
      set: setVoltage(reading).value,
      charged: reading.offer('chargedTo').value,
      selfBreak: figure('self-break'),
      stageSelfBreak: figure('stage-self-break'),
      erects: shot.erects,
      gaps: shot.gaps.map((gap, i) => ({ ...gap, overvoltage: over[i] ?? null })),
      window: study?.window ?? null,
      rates: study?.rates ?? [],
      shots,
      idealOutput: figure('marx-ideal-voltage'),
      closedOutput: figure('marx-output-voltage'),
      predicted,
      left: shot.left,
    };
    const last = Math.max(...shot.gaps.map(({ at }) => at ?? NaN));
    return {
      data,
      text: [
        `${name}: ${shot.erects ? `erects as set, last gap ${print(last, 's')} after the first` : 'does not erect as set'}`,
        ...shot.gaps.map(
          ({ tower, stage, at, seen }) =>
            `  tower ${tower}, gap ${stage}: ${at === null ? 'does not fire' : `fires at ${print(at, 's')}`}, sees ${seen.toFixed(2)} of its self-break`,
        ),
        study?.window
          ? `  works from ${print(study.window.low, 'V')} to ${print(study.window.high, 'V')} with the gaps at ${print(study.setting, 'V')}`
          : '  no reliable window with the gaps as set',
        `  peak current ${within(predicted.current, 'A')}`,
        `  time to peak ${within(predicted.time, 's')}`,
        `  output ${within(predicted.output, 'V')}; ideal ${quantity(data.idealOutput, 'V')}`,
        ...(predicted.law === null ? [] : [`  ${predicted.law}`]),
        ...predicted.starts.map(
          ({ from, current, time }) => `  from ${print(from, 'Ω')}: ${quantity(current, 'A')} at ${quantity(time, 's')}`,
        ),
      ].join('\n'),
    };
  });
}

export function launchDesk(document: RigDocument): Desk {
  needs(document, 'launch');
  return asked(() => {
    const study = launchStudy(document.rig, print);
    if (!study) throw new UsageError(`RIG.json: ${document.name} has no coil that launches.`);
    const { muzzle, energy, run } = study;
    const data = {
      rig: document.name,
      muzzleSpeed: muzzle.speed,
      muzzle: muzzle.x,
      muzzleTime: muzzle.t,
      range: study.range,
      verdict: muzzle.verdict,
      suckBack: muzzle.suckBack,
      fastest: muzzle.fastest,
      peakCurrent: study.peakCurrent,
      efficiency: study.efficiency,
      energy: { ...energy, stored: energy.stored, kinetic: energy.kinetic },
      coils: study.stages.map(({ fired, peakCurrent, before, after, ends, passes }) => ({
        fired,
        peakCurrent,
        before,
        after,
        ends,
        passes,
      })),
      said: study.said,
      closure: run.closure,
      trace: { t: [...run.t], x: [...run.x], v: [...run.v] },
    };
    return {
      data,
      text: [
        `${document.name}: ${muzzle.verdict}; muzzle speed ${print(muzzle.speed, 'm/s')} (${print(study.range.low, 'm/s')} to ${print(study.range.high, 'm/s')})`,
        `  ${muzzle.x === null ? 'it does not come to the muzzle' : `at ${print(muzzle.x, 'm')} from the middle of the first coil${study.barrel === null ? ', where the force has died' : ''}, after ${quantity(muzzle.t, 's')}`}`,
        `  stored ${print(energy.stored, 'J')}, in motion ${print(energy.kinetic, 'J')}; peak current ${print(study.peakCurrent, 'A')}`,
        ...study.said.map((text) => `  ${text}`),
      ].join('\n'),
    };
  });
}

export function gapDesk(document: RigDocument): Desk {
  needs(document, 'gap');
  return asked(() => {
    new RigReading(document.rig).figure('self-break');
    const study = gapStudy(document.rig, print);
    if (!study) throw new UsageError('RIG.json: the self-break of the gap cannot be worked out.');
    const { band, drawnOut } = study.certainty;
    return {
      data: { rig: document.name, ...study },
      text: [
        `${document.name}: self-break ${print(study.selfBreak, 'V')}, within ${(band * 100).toFixed(0)} %${drawnOut === null ? '' : ` (extrapolated: ${drawnOut})`}`,
        `  set to ${print(study.charged, 'V')}, ${((100 * study.charged) / study.selfBreak).toFixed(0)} % of it`,
        ...study.advice.map((text) => `  ${text}`),
      ].join('\n'),
    };
  });
}

export function bleedDesk(document: RigDocument): Desk {
  return asked(() => {
    const study = bleedStudy(document.rig, print);
    const ways = study.ways.map(({ id, title, nominal, worst }) => ({ id, title, nominal, worst }));
    const held = study.held.map(({ title, V, worst, through, time, then }) => ({
      title,
      voltage: V.value,
      worst,
      through,
      time: time && { nominal: time.worked.value, worst: time.worst },
      then,
    }));
    const { charged, highest, goal, rules, rebounds, card } = study;
    return {
      data: { rig: document.name, charged, highest, goal, ways, rules, held, rebounds, card },
      text: [
        `${document.name}: charged to ${print(charged, 'V')}, at most ${print(highest, 'V')}; goal ${goal.text}`,
        ...ways.map(({ title, nominal, worst }) => `  ${title}: ${quantity(nominal, 's')}, worst case ${quantity(worst, 's')}`),
        ...held.map(({ title, voltage }) => `  ${title}: ${print(voltage, 'V')}`),
        '  Calculated: verify with a meter rated for it.',
      ].join('\n'),
    };
  });
}

export function faultsDesk(document: RigDocument): Desk {
  return asked(() => {
    const { faults, blind, goal } = faultStudy(document.rig, document.name);
    const shown = faults.map(({ traces: _, deck: __, ...fault }) => fault);
    return {
      data: { rig: document.name, goal, faults: shown, notWorkedOut: blind },
      text: [
        `${document.name}: ${faults.length} faults, the worst first`,
        ...faults.flatMap(({ title, moment, level, because, remedies }) => [
          `  ${faultLevels[level]}: ${title}, ${moment}. ${because}`,
          ...remedies.filter(({ not }) => not === null).map(({ title: what, says }) => `      ${what}: ${says}`),
        ]),
        ...blind.map(({ title, reason }) => `  not worked out: ${title}: ${reason}`),
        '  Calculated, one fault at a time, at nominal values: it says nothing about what was actually built.',
      ].join('\n'),
    };
  });
}

export function teslaDesk(document: RigDocument, seed: number): Desk {
  needs(document, 'tank');
  return asked(() => {
    const study = tankStudy(document.rig, seed);
    const evaluation = evaluateRig(document.rig);
    const figures = Object.fromEntries(
      evaluation.figures.flatMap((f) =>
        f.ok ? [[f.id, { value: f.worked.value, low: f.band.low, high: f.band.high, unit: f.worked.unit }]] : [],
      ),
    );
    const { pace, variants, holding, tuning } = study;
    const as = variants.find(({ id }) => id === 'as-set');
    return {
      data: {
        rig: document.name,
        pace,
        holding,
        variants,
        tuning: tuning && { secondary: tuning.secondary, tap: tuning.tap, best: tuning.best },
        figures,
      },
      text: [
        `${document.name}: ${as?.verdict ?? as?.reason ?? 'not known'}; break rate ${pace ? print(pace.rate, 'Hz') : 'none: the gap never fires'}`,
        ...['coupled-peak-voltage', 'tank-power', 'secondary-peak-voltage'].flatMap((id) => {
          const figure = evaluation.figures.find((f) => f.id === id);
          return figure?.ok ? [`  ${figure.title}: ${print(figure.worked.value, figure.worked.unit)}`] : [];
        }),
        ...(tuning?.best ? [`  best tap ${tuning.best.toFixed(2)} turns, set ${tuning.tap.toFixed(2)}`] : []),
      ].join('\n'),
    };
  });
}
