import { useEffect, useState } from 'react';
import { useAppSelector, useOpenDocument } from '../../app/store.ts';

function useSecondsSince(when: number | null): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return when === null ? 0 : Math.max(0, Math.round((now - when) / 1000));
}

const ago = (seconds: number): string =>
  seconds < 60 ? `${seconds} s` : seconds < 3600 ? `${Math.floor(seconds / 60)} min` : `${Math.floor(seconds / 3600)} h`;

type State = 'saved' | 'saving' | 'kept' | 'refused' | 'conflict';

/** Where the edits are, always readable. */
export function SaveLine({ serverAway }: { serverAway: boolean }) {
  const { send, base } = useAppSelector((s) => s.editor);
  const document = useOpenDocument();
  const seconds = useSecondsSince(send.at === 'idle' ? send.when : null);
  const pending = document !== base?.document;
  const line = (state: State, text: string, warns: boolean, title?: string) => (
    <span
      data-save={state}
      role={warns ? 'alert' : 'status'}
      title={title}
      className={`text-13 ${warns ? 'bg-warning px-2 py-0.5 text-on-warning' : 'whitespace-nowrap text-dim'}`}
    >
      {text}
    </span>
  );
  if (send.at === 'conflict') return line('conflict', 'changed elsewhere too: decide below', true);
  if (send.at === 'refused') return line('refused', `not saved: ${send.message}`, true);
  if (send.at === 'away' && pending) {
    const where = send.kept ? 'kept on this device' : 'kept in this page only, which the device has no room for';
    // A server that answers says why it keeps nothing: its disk is full, it is being restored.
    const why = /does not answer/.test(send.message) ? 'server not reached' : (send.message.split(';')[0] ?? '').toLowerCase();
    return line('kept', `${where}, ${why}`, true, send.message);
  }
  if (pending || send.at === 'sending') return line('saving', 'saving', false);
  if (serverAway) return line('saved', 'saved; server not reached', true);
  return line('saved', send.at === 'idle' && send.when !== null ? `saved ${ago(seconds)} ago` : 'saved', false);
}
