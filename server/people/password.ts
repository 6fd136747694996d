import { hash, verify } from '@node-rs/argon2';

// OWASP Password Storage Cheat Sheet: argon2id, which is what the package takes, with 19 MiB, two passes and one lane at the least.
const cost = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** A password as it is kept. */
export const hashOf = (password: string): Promise<string> => hash(password, cost);

let nobody: Promise<string> | null = null;

/** Whether a password is the one that is kept. Where there is none it takes as long: nobody learns by the clock who has an account. */
export async function isPassword(password: string, kept: string | null): Promise<boolean> {
  nobody ??= hashOf('there is nobody of this name');
  const fits = await verify(kept ?? (await nobody), password);
  return fits && kept !== null;
}
