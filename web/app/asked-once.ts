/**
 * What was asked of the server for once, and not for a page that shows it.
 *
 * The answer is held until it is read: what nobody holds is thrown away the moment something is told to have changed, and an answer that
 * comes in that moment would be lost. Where it is asked for anew meanwhile, the first answer counts.
 *
 * @throws the failure of the request
 */
export async function askedOnce<T>(asked: { unwrap(): Promise<T>; unsubscribe(): void }): Promise<T> {
  try {
    return await asked.unwrap();
  } finally {
    asked.unsubscribe();
  }
}
