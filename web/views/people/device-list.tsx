import { formatDistanceToNowStrict } from 'date-fns';
import type { Device } from '@vast-surge/contract';
import { Button } from '../../ui/button.tsx';

interface Props {
  readonly devices: readonly Device[];
  /** The one this page is on. */
  readonly here: string | null;
  readonly onRevoke: (device: Device) => void;
}

/** What a person is signed in on. */
export function DeviceList({ devices, here, onRevoke }: Props) {
  const live = devices.filter(({ revokedAt }) => revokedAt === null);
  if (live.length === 0) return <p className="text-14 text-dim">No device is signed in.</p>;
  return (
    <ul>
      {live.map((device) => (
        <li key={device.id} className="flex flex-wrap items-baseline gap-x-3 border-t border-rule py-1">
          <b>{device.name}</b>
          <span className="text-14 text-dim">
            {device.id === here
              ? 'this device'
              : `seen ${formatDistanceToNowStrict(new Date(device.seenAt), { addSuffix: true })}`}
            , from <span className="figure">{device.address}</span>
            {device.forGood ? ', stays signed in' : ''}
          </span>
          <Button look="quiet" className="ml-auto" aria-label={`Sign ${device.name} out`} onClick={() => onRevoke(device)}>
            Sign out
          </Button>
        </li>
      ))}
    </ul>
  );
}
