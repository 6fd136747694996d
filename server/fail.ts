/** One clear line on the error output and a non-zero exit. */
export function fail(message: string, code = 1): never {
  process.stderr.write(`surge: ${message}\n`);
  process.exit(code);
}

/** The first line of what went wrong. */
export const messageOf = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error)).split('\n')[0] ?? '';
