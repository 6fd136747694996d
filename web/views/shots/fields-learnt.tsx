import { useState } from 'react';
import { toast } from 'sonner';
import { printPercent, printQuantity } from '@vast-surge/core/quantity';
import { fieldName, type Rig } from '@vast-surge/core/rig';
import { withMeasured, type Calibration } from '@vast-surge/core/shot';
import { failureOf } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { useFieldsLearnt } from '../../workers/studies.ts';
import { acceptIntoRig } from './accept-into-rig.ts';

/** What the shots say of single fields of the rig: more than their tolerances do; taken one by one as measured. */
export function FieldsLearnt({ rigId, rig, found }: { rigId: string; rig: Rig; found: readonly Calibration[] }) {
  const answer = useFieldsLearnt(rig, found);
  const [done, setDone] = useState<string | null>(null);
  const learnt = answer?.ok ? answer.value : [];
  if (learnt.length === 0) return null;
  const accept = async (path: string) => {
    const one = learnt.find(({ field }) => field.path === path);
    if (!one) return;
    try {
      setDone(await acceptIntoRig(rigId, (now) => withMeasured(now, [one.field]), 'measured: from the shots'));
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  return (
    <section aria-label="Fields, as the shots have them" className="mt-2">
      <h3 className="font-bold">Fields, as the shots have them</h3>
      <ul>
        {learnt.map(({ field: { path, unit, was, value, refused }, before, after }) => (
          <li key={path} className="flex flex-wrap items-baseline gap-x-3 border-t border-rule py-1">
            <span className="min-w-0 flex-1 basis-72">
              {fieldName(rig, path)}: {was === null ? 'not known' : printQuantity(was, unit)} →{' '}
              <b className="figure">{printQuantity(value, unit)}</b>{' '}
              <span className="text-dim">
                (68 %: ± {printPercent(after, 2)}; before the shots ± {printPercent(before, 2)})
              </span>
              {refused !== null && `, not taken: ${refused}`}
            </span>
            {refused === null && <Button onClick={() => void accept(path)}>Use as measured</Button>}
          </li>
        ))}
      </ul>
      <p className="text-14 text-dim">
        Each with an error of the calculation beside it: shots alone cannot tell a field from that. A meter can. Take one at a
        time; the others are worked out anew.
      </p>
      {done !== null && (
        <p role="status" className="font-bold">
          {done}
        </p>
      )}
    </section>
  );
}
