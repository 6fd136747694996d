import type { ChainState } from '@vast-surge/core/block';
import type { InterlockStudy } from '@vast-surge/core/study';

const words = ({ dumpClosed, chargerOn, triggerLive }: ChainState) =>
  [dumpClosed ? 'closed' : 'open', chargerOn ? 'on' : 'off', triggerLive ? 'live' : 'dead'] as const;

/** The contacts of the chain in their order, and what hangs on it. */
function rowsOf(chain: InterlockStudy['chain']) {
  const contacts = [
    'power',
    ...Array.from({ length: chain.doorContacts }, (_, i) => (chain.doorContacts > 1 ? `door ${i + 1}` : 'door')),
    ...(chain.hasStop ? ['stop'] : []),
    ...(chain.hasKey ? ['key'] : []),
  ];
  const loads = [
    ...(chain.dumpsBy === 'falling' ? Array.from({ length: chain.dumps }, (_, i) => `dump ${i + 1}, held open`) : []),
    ...(chain.charger ? ['charger enable'] : []),
    ...(chain.trigger ? ['trigger enable'] : []),
  ];
  return { contacts, loads };
}

/** The chain as it is wired: contacts in series, and what hangs on them. */
function Drawing({ study: { chain } }: { study: InterlockStudy }) {
  const { contacts, loads } = rowsOf(chain);
  const [w, row] = [80, 24];
  const width = contacts.length * w + 230;
  const height = Math.max(46, loads.length * row + 16);
  const end = 10 + contacts.length * w;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="The chain">
      <svg
        width={width}
        height={height}
        className="block text-ink"
        role="img"
        aria-label={`In series: ${contacts.join(', ')}; then ${loads.join(', ') || 'nothing'}`}
      >
        <g stroke="currentColor" strokeWidth={2} fill="none">
          {contacts.map((name, i) =>
            name === 'power' ? (
              <path key={name} d={`M${10 + i * w} 30h${w}`} />
            ) : (
              <path key={name} d={`M${10 + i * w} 30h30l28 -11M${10 + i * w + 58} 30h${w - 58}`} />
            ),
          )}
          {loads.length > 0 && <path d={`M${end} 30v${(loads.length - 1) * row}`} />}
          {loads.map((name, i) => (
            <path key={name} d={`M${end} ${30 + i * row}h26`} />
          ))}
        </g>
        {contacts.map((name, i) => (
          <text key={name} x={10 + i * w + (name === 'power' ? 0 : 30)} y={14} fontSize={13} fill="currentColor">
            {name}
          </text>
        ))}
        {loads.map((name, i) => (
          <text key={name} x={end + 32} y={34 + i * row} fontSize={13} fill="currentColor">
            {name}
          </text>
        ))}
      </svg>
    </div>
  );
}

function States({
  title,
  rows,
}: {
  title: string;
  rows: readonly { readonly id: string; readonly title: string; readonly state: ChainState; readonly said?: string }[];
}) {
  return (
    <table className="mt-3 w-full text-14">
      <caption className="text-left text-15 font-bold">{title}</caption>
      <thead>
        <tr className="text-13 text-dim">
          <td />
          {['dump', 'charger', 'trigger'].map((name) => (
            <th key={name} scope="col" className="px-2 text-left font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, title: of, state, said }) => (
          <tr key={id} className={`border-t border-rule align-top ${said ? 'font-bold text-over' : ''}`}>
            <th scope="row" className={`pr-2 text-left ${said ? '' : 'font-normal'}`}>
              {of}
              {said && `: ${said}`}
            </th>
            {words(state).map((word, i) => (
              <td key={i} className="px-2">
                {word}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The interlock: as it is drawn, phase by phase, and with every single thing broken. */
export function Interlock({ study }: { study: InterlockStudy }) {
  const { phases, failures, holes, strict } = study;
  return (
    <section aria-label="Interlock" className="min-w-0">
      <h2 className="text-17 font-bold">Interlock</h2>
      <p role="status" className={`mt-1 border-l-4 bg-plate p-2 ${holes.length > 0 ? 'border-over' : 'border-rule'}`}>
        {holes.length === 0
          ? `Behind the open door no single failure of ${failures.length - 1} leaves the dump open, the charger on or the trigger live${strict ? '' : '; a dump that sticks is met with the stick'}.`
          : `${holes.length} single ${holes.length === 1 ? 'failure leaves' : 'failures leave'} something live behind the open door.`}
      </p>
      <div className="mt-2">
        <Drawing study={study} />
      </div>
      <States title="Where everything stands" rows={phases} />
      <States
        title="Door open, key on, and one thing broken"
        rows={failures.map(({ id, title, state, holes: own }) => ({
          id,
          title,
          state,
          ...(own.length === 0 ? {} : { said: own.map(({ what }) => what).join(', ') }),
        }))}
      />
      <p className="mt-2 text-13 text-dim">
        By trying every one of them. Two failures at a time, and wires that touch, are not tried: pull both door contacts by hand,
        one after the other, at the start of each day.
      </p>
    </section>
  );
}
