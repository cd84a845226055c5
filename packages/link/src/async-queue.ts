/** Values pushed by one side, taken in order by one reader; unbounded, so the reader must be quick. */
export class AsyncQueue<T> implements AsyncIterable<T> {
  private readonly values: T[] = [];
  private wake: (() => void) | undefined;
  private ended = false;
  private failure: Error | undefined;

  push(value: T): void {
    if (this.ended) return;
    this.values.push(value);
    this.wake?.();
  }

  /** No more values; with a failure the reader throws it after the last value. */
  end(failure?: Error): void {
    if (this.ended) return;
    this.ended = true;
    this.failure = failure;
    this.wake?.();
  }

  async *[Symbol.asyncIterator](): AsyncGenerator<T> {
    for (;;) {
      for (let value = this.values.shift(); value !== undefined; value = this.values.shift()) yield value;
      if (this.ended) break;
      await new Promise<void>((resolve) => (this.wake = resolve));
    }
    if (this.failure) throw this.failure;
  }
}
