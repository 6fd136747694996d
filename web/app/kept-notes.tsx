import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { Button } from '../ui/button.tsx';
import { download } from '../ui/download.ts';
import { forgetStrangeEdit, runOutbox, useKeptEdits, useStrangeEdits } from './session.ts';
import { openTabs } from './tab.ts';
import { WayTo } from './way-to.tsx';

/** On any other page: rigs whose edits the server does not have yet, and the way to them. */
function KeptNote() {
  const edits = useKeptEdits();
  const { pathname } = useLocation();
  const elsewhere = edits.filter(({ rigId }) => !pathname.startsWith(`/rigs/${rigId}`));
  const [first] = elsewhere;
  if (!first) return null;
  const { name } = first.document;
  const more = elsewhere.length > 1 ? ` and ${elsewhere.length - 1} more` : '';
  return (
    <WayTo to={`/rigs/${first.rigId}`}>
      {first.stuck ? `Edits of ${name} wait for you to decide` : `Edits of ${name}${more} are kept on this device, not saved yet`}
    </WayTo>
  );
}

/** What was done in a run and is on this device alone, because its page was closed while the server was away. */
function LeftRunNote() {
  const { pathname } = useLocation();
  const [left, setLeft] = useState<string | null>(null);
  useEffect(() => {
    const look = () => void openTabs().then((tabs) => setLeft(runOutbox().leftBy(tabs)[0] ?? null));
    look();
    const timer = setInterval(look, 10_000);
    return () => clearInterval(timer);
  }, [pathname]);
  if (left === null) return null;
  return <WayTo to={`/runs/${left}`}>Steps of a run are on this device alone: open the run to send them</WayTo>;
}

/** Edits that this version cannot read: never thrown away in silence. */
function StrangeNote() {
  const edits = useStrangeEdits();
  const [saved, setSaved] = useState(false);
  if (edits.length === 0) return null;
  const save = () => {
    download('kept-edits.json', `${JSON.stringify(edits, null, 2)}\n`, 'application/json');
    setSaved(true);
  };
  return (
    <div
      role="alert"
      className="no-print flex flex-wrap items-center gap-3 border-b border-rule border-l-4 border-l-warning bg-plate px-5 py-2"
    >
      <span>
        Edits are kept on this device that this version cannot read, perhaps because another one wrote them. They were not sent.
      </span>
      <Button onClick={save}>Save them as a file</Button>
      <Button disabled={!saved} onClick={() => edits.forEach(({ key }) => forgetStrangeEdit(key))}>
        Remove them from this device
      </Button>
    </div>
  );
}

/** What waits on this device: the ways to it, or what this version cannot read. */
export const KeptNotes = ({ of }: { of: 'way' | 'strange' }) =>
  of === 'strange' ? (
    <StrangeNote />
  ) : (
    <>
      <LeftRunNote />
      <KeptNote />
    </>
  );
