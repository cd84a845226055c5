/** Something that the launcher starts, and starts again when it ends by itself. */
export interface KeptAlive {
  /** Ends it for good. */
  stop(): Promise<void>;
}

/** One life of it: over resolves with words when it ended by itself. */
export interface Life {
  readonly over: Promise<string>;
  readonly stop: () => Promise<void>;
}

/** 1, 2, 4 … s, half a minute at most; anew after it has stood for a minute. */
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 30_000;
const STANDS_AFTER_MS = 60_000;

export interface Pace {
  readonly nowMs: () => number;
  readonly wait: (ms: number) => Promise<void>;
}

const SYSTEM: Pace = {
  nowMs: () => performance.now(),
  wait: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
};

/**
 * Starts it, and whenever it ends, again after growing waits, telling each time. Rejects if the very first start fails: then
 * something is wrong that starting again does not mend.
 */
export async function keepAlive(
  name: string,
  start: () => Promise<Life>,
  tell: (words: string) => void,
  pace: Pace = SYSTEM,
): Promise<KeptAlive> {
  let isStopped = false;
  let life: Life | undefined = await start();
  let startedAtMs = pace.nowMs();
  const watch = async (): Promise<void> => {
    for (let tries = 0; !isStopped;) {
      const words = life ? await life.over : '';
      if (isStopped) return;
      if (pace.nowMs() - startedAtMs >= STANDS_AFTER_MS) tries = 0;
      const waitMs = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** tries++);
      tell(`${name} ended${words === '' ? '' : ` (${words})`}. It is started again in ${waitMs / 1000} s.`);
      await pace.wait(waitMs);
      if (isStopped) return;
      startedAtMs = pace.nowMs();
      life = await start().then(
        (next) => {
          tell(`${name} is back.`);
          return next;
        },
        (error: Error) => ({ over: Promise.resolve(error.message), stop: () => Promise.resolve() }),
      );
      if (isStopped) await life.stop();
    }
  };
  void watch();
  return {
    stop: async () => {
      isStopped = true;
      await life?.stop();
    },
  };
}
