/** A mistake of the caller: one message, exit code 2. */
export class UsageError extends Error {}

/** What stands in a JSON file. @throws UsageError naming the file */
export function readJson(name: string, text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\uFEFF/, '')) as unknown;
  } catch (error) {
    throw new UsageError(`${name} is not complete JSON: ${error instanceof Error ? error.message.slice(0, 120) : 'unreadable'}`);
  }
}
