import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import type { StoredShot } from '@vast-surge/contract';
import { printPercent, printFixed } from '@vast-surge/core/quantity';
import type { Rig } from '@vast-surge/core/rig';
import { fieldsOfGap, gapShots, lifeUsed, withBreakdowns, withMeasured } from '@vast-surge/core/shot';
import { failureOf, useGetRigQuery } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { MeasuredFields } from './measured-fields.tsx';
import { acceptIntoRig } from './accept-into-rig.ts';
import { Learned } from './learned.tsx';

const whole = (n: number) => Math.floor(n).toLocaleString('en-GB');

/** What its shots have used up of the life of the capacitors. */
function Life({ rig, shots }: { rig: Rig; shots: readonly StoredShot[] }) {
  const life = useMemo(
    () =>
      lifeUsed(
        rig,
        shots.map(({ shot }) => shot),
      ),
    [rig, shots],
  );
  if (!life) return <p className="text-dim">Life of the capacitors: not counted. Enter the rated shot life of the store.</p>;
  return (
    <p>
      Life of the capacitors used up:{' '}
      <b className="figure text-19">{life.used < 1e-4 ? 'below 0.01 %' : printPercent(life.used, 2)}</b> by {life.counted} shots;
      about {whole(life.left)} left at the voltage it is set to.
      {life.unknown > 0 && ` ${life.unknown} shots without a voltage are not in it.`} Shots that nobody wrote down are not either.
    </p>
  );
}

function Breakdowns({ lines }: { lines: readonly string[] }) {
  return (
    <details>
      <summary className="cursor-pointer text-select underline">The breakdowns</summary>
      {lines.map((line, i) => (
        <p key={`${i} ${line}`} className="figure text-14">
          {line}
        </p>
      ))}
    </details>
  );
}

/** What breakdowns in its shots say of the gap. */
function Gap({ rigId, rig, shots }: { rigId: string; rig: Rig; shots: readonly StoredShot[] }) {
  const [done, setDone] = useState<string | null>(null);
  const found = useMemo(
    () =>
      gapShots(
        rig,
        shots.map(({ shot }) => shot),
      ),
    [rig, shots],
  );
  if (!found) return null;
  const { fit, lines } = found;
  const fields = fieldsOfGap(rig, found);
  const accept = async () => {
    try {
      const good = fields.filter((f) => f.refused === null);
      setDone(
        await acceptIntoRig(rigId, (now) => withBreakdowns(withMeasured(now, good), lines), 'measured: breakdowns of the gap'),
      );
    } catch (error) {
      toast.error(failureOf(error).message);
    }
  };
  return (
    <div className="mt-2">
      <p>
        The gap self-broke in {lines.length} of these shots. Over the spacings and pressures they had, the calculation meets them
        with an enhancement of <b className="figure text-19">{printFixed(fit.enhancement, 3)}</b>
        {fit.uncertainty === null ? ', from one alone' : ` ± ${printPercent(fit.uncertainty, 2)} (95 %)`}
        {fit.scatter !== null && `; they scatter by ${printPercent(fit.scatter, 2)}`}.
      </p>
      <MeasuredFields rig={rig} fields={fields} />
      <Breakdowns lines={lines} />
      {done !== null ? (
        <p role="status" className="font-bold">
          {done}
        </p>
      ) : (
        <Button className="mt-1" onClick={() => void accept()}>
          Use as measured, in a new revision
        </Button>
      )}
    </div>
  );
}

/** What the shots of one rig teach of it: what the next one is expected to be, the life they took, and its gap. */
export function Teaching({ rigId, shots }: { rigId: string; shots: readonly StoredShot[] }) {
  const { data } = useGetRigQuery(rigId);
  if (data?.id !== rigId) return null;
  const { rig, name } = data.document;
  return (
    <section aria-label={`What these shots say about ${name}`} className="mt-3 border-l-4 border-select bg-plate px-3 py-2">
      <Learned rigId={rigId} rig={rig} shots={shots} />
      <Life rig={rig} shots={shots} />
      <Gap rigId={rigId} rig={rig} shots={shots} />
    </section>
  );
}
