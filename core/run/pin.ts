import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { z } from 'zod';

/** What a person types at a hold: four to eight digits. */
export const pinPattern = /^\d{4,8}$/;

const hex = z
  .string()
  .max(64)
  .regex(/^[0-9a-f]{64}$/, { error: () => 'must be 64 hexadecimal digits' });

/**
 * A PIN as a run keeps it: nobody reads the PIN from it at a glance, and whoever answers a hold has to have it. It keeps two people
 * honest with each other; four digits are no lock against somebody who computes.
 */
export const pinCheckSchema = z.strictObject({
  salt: z
    .string()
    .max(64)
    .regex(/^[0-9a-f]{16,64}$/, { error: () => 'must be 16 to 64 hexadecimal digits' }),
  check: hex,
});
export type PinCheck = Readonly<z.infer<typeof pinCheckSchema>>;
export const pinProofSchema = hex;

const hashed = (text: string): string => bytesToHex(sha256(utf8ToBytes(text)));

/** What answers a hold: made from the PIN, and checked by hashing it once more. */
export const pinProof = (salt: string, pin: string): string => hashed(`${salt} ${pin}`);

/** @param salt hexadecimal digits by chance, another for each run */
export const pinCheck = (salt: string, pin: string): PinCheck => ({ salt, check: hashed(pinProof(salt, pin)) });

export const isProofOf = ({ check }: PinCheck, proof: string): boolean => hashed(proof) === check;
