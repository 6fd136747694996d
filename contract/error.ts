import { z } from 'zod';

/** Every way a request can fail, with its HTTP status. One catalogue for server and web. */
export const faults = {
  bad_input: 400,
  bad_json: 400,
  signed_out: 401,
  wrong_sign_in: 401,
  code_needed: 401,
  forbidden_host: 403,
  not_allowed: 403,
  not_found: 404,
  old_page: 404,
  conflict: 409,
  link_spent: 410,
  key_reused: 409,
  too_large: 413,
  too_costly: 413,
  unsupported_type: 415,
  too_many: 429,
  internal: 500,
  database_away: 503,
  restoring: 503,
  busy: 503,
  disk_full: 507,
  instrument_away: 502,
} as const;

export type FaultCode = keyof typeof faults;

export const faultSchema = z.object({
  code: z.enum(Object.keys(faults) as [FaultCode, ...FaultCode[]]),
  /** One line for a person. */
  message: z.string(),
  /** Which fields are wrong and what they may be. */
  fields: z.array(z.object({ path: z.string(), reason: z.string() })).default([]),
});

/** Faults that pass by themselves: what was asked is asked again after a while, and nothing is lost meanwhile. */
export const passing: ReadonlySet<string> = new Set<FaultCode>([
  'signed_out',
  'database_away',
  'restoring',
  'busy',
  'too_many',
  'disk_full',
]);

/** The body of every answer that is not a success. */
export type Fault = z.infer<typeof faultSchema>;

/** The sentence for each fault where nothing more is known. */
export const faultMessages: { readonly [K in FaultCode]: string } = {
  bad_input: 'The request holds something that cannot be taken.',
  bad_json: 'The request is not complete JSON.',
  signed_out: 'Nobody is signed in on this device: sign in to go on. What was typed is kept.',
  wrong_sign_in: 'The name or the password is wrong.',
  code_needed: 'This account asks for the six digits of its authenticator app as well.',
  not_allowed: 'Your roles do not allow this.',
  link_spent: 'This link was used, has run out, or was taken back: ask for another.',
  forbidden_host: 'This server answers only pages of its own.',
  not_found: 'There is nothing under this address.',
  old_page: 'This page is of an older version: reload it.',
  conflict: 'This rig was changed elsewhere in the meantime.',
  key_reused: 'This key was used for another request: every write needs a key of its own.',
  too_large: 'The request is too large: a rig has at most 256 KiB, parts together 32 MiB, a file of a shot 12 MiB.',
  too_costly: 'The request takes more time or memory than anything of this workshop would.',
  unsupported_type: 'The request must be JSON.',
  too_many: 'Too many requests in a short time: wait a moment.',
  internal: 'Something went wrong in the server; nothing was written.',
  instrument_away: 'The instrument does not answer.',
  database_away: 'The database does not answer; nothing was written. It is tried again with the next request.',
  restoring: 'The workshop is being restored from a backup; nothing was written. Try again in a moment.',
  busy: 'The server is busy with something that takes long; nothing was written. Try again in a moment.',
  disk_full: 'The disk of the server is full; nothing was written. Make room on it, then try again.',
};
