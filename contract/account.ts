import { z } from 'zod';
import { textUpTo } from '@vast-surge/core/field';

/** What a person may be in a workshop that other devices come into. A person has one of them or several; whoever is signed in may watch. */
export const roles = ['administers', 'designs', 'acts', 'reads', 'watches'] as const;
export type Role = (typeof roles)[number];
export const roleSchema = z.enum(roles, { error: () => `must be one of ${roles.join(', ')}` });

/** What a role is there for, as people read it. */
export const roleSays: { readonly [K in Role]: string } = {
  administers: 'people, devices, backups, restores, the audit, and opening the workshop',
  designs: 'rigs, parts and campaigns',
  acts: 'holds the key: begins live runs, does their steps, writes shots',
  reads: 'is the second person: reads meters, answers holds, writes shots',
  watches: 'sees everything and changes nothing',
};

/** For whom something is, for whoever may not do it: server and page say it alike. */
export const forWhom = (may: readonly Role[]): string => `This is for whoever ${may.join(' or ')}`;

export const rolesSchema = z
  .array(roleSchema)
  .min(1, { error: () => 'must have at least one role' })
  .max(roles.length, { error: () => 'has a role twice' })
  .refine((list) => new Set(list).size === list.length, { error: () => 'has a role twice' });

const personName = textUpTo(60)
  .trim()
  .min(1, { error: () => 'must not be empty' });

/** Length is what counts: nothing is asked of the letters. */
export const leastPassword = 12;
const passwordSchema = z
  .string({ error: () => 'must be a password' })
  .min(leastPassword, { error: () => `must have at least ${leastPassword} characters` })
  .max(200, { error: () => 'must have at most 200 characters' });

/** One that is asked for and compared: not held to the length of a new one, for a wrong one is told as wrong, however long it is. */
const givenPassword = z
  .string({ error: () => 'must be a password' })
  .max(200, { error: () => 'must have at most 200 characters' });

const deviceName = textUpTo(60)
  .trim()
  .min(1, { error: () => 'must not be empty' });

/** How a device signs in: what it is called, and whether it stays signed in when it was not used for a day. */
const deviceAsked = { device: deviceName, forGood: z.boolean({ error: () => 'must be true or false' }) };

/** A code of an authenticator app. */
const codeSchema = z
  .string({ error: () => 'must be a code' })
  .max(20, { error: () => 'must be the six digits of the app' })
  .transform((text) => text.replaceAll(' ', ''))
  .refine((text) => /^\d{6}$/.test(text), { error: () => 'must be the six digits of the app' });

/** POST /api/session/sign-in */
export const signInSchema = z.strictObject({
  name: personName,
  password: givenPassword,
  /** Asked for where the account has a second factor. */
  code: codeSchema.optional(),
  ...deviceAsked,
});
export type SignIn = z.input<typeof signInSchema>;

/** The secret of a one-time link. */
export const tokenSchema = z
  .string({ error: () => 'must be the end of a link' })
  .max(100, { error: () => 'must be the end of a link as it was given out' })
  .regex(/^[\w-]{43}$/, { error: () => 'must be the end of a link as it was given out' });

export const linkKinds = ['account', 'password', 'device'] as const;
export type LinkKind = (typeof linkKinds)[number];

/** POST /api/session/link: what a one-time link is for. */
export const askLinkSchema = z.strictObject({ token: tokenSchema });
export const linkSchema = z.object({
  kind: z.enum(linkKinds),
  /** Of the account it is for; null where it makes one. */
  name: z.string().nullable(),
  roles: z.array(roleSchema),
  expiresAt: z.iso.datetime(),
});
export type Link = Readonly<z.infer<typeof linkSchema>>;

/** POST /api/session/join: takes a link up. A new account says its name and password, a new password itself, a device neither. */
export const joinSchema = z.strictObject({
  token: tokenSchema,
  name: personName.nullable(),
  password: passwordSchema.nullable(),
  ...deviceAsked,
});
export type Join = z.input<typeof joinSchema>;

/** POST /api/session/password */
export const changePasswordSchema = z.strictObject({
  was: givenPassword,
  next: passwordSchema,
});

/** GET /api/session/factor: a secret for an authenticator app, kept nowhere until a code proves that the app has it. */
export const newFactorSchema = z.object({ secret: z.string(), url: z.string(), qr: z.string() });
export type NewFactor = Readonly<z.infer<typeof newFactorSchema>>;

/** PUT /api/session/factor: null takes it off. The password is asked for both ways. */
export const setFactorSchema = z.strictObject({
  password: givenPassword,
  factor: z
    .strictObject({
      secret: z
        .string({ error: () => 'must be the secret that was given' })
        .max(64, { error: () => 'must be the secret that was given' })
        .regex(/^[A-Z2-7]{32}$/, { error: () => 'must be the secret that was given' }),
      code: codeSchema,
    })
    .nullable(),
});
export type SetFactor = z.input<typeof setFactorSchema>;

/** A link as it is given out, once: who has it takes it up. */
export const givenLinkSchema = z.object({
  /** Null where the workshop is not open at an address yet. */
  url: z.string().nullable(),
  path: z.string(),
  /** The address as a QR code, SVG. */
  qr: z.string().nullable(),
  expiresAt: z.iso.datetime(),
});
export type GivenLink = Readonly<z.infer<typeof givenLinkSchema>>;

export const deviceSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  forGood: z.boolean(),
  madeAt: z.iso.datetime(),
  seenAt: z.iso.datetime(),
  /** Where it was last seen. */
  address: z.string(),
  revokedAt: z.iso.datetime().nullable(),
});
export type Device = Readonly<z.infer<typeof deviceSchema>>;

export const accountSchema = z.object({
  id: z.uuid(),
  /** Null of a person whose name was taken out. */
  name: z.string().nullable(),
  roles: z.array(roleSchema),
  madeAt: z.iso.datetime(),
  endedAt: z.iso.datetime().nullable(),
  /** Whether a code of an authenticator app is asked for besides the password. */
  hasFactor: z.boolean(),
});
export type Account = Readonly<z.infer<typeof accountSchema>>;

/** GET /api/session: who asks. Alone, whoever uses the machine may do everything, and there are no accounts. */
export const sessionSchema = z.object({
  mode: z.enum(['alone', 'open']),
  account: accountSchema.nullable(),
  device: z.uuid().nullable(),
  /** Rigs that are for others: one may watch them. */
  closedRigs: z.array(z.uuid()).optional(),
});
export type Session = Readonly<z.infer<typeof sessionSchema>>;

/** What a browser sends of a passkey: read by what checks it. */
const fromBrowserSchema = z.looseObject({
  id: z.string({ error: () => 'must be the id of a passkey' }).max(1400, { error: () => 'must be the id of a passkey' }),
});

/** POST /api/session/passkeys/options: what a browser makes a passkey from. */
export const askPasskeySchema = z.strictObject({
  password: givenPassword,
});
/** What a browser is given, as it wants it. */
export const browserOptionsSchema = z.looseObject({ challenge: z.string() });
export type BrowserOptions = z.infer<typeof browserOptionsSchema>;

/** POST /api/session/passkeys */
export const keepPasskeySchema = z.strictObject({ name: deviceName, response: fromBrowserSchema });
export type KeepPasskey = z.input<typeof keepPasskeySchema>;

/** POST /api/session/passkey-sign-in */
export const passkeySignInSchema = z.strictObject({ response: fromBrowserSchema, ...deviceAsked });
export type PasskeySignIn = z.input<typeof passkeySignInSchema>;

export const passkeySchema = z.object({
  id: z.string(),
  name: z.string(),
  /** The host name it signs in at. */
  host: z.string(),
  madeAt: z.iso.datetime(),
  usedAt: z.iso.datetime().nullable(),
});
export type Passkey = Readonly<z.infer<typeof passkeySchema>>;

/** GET /api/session/mine: everything that is kept of the person who asks. */
export const mineSchema = z.object({
  account: accountSchema,
  devices: z.array(deviceSchema),
  passkeys: z.array(passkeySchema),
  /** Rigs for some people only that this person works on. */
  rigs: z.array(z.uuid()),
  /** Studies that this person asked for and that are kept. */
  studies: z.array(z.uuid()),
  audit: z.array(z.looseObject({ number: z.int(), at: z.iso.datetime(), act: z.string() })),
});
export type Mine = Readonly<z.infer<typeof mineSchema>>;

/** GET /api/people */
export const personSchema = accountSchema.extend({ devices: z.array(deviceSchema) });
export const peopleSchema = z.array(personSchema);
export type Person = Readonly<z.infer<typeof personSchema>>;

/** GET and PUT /api/people/rigs/:id: who works on a rig that is for some people only; nobody where it is everybody's, by their roles. */
export const rigPeopleSchema = z.strictObject({
  accounts: z
    .array(z.uuid({ error: () => 'must be the id of an account' }))
    .max(500, { error: () => 'has more than 500 people' }),
});
export type RigPeople = Readonly<z.infer<typeof rigPeopleSchema>>;

/** POST /api/people/links: an invitation with roles, or a new password or device for an account. */
export const giveLinkSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('account'), roles: rolesSchema }),
  z.strictObject({ kind: z.literal('password'), account: z.uuid({ error: () => 'must be the id of an account' }) }),
]);

/** PATCH /api/people/:id */
export const setPersonSchema = z.strictObject({
  roles: rolesSchema.optional(),
  ended: z.boolean({ error: () => 'must be true or false' }).optional(),
});
export type SetPerson = z.input<typeof setPersonSchema>;

/** One act in the audit. Names stand beside it, outside the chain. */
export const auditEntrySchema = z.object({
  number: z.int().positive(),
  at: z.iso.datetime(),
  who: z.uuid().nullable(),
  name: z.string().nullable(),
  device: z.string().nullable(),
  act: z.string(),
  /** The id of what it was done to. */
  about: z.string().nullable(),
  what: z.unknown(),
  hash: z.string(),
});
export type AuditEntry = Readonly<z.infer<typeof auditEntrySchema>>;

/** GET /api/audit/check */
export const auditCheckSchema = z.object({
  entries: z.int().min(0),
  /** The first entry whose sum does not fit, or that is missing; null where the chain holds. */
  brokenAt: z.int().nullable(),
  /** The sum of the last one: whoever wrote it down elsewhere sees whether the end was cut off. */
  last: z.string().nullable(),
});
export type AuditCheck = Readonly<z.infer<typeof auditCheckSchema>>;
