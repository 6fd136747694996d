import QRCode from 'qrcode';
import type { GivenLink } from '@vast-surge/contract';

/** Makes of a link what is given out. */
export type LinkMaker = (link: { readonly token: string; readonly expiresAt: string }) => Promise<GivenLink>;

/** The part of an address behind `#` goes to no server and into no log. */
export const joinPath = (token: string): string => `/join#${token}`;

/** @param base where the workshop answers, or null where it does not yet */
export async function givenLink(base: string | null, token: string, expiresAt: string): Promise<GivenLink> {
  const path = joinPath(token);
  const url = base === null ? null : base + path;
  return { url, path, qr: url === null ? null : await QRCode.toString(url, { type: 'svg', margin: 2 }), expiresAt };
}

/** An address as a QR code for a terminal. */
export const inTerminal = (url: string): Promise<string> => QRCode.toString(url, { type: 'terminal', small: true });
