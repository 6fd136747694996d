import { isIPv6 } from 'node:net';
import { networkInterfaces } from 'node:os';
import type { Opened } from '@vast-surge/contract';

/** RFC 1918 and 6598, link-local, and their like of version 6. */
const privateRanges =
  /^(10\.|127\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|169\.254\.|100\.(6[4-9]|[789]\d|1[01]\d|12[0-7])\.|::1$|f[cd][0-9a-f]{2}:)/i;

export type Available = Opened['available'][number];

/** Addresses of this machine. Link-local ones of version 6 need a zone, which no link can carry. */
export function availableAddresses(): Available[] {
  return Object.entries(networkInterfaces()).flatMap(([network, list = []]) =>
    list
      .filter(({ internal, address }) => (internal ? address === '127.0.0.1' : !/^fe80:/i.test(address)))
      .map(({ address, internal }) => ({
        address,
        network,
        reach: internal ? ('machine' as const) : privateRanges.test(address) ? ('private' as const) : ('public' as const),
      })),
  );
}

/** An address as it stands in a link. */
export const inUrl = (address: string): string => (isIPv6(address) ? `[${address}]` : address);
