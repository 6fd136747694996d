import type { Rig } from '@vast-surge/core/rig';
import { askedAxis, usualAxis, writtenAxis, type AskedAxis } from '@vast-surge/core/study';
import { useTypedParams } from '../../app/typed-params.ts';

export const studies = ['vary', 'matters', 'scatter'] as const;
export type StudyKind = (typeof studies)[number];

/** What is asked, as it stands in the address: a link asks the same, and so does the page when it is loaded again. */
export interface StudyAddress {
  readonly kind: StudyKind;
  /** Ids of what is drawn; none where nobody chose. */
  readonly outputs: readonly string[];
  /** As they were asked; of a field that is only named how it is usually varied. */
  readonly axes: readonly AskedAxis[];
  setKind(kind: StudyKind): void;
  setOutputs(outputs: readonly string[]): void;
  setAxes(axes: readonly AskedAxis[]): void;
}

/** A field that is only named is varied as it usually is. */
const axisIn =
  (rig: Rig) =>
  (text: string): AskedAxis =>
    (text.includes('=') ? null : usualAxis(rig, text)) ?? askedAxis(text);

export function useStudyAddress(rig: Rig): StudyAddress {
  const [params, put] = useTypedParams();
  const set = (name: string, values: readonly string[]) =>
    put((next) => {
      next.delete(name);
      values.forEach((value) => next.append(name, value));
    });
  return {
    kind: studies.find((one) => one === params.get('of')) ?? 'vary',
    outputs: params.getAll('figure').slice(0, 3),
    axes: params.getAll('vary').slice(0, 3).map(axisIn(rig)),
    setKind: (kind) => set('of', [kind]),
    setOutputs: (outputs) => set('figure', outputs),
    setAxes: (axes) => set('vary', axes.map(writtenAxis)),
  };
}
