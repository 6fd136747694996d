import { useMemo } from 'react';
import { toast } from 'sonner';
import { ifKnown } from '@vast-surge/core/figure';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';
import type { Rig } from '@vast-surge/core/rig';
import { stickFor } from '@vast-surge/core/study';
import { valueSet } from '../../app/edits.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';

const print = (value: number, unit: 'V' | 'A' | 'J' | 'Ω' | 'm') => printQuantity(value, unit, { digits: 2, trim: true });

/** A stick sized for the store of a rig: what it is built of, and one act that takes it into the rig. */
export function StickCard({ rig }: { rig: Rig }) {
  const dispatch = useAppDispatch();
  const stick = useMemo(() => ifKnown(() => stickFor(rig)), [rig]);
  if (!stick) return null;
  const { n, R, V, E, seconds, current, handle, body, cable } = stick;
  const take = () => {
    for (const [field, value] of [
      ['n', n],
      ['R', R],
      ['V', V],
      ['E', E],
    ] as const)
      dispatch(valueSet({ path: `tool.${field}`, value }));
    toast.success('This is now the discharge stick of this rig.');
  };
  return (
    <section aria-label="A stick for this store" className="mt-4 border-t-2 border-ink pt-2">
      <h2 className="font-bold">A stick for this store</h2>
      <p className="text-18">
        <b className="figure">
          {n} × {print(R, 'Ω')}
        </b>{' '}
        in series, each for {print(V, 'V')} and pulses of {print(E, 'J')}: twice what it gets
      </p>
      <ul className="list-disc pl-5 text-14">
        <li>
          down in {printDuration(seconds)}, {print(current, 'A')} at first touch
        </li>
        <li>
          resistors at least {print(body, 'm')} end to end, handle at least {print(handle, 'm')} from tip to hand
        </li>
        <li>
          flexible cable of at least {cable} mm², with an earth clamp screwed to the earthed side before the tip touches anything
        </li>
        <li>a hook or a sphere at the tip; after the reading, a strap of its own without a resistor</li>
      </ul>
      <Button className="mt-1" onClick={take}>
        Use in the rig
      </Button>
    </section>
  );
}
