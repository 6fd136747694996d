import { useState } from 'react';
import { checks, checkSchema, type CheckId } from '@vast-surge/core/campaign';
import { failureOf, useAddCheckMutation } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

/** Writes down that a check of the workshop was made. It says what a person did, and does nothing itself. */
export function CheckForm({ by, open }: { by: string; open: readonly CheckId[] }) {
  const [add, { isLoading }] = useAddCheckMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const made = async (what: CheckId) => {
    const check = checkSchema.safeParse({ id: crypto.randomUUID(), at: new Date().toISOString(), by, what, text: '' });
    if (!check.success) {
      setTrouble('Enter the initials of who acts first: a check is somebody’s.');
      return;
    }
    setTrouble(null);
    try {
      await add(check.data).unwrap();
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  if (open.length === 0) return null;
  return (
    <div className="no-print mt-2 flex flex-wrap gap-2 text-15">
      {open.map((id) => (
        <Button key={id} disabled={isLoading} onClick={() => void made(id)}>
          Done just now: {checks[id].title.split(':')[0]?.toLowerCase()}
        </Button>
      ))}
      <TroubleLine look="words" className="w-full">
        {trouble}
      </TroubleLine>
    </div>
  );
}
