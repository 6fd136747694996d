import { z } from 'zod';
import { givenLinkSchema } from './account.ts';

const addressSchema = z
  .string({ error: () => 'must be an address' })
  .regex(/^(\d{1,3}\.){3}\d{1,3}$|^[0-9a-f:]+$/i, { error: () => 'must be an IP address of this machine' })
  .max(45, { error: () => 'must be an IP address of this machine' });

const hostName = z
  .string({ error: () => 'must be a host name' })
  .max(253, { error: () => 'must have at most 253 letters' })
  .regex(/^(?!-)[a-z0-9-]{1,63}(\.(?!-)[a-z0-9-]{1,63})*$/, {
    error: () => 'must be a host name in small letters, such as bench.local',
  });

/** How the workshop answers other devices. */
export const openingSchema = z.strictObject({
  addresses: z
    .array(addressSchema)
    .min(1, { error: () => 'must have at least one address' })
    .max(20, { error: () => 'has more than 20 addresses' }),
  names: z.array(hostName).max(20, { error: () => 'has more than 20 names' }),
  port: z
    .int({ error: () => 'must be a whole number' })
    .min(1024, { error: () => 'must be from 1024 to 65535' })
    .max(65535, { error: () => 'must be from 1024 to 65535' }),
});
export type Opening = Readonly<z.infer<typeof openingSchema>>;

/** PUT /api/opening: null closes the workshop. */
export const setOpeningSchema = z.strictObject({ opening: openingSchema.nullable() });

/** GET /api/opening */
export const openedSchema = z.object({
  opening: openingSchema.nullable(),
  /** Addresses this machine has, and from how far each is reached: from the machine itself alone, to try it, from a private network, or from anywhere. */
  available: z.array(z.object({ address: z.string(), network: z.string(), reach: z.enum(['machine', 'private', 'public']) })),
  /** What is answered at, and why an address is not. */
  listening: z.array(z.object({ url: z.string(), trouble: z.string().nullable() })),
  certificate: z
    .object({
      /** Made by the workshop's own authority, or brought by the operator. */
      isOwn: z.boolean(),
      expiresAt: z.iso.datetime(),
      /** SHA-256 of what a device has to trust, in pairs. */
      fingerprint: z.string(),
    })
    .nullable(),
  /** The way in for the first administrator, told once, when the workshop is opened without one. */
  first: givenLinkSchema.nullable(),
});
export type Opened = Readonly<z.infer<typeof openedSchema>>;
