let starting: Promise<void> | null = null;

/**
 * Gives this tab its name, takes up what it still has to send and starts sending, once: whatever page writes something waits for it.
 * The script behind it comes after the first page is drawn.
 *
 * @throws what fetching it throws; then it is tried again by whoever asks next
 */
export function sessionStarted(): Promise<void> {
  starting ??= import('./session.ts')
    .then(({ startSession }) => startSession())
    .catch((error: unknown) => {
      starting = null;
      throw error;
    });
  return starting;
}
