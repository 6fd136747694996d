import { X509Certificate, createPrivateKey, randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { isIP } from 'node:net';
import { join } from 'node:path';
import { generate } from 'selfsigned';
import type { Opened } from '@vast-surge/contract';
import { messageOf } from '../fail.ts';

/** A certificate that cannot be used, in words. */
export class NoCertificate extends Error {}

export interface Certificate {
  readonly key: string;
  /** With what it is signed by, where that is the workshop's own. */
  readonly chain: string;
  readonly shown: NonNullable<Opened['certificate']>;
}

const day = 86_400_000;
/** Days that a certificate holds: of the authority ten years, of the server what browsers take. */
const authorityDays = 3650;
const serverDays = 397;
/** One that runs out sooner than this is made anew. */
const renewDays = 30;

const text = (path: string): Promise<string | null> => readFile(path, 'utf8').catch(() => null);

/** Whole or not at all, and for nobody else to read. */
async function keep(path: string, what: string): Promise<void> {
  await writeFile(`${path}.new`, what, { mode: 0o600 });
  await rename(`${path}.new`, path);
}

const daysLeft = (certificate: X509Certificate, now: number): number => (Date.parse(certificate.validTo) - now) / day;

const shownOf = (of: X509Certificate, ends: X509Certificate, isOwn: boolean): Certificate['shown'] => ({
  isOwn,
  expiresAt: new Date(ends.validTo).toISOString(),
  fingerprint: of.fingerprint256,
});

const named = (name: string) => [{ name: 'commonName', value: name }];

/** The authority of this workshop, made once: a device that trusts it trusts every certificate that the workshop makes. */
async function authority(folder: string, now: number): Promise<{ key: string; cert: string }> {
  const [key, cert] = [await text(join(folder, 'authority.key')), await text(join(folder, 'authority.crt'))];
  if (key !== null && cert !== null && daysLeft(new X509Certificate(cert), now) > serverDays) return { key, cert };
  // Two servers have two authorities: under one name whoever trusts both would ask the wrong one.
  const made = await generate(named(`Vast Surge workshop ${randomBytes(4).toString('hex')}`), {
    keyType: 'ec',
    algorithm: 'sha256',
    // A device whose clock is a little behind takes it as well.
    notBeforeDate: new Date(now - day),
    notAfterDate: new Date(now + authorityDays * day),
    extensions: [
      { name: 'basicConstraints', cA: true, pathLenConstraint: 0, critical: true },
      { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
    ],
  });
  await keep(join(folder, 'authority.key'), made.private);
  // With its end of line: files of several authorities are put one behind the other.
  const pem = `${made.cert.trimEnd()}\n`;
  await keep(join(folder, 'authority.crt'), pem);
  return { key: made.private, cert: pem };
}

const holds = (certificate: X509Certificate, name: string): boolean =>
  (isIP(name) ? certificate.checkIP(name) : certificate.checkHost(name)) !== undefined;

/** The operator's own. @throws NoCertificate saying what is wrong with it */
function givenCertificate(cert: string, key: string, names: readonly string[], now: number): Certificate {
  let read: X509Certificate;
  try {
    read = new X509Certificate(cert);
    if (!read.checkPrivateKey(createPrivateKey(key))) throw new Error('the key is not that of the certificate');
  } catch (error) {
    throw new NoCertificate(`The certificate cannot be used: ${messageOf(error)}.`);
  }
  if (daysLeft(read, now) <= 0)
    throw new NoCertificate(
      `The certificate ran out on ${new Date(read.validTo).toISOString().slice(0, 10)}: bring a newer one.`,
    );
  if (Date.parse(read.validFrom) > now)
    throw new NoCertificate(
      `The certificate holds from ${new Date(read.validFrom).toISOString().slice(0, 10)} on, which is not yet.`,
    );
  if (!names.some((name) => holds(read, name)))
    throw new NoCertificate(
      `The certificate holds for ${read.subjectAltName ?? 'no name'}, and for none of ${names.join(', ')}.`,
    );
  return { key, chain: cert, shown: shownOf(read, read, false) };
}

/** Takes the operator's certificate and key into the folder, looked at first. @throws NoCertificate */
export async function takeCertificate(folder: string, cert: string, key: string, names: readonly string[]): Promise<void> {
  givenCertificate(cert, key, names, Date.now());
  await mkdir(folder, { recursive: true, mode: 0o700 });
  await keep(join(folder, 'given.key'), key);
  await keep(join(folder, 'given.crt'), cert);
}

/**
 * What the server shows to devices: the operator's certificate where there is one, else one of the workshop's own authority, made anew when
 * its names change or it runs out soon.
 *
 * @param folder where keys are kept
 * @param names addresses and host names that it has to hold for
 * @throws NoCertificate where the operator's cannot be used
 */
export async function certificateFor(folder: string, names: readonly string[], now = Date.now()): Promise<Certificate> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const [given, givenKey] = [await text(join(folder, 'given.crt')), await text(join(folder, 'given.key'))];
  if (given !== null && givenKey !== null) return givenCertificate(given, givenKey, names, now);
  const ca = await authority(folder, now);
  const whole = [...new Set([...names, 'localhost', '127.0.0.1'])];
  const root = new X509Certificate(ca.cert);
  const [cert, key] = [await text(join(folder, 'server.crt')), await text(join(folder, 'server.key'))];
  if (cert !== null && key !== null) {
    const read = new X509Certificate(cert);
    if (read.verify(root.publicKey) && daysLeft(read, now) > renewDays && whole.every((name) => holds(read, name)))
      return { key, chain: `${cert.trim()}\n${ca.cert}`, shown: shownOf(root, read, true) };
  }
  const made = await generate(named(names[0] ?? 'localhost'), {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(now - day),
    notAfterDate: new Date(now + (serverDays - 1) * day),
    ca,
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: whole.map((name) => (isIP(name) ? { type: 7 as const, ip: name } : { type: 2 as const, value: name })),
      },
    ],
  });
  await keep(join(folder, 'server.key'), made.private);
  await keep(join(folder, 'server.crt'), made.cert);
  return {
    key: made.private,
    chain: `${made.cert.trim()}\n${ca.cert}`,
    shown: shownOf(root, new X509Certificate(made.cert), true),
  };
}
