const MOST_KEYS = 10_000;

/** Counts tries in a window that moves on with time: so many for each key, such as an address or a name. */
export class Tries {
  private readonly times = new Map<string, number[]>();

  constructor(
    private readonly most: number,
    private readonly windowMs: number,
    private readonly nowMs: () => number = () => performance.now(),
  ) {}

  /** Seconds until the next try, 0 where one may be made now. */
  waitSeconds(key: string): number {
    const recent = this.recent(key);
    const oldest = recent[recent.length - this.most];
    return oldest === undefined ? 0 : Math.max(1, Math.ceil((oldest + this.windowMs - this.nowMs()) / 1000));
  }

  add(key: string): void {
    const recent = [...this.recent(key), this.nowMs()].slice(-this.most);
    this.times.delete(key);
    this.times.set(key, recent);
    const [longestUnused] = this.times.keys();
    if (this.times.size > MOST_KEYS && longestUnused !== undefined) this.times.delete(longestUnused);
  }

  forget(key: string): void {
    this.times.delete(key);
  }

  private recent(key: string): number[] {
    const from = this.nowMs() - this.windowMs;
    return (this.times.get(key) ?? []).filter((time) => time > from);
  }
}
