import { Secret, TOTP } from 'otpauth';

/** Seconds of one code; one before and one after are taken as well, for clocks differ. */
const period = 30;

const totp = (secret: string, label: string) =>
  new TOTP({ issuer: 'Vast Surge', label, secret: Secret.fromBase32(secret), period, digits: 6, algorithm: 'SHA1' });

/** A new secret of 160 bits, and the address by which an authenticator app takes it (RFC 6238). */
export function newFactor(label: string): { secret: string; url: string } {
  const secret = new Secret({ size: 20 }).base32;
  return { secret, url: totp(secret, label).toString() };
}

/** The step of a code, counted from 1970; null where it is not one of now. @param at ms since 1970 */
export function stepOf(secret: string, code: string, at: number): number | null {
  const off = totp(secret, '').validate({ token: code, timestamp: at, window: 1 });
  return off === null ? null : Math.floor(at / 1000 / period) + off;
}
