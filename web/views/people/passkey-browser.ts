import type { BrowserOptions } from '@vast-surge/contract';

/** Whether this browser has passkeys for the address it asks by: never for a bare one. */
export const hasPasskeys = (): boolean =>
  'PublicKeyCredential' in window && window.isSecureContext && !/^\[|^\d+(\.\d+){3}$/.test(window.location.hostname);

/** Fetched when somebody asks for it: most sign in by password. */
const browser = () => import('@simplewebauthn/browser');

/** What the browser signs in with. @throws where nobody touched it, or there is none */
export async function signedByPasskey(options: BrowserOptions) {
  const { startAuthentication } = await browser();
  return startAuthentication({ optionsJSON: options as never });
}

/** What the browser made. @throws where it was cancelled, or the device has one already */
export async function madePasskey(options: BrowserOptions) {
  const { startRegistration } = await browser();
  return startRegistration({ optionsJSON: options as never });
}
