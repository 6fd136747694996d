/** Work that is done again and again. */
export interface Repeated {
  /** Does it now, or once more when what is under way has ended. */
  poke(): void;
  /** Ends it and waits for what is under way. */
  end(): Promise<void>;
}

/** Does `work` at once and then every so many ms, never twice at a time. `work` sees to its own errors. */
export function repeat(every: number, work: () => Promise<void>): Repeated {
  let running: Promise<void> | null = null;
  let isWanted = false;
  let isEnded = false;
  const tick = () => {
    if (isEnded) return;
    if (running) {
      isWanted = true;
      return;
    }
    running = work().finally(() => {
      running = null;
      if (!isWanted) return;
      isWanted = false;
      tick();
    });
  };
  tick();
  const timer = setInterval(tick, every);
  return {
    poke: tick,
    end: async () => {
      isEnded = true;
      clearInterval(timer);
      await running;
    },
  };
}
