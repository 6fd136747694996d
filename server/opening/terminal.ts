import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { openingSchema, type Opening } from '@vast-surge/contract';
import { writing } from '../db/gate.ts';
import type { Pool } from '../db/pool.ts';
import { fail, messageOf } from '../fail.ts';
import { checkAudit } from '../people/audit.ts';
import { availableAddresses } from './addresses.ts';
import { certificateFor, takeCertificate } from './certificate.ts';
import { baseOf, keysIn } from './doors.ts';
import { readProxy } from './proxy.ts';
import { inTerminal, joinPath } from './links.ts';
import { addAdministrator, openingOf, setOpening } from './settings.ts';

const usualPort = 4643;

const options = {
  address: { type: 'string', multiple: true },
  name: { type: 'string', multiple: true },
  port: { type: 'string' },
  cert: { type: 'string' },
  key: { type: 'string' },
  administrator: { type: 'boolean', default: false },
} as const;

function argumentsOf(args: readonly string[]) {
  try {
    return parseArgs({ args: [...args], options }).values;
  } catch (error) {
    return fail(messageOf(error), 2);
  }
}

/** What was asked for, beside what stands: addresses of this machine, or every private one of it. */
function askedOpening(values: ReturnType<typeof argumentsOf>, before: Opening | null): Opening {
  const available = availableAddresses();
  const all = available.map(({ address }) => address).join(', ') || 'it has none';
  const addresses =
    values.address ?? before?.addresses ?? available.filter(({ reach }) => reach === 'private').map(({ address }) => address);
  if (addresses.length === 0) fail(`this machine has no private address: name one by --address; it has ${all}`, 2);
  // What it is open at already may be the address of another server on the same database.
  const known = new Set([...available.map(({ address }) => address), ...(before?.addresses ?? [])]);
  const strange = addresses.find((address) => !known.has(address));
  if (strange !== undefined) fail(`--address is "${strange}"; it must be an address of this machine: ${all}`, 2);
  const read = openingSchema.safeParse({
    addresses,
    names: values.name ?? before?.names ?? [],
    port: values.port === undefined ? (before?.port ?? usualPort) : Number(values.port),
  });
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  return fail(`--${String(issue?.path[0]).replace(/(ss)?es$|s$/, '$1')} ${issue?.message ?? ''}`, 2);
}

const file = (option: string, path: string): Promise<string> =>
  readFile(path, 'utf8').catch((error: unknown) => fail(`${option}: ${path} cannot be read: ${messageOf(error)}`, 2));

/** `open`: the workshop answers other devices from now on, over TLS alone, and everybody signs in. */
export async function openWorkshop(pool: Pool, args: readonly string[], keep: string): Promise<string> {
  const values = argumentsOf(args);
  // One that cannot be read is written anew.
  const opening = askedOpening(values, await openingOf(pool).catch(() => null));
  const names = [...opening.names, ...opening.addresses];
  if ((values.cert === undefined) !== (values.key === undefined)) fail('--cert and --key go together', 2);
  const folder = keysIn(keep);
  const certificate = await (async () => {
    if (values.cert !== undefined && values.key !== undefined)
      await takeCertificate(folder, await file('--cert', values.cert), await file('--key', values.key), names);
    return certificateFor(folder, names);
  })().catch((error: unknown) => fail(messageOf(error), 2));
  const link = await writing(pool, async (client) => {
    const first = await setOpening(client, opening);
    return first ?? (values.administrator ? await addAdministrator(client) : null);
  });
  const lines = opening.addresses.map((address) => `open at ${baseOf({ ...opening, names: [], addresses: [address] })}`);
  const { isOwn, expiresAt, fingerprint } = certificate.shown;
  lines.push(
    isOwn
      ? `each device has to trust the workshop’s own authority once: ${join(folder, 'authority.crt')}, SHA-256 ${fingerprint}`
      : `the certificate is the one that was brought; it runs out on ${expiresAt.slice(0, 10)}`,
  );
  if (link) {
    const proxy = readProxy(process.env['VAST_SURGE_PROXY'] ?? '', process.env['VAST_SURGE_URL'] ?? '');
    const url = (proxy?.url.origin ?? baseOf(opening)) + joinPath(link.token);
    lines.push(
      `whoever opens this address until ${link.expiresAt.slice(0, 16).replace('T', ' ')} UTC administers the workshop, once: ${url}`,
      `\n${await inTerminal(url)}`,
    );
  }
  return lines.join('\n');
}

/** `close`: this machine alone again, without accounts. People, devices and the audit stay for the next time. */
export async function closeWorkshop(pool: Pool): Promise<string> {
  if ((await openingOf(pool).catch(() => undefined)) === null) return 'the workshop is not open to other devices';
  await writing(pool, (client) => setOpening(client, null));
  return 'closed: this machine alone is answered again, without signing in. Accounts and the audit stay';
}

/** `audit`: follows the chain. */
export async function auditWords(pool: Pool): Promise<string> {
  const { entries, brokenAt, last } = await checkAudit(pool);
  if (brokenAt !== null)
    return fail(`the audit is broken at entry ${brokenAt}: what stands there or before it was changed or is missing`);
  return entries === 0
    ? 'the audit is empty: the workshop was never open to other devices'
    : `the audit holds: ${entries} ${entries === 1 ? 'entry' : 'entries'}. Sum of the last, to be written down elsewhere: ${last ?? ''}`;
}
