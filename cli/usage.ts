/** A mistake of the caller: one message, exit code 2. */
export class UsageError extends Error {}
