import { useState, type ReactNode } from 'react';
import type { GivenLink, Role } from '@vast-surge/contract';
import { roles, roleSays } from '@vast-surge/contract';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { format } from 'date-fns';
import { failureOf } from '../../app/base-api.ts';
import { Button } from '../../ui/button.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const box = 'border border-rule bg-plate px-2 py-1 text-16';

/** One line of a form, with its name over it. */
export function Line({
  title,
  hint,
  onText,
  ...input
}: {
  title: string;
  hint?: string;
  type?: 'text' | 'password';
  autoComplete: string;
  value: string;
  onText: (text: string) => void;
}) {
  return (
    <label className="flex flex-col text-14">
      {title}
      <input
        {...input}
        maxLength={200}
        className={`${box} w-[min(22rem,88vw)]`}
        onChange={(event) => onText(event.target.value)}
      />
      {hint !== undefined && <span className="text-13 text-dim">{hint}</span>}
    </label>
  );
}

/** The password of whoever is signed in, once more. */
export const OwnPassword = ({ value, onText }: { value: string; onText: (text: string) => void }) => (
  <Line title="Password of this account" type="password" autoComplete="current-password" value={value} onText={onText} />
);

/** Lines under each other and what sends them. */
export function LinesForm({ onSend, children }: { onSend: () => void; children: ReactNode }) {
  return (
    <form
      className="mt-2 grid max-w-[24rem] gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onSend();
      }}
    >
      {children}
    </form>
  );
}

/** What is given out as a QR code, SVG. */
export const QrCode = ({ svg, of }: { svg: string; of: string }) => (
  <img
    className="h-44 w-44 bg-white"
    alt={`The ${of} as a QR code`}
    src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`}
  />
);

/** What is wrong with what was sent. */
export const Wrong = ({ error }: { error: unknown }) => (
  <TroubleLine>{error === undefined || error === null ? null : failureOf(error).message}</TroubleLine>
);

/** What this device is, at a guess. */
const guessed = (): string =>
  /iPad|Tablet/i.test(navigator.userAgent) ? 'Tablet' : /Android|iPhone|Mobile/i.test(navigator.userAgent) ? 'Phone' : 'Computer';

export interface DeviceAsked {
  readonly device: string;
  readonly forGood: boolean;
}

/** What a device is called and how long it stays signed in. */
export function useDeviceAsked(): { readonly asked: DeviceAsked; readonly lines: ReactNode } {
  const [device, setDevice] = useState(guessed);
  const [forGood, setForGood] = useState(false);
  return {
    asked: { device: device.trim(), forGood },
    lines: (
      <>
        <Line title="Name of this device" autoComplete="off" value={device} onText={setDevice} />
        <label className="flex items-baseline gap-2">
          <input type="checkbox" checked={forGood} onChange={(event) => setForGood(event.target.checked)} />
          <span>
            Stay signed in
            <span className="block text-13 text-dim">
              {forGood
                ? 'Until it is not used for 30 days.'
                : 'Signed out after 12 hours without use, at the latest after a day.'}
            </span>
          </span>
        </label>
      </>
    ),
  };
}

/** Which roles a person has, each with what it is for. */
export function RoleBoxes({
  chosen,
  onChange,
  name,
}: {
  chosen: readonly Role[];
  onChange: (roles: Role[]) => void;
  name: string;
}) {
  return (
    <fieldset className="grid gap-1">
      <legend className="sr-only">Roles of {name}</legend>
      {roles.map((role) => (
        <label key={role} className="flex min-h-7 items-baseline gap-2">
          <input
            type="checkbox"
            checked={chosen.includes(role)}
            onChange={({ target }) => onChange(target.checked ? [...chosen, role] : chosen.filter((one) => one !== role))}
          />
          <span>
            <b>{role}</b> <span className="text-14 text-dim">{roleSays[role]}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}

/** Roles, each with what it is for. */
export function RoleList({ roles: held, className = '' }: { roles: readonly Role[]; className?: string }) {
  return (
    <ul className={className}>
      {held.map((role) => (
        <li key={role}>
          <b>{role}</b> <span className="text-dim">{roleSays[role]}</span>
        </li>
      ))}
    </ul>
  );
}

const administration = [
  ['/people', 'People'],
  ['/audit', 'Audit'],
  ['/opening', 'Other devices'],
] as const;

/** The pages of whoever administers, but for the one that is shown. */
export function AdminLinks({ but }: { but?: (typeof administration)[number][0] }) {
  return administration
    .filter(([path]) => path !== but)
    .map(([path, title]) => (
      <Link key={path} className="text-select underline" to={path}>
        {title}
      </Link>
    ));
}

/** A link as it is given out: scanned, or copied. */
export function LinkCard({ link, says }: { link: GivenLink; says: string }) {
  const address = link.url ?? `${location.origin}${link.path}`;
  return (
    <div role="status" className="mt-3 flex max-w-[46rem] flex-wrap gap-4 border border-ink bg-plate p-3">
      {link.qr !== null && <QrCode svg={link.qr} of="link" />}
      <div className="min-w-0 flex-1 basis-64">
        <p>{says}</p>
        <p className="figure mt-2 text-13 break-all">{address}</p>
        <p className="mt-2 flex flex-wrap items-center gap-3">
          <Button
            onClick={() =>
              navigator.clipboard.writeText(address).then(
                () => toast('Link copied.'),
                () => toast.error('The browser does not let it be copied: choose the text by hand.'),
              )
            }
          >
            Copy link
          </Button>
          <span className="text-14 text-dim">Works once, until {format(new Date(link.expiresAt), 'd MMM yyyy, HH:mm')}.</span>
        </p>
      </div>
    </div>
  );
}
