import { Logger } from 'graphile-worker';

/** The queue says nothing of its own: what matters is told by who uses it. */
export const silentLogger = (say: (message: string) => void = () => undefined): Logger =>
  new Logger(() => (level, message) => {
    if (String(level) === 'error') say(message);
  });
