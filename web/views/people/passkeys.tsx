import { useState } from 'react';
import { format } from 'date-fns';
import type { Passkey } from '@vast-surge/contract';
import { useAddPasskeyMutation, useAskPasskeyMutation, useRemovePasskeyMutation } from '../../app/people-api.ts';
import { Button } from '../../ui/button.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { hasPasskeys, madePasskey } from './passkey-browser.ts';
import { Line, LinesForm, OwnPassword, Wrong } from './form-parts.tsx';

const notDone = 'The browser made no passkey: it was cancelled, took too long, or this device has one already.';

function PasskeyForm({ onDone }: { onDone: () => void }) {
  const [ask, asking] = useAskPasskeyMutation();
  const [add, adding] = useAddPasskeyMutation();
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const go = async () => {
    setTrouble(null);
    const options = await ask({ password });
    if (!options.data) return;
    const response = await madePasskey(options.data).catch(() => null);
    if (!response) {
      setTrouble(notDone);
      return;
    }
    const kept = await add({ name: name.trim() === '' ? 'This device' : name.trim(), response: { ...response } });
    if (kept.data) onDone();
  };
  return (
    <LinesForm onSend={() => void go()}>
      <Line
        title="Name of the passkey"
        hint="Such as the phone or the key that holds it."
        autoComplete="off"
        value={name}
        onText={setName}
      />
      <OwnPassword value={password} onText={setPassword} />
      <Wrong error={asking.error ?? adding.error} />
      <TroubleLine>{trouble}</TroubleLine>
      <p className="flex gap-3">
        <Button type="submit" look="primary" disabled={asking.isLoading || adding.isLoading}>
          Make the passkey
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
    </LinesForm>
  );
}

/** Passkeys of the person who is signed in. */
export function Passkeys({ passkeys }: { passkeys: readonly Passkey[] }) {
  const [isOpen, setOpen] = useState(false);
  const [remove, { error }] = useRemovePasskeyMutation();
  return (
    <section className="mt-6">
      <h2 className="text-17 font-bold">Passkeys</h2>
      <p className="max-w-[44rem] text-dim">
        {hasPasskeys()
          ? 'A passkey signs in by a finger, a face or a PIN of the device, without name and password, at this host name alone.'
          : 'Browsers have passkeys at a host name alone, over TLS: ask this workshop by its name to make one.'}
      </p>
      <ul>
        {passkeys.map(({ id, name, host, madeAt, usedAt }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-1">
            <b>{name}</b>
            <span className="text-14 text-dim">
              for {host}, made {format(new Date(madeAt), 'yyyy-MM-dd')}
              {usedAt === null ? ', not used yet' : `, last used ${format(new Date(usedAt), 'yyyy-MM-dd HH:mm')}`}
            </span>
            <Button look="quiet" aria-label={`Remove the passkey ${name}`} onClick={() => void remove(id)}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <Wrong error={error} />
      {hasPasskeys() && !isOpen && (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          Add a passkey
        </Button>
      )}
      {isOpen && <PasskeyForm onDone={() => setOpen(false)} />}
    </section>
  );
}
