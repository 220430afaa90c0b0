import type { RunSaying } from '@anchorbeat/core';

/** Says something to a run that has so many commands; rejects where it is refused, or nobody answers. */
type Send = (runId: string, known: number, saying: RunSaying) => Promise<void>;

interface Waiting {
  readonly runId: string;
  known: number;
  saying: RunSaying;
  readonly end: (answer: Promise<void>) => void;
  readonly answer: Promise<void>;
}

/**
 * What one hand says to a run, one after the other: what is said before the one before was answered waits for that, and is
 * not taken for somebody else's. Changes that wait together become one. A stop waits for nobody.
 */
export class SayingsInTurn {
  private waiting: Waiting[] = [];
  private isSaying = false;
  /** The run that was spoken to last, and how many commands it had after that. */
  private after = { runId: '', count: 0 };

  constructor(private readonly send: Send) {}

  /** `known` is how many commands of the run are seen as this is said. Where the one before is refused it is not said at all. */
  say(runId: string, known: number, saying: RunSaying): Promise<void> {
    if (saying.kind === 'stop') {
      this.forget(runId);
      return this.send(runId, known, saying);
    }
    const last = this.waiting.at(-1);
    const both = last?.runId === runId ? togetherMaybe(last.saying, saying) : null;
    if (last && both) {
      last.saying = both;
      last.known = Math.max(last.known, known);
      // Whoever said the first of them is told.
      return last.answer.catch(() => undefined);
    }
    let end: Waiting['end'] = () => undefined;
    const answer = new Promise<void>((resolve) => (end = resolve));
    this.waiting.push({ runId, known, saying, end, answer });
    void this.sayAll();
    return answer;
  }

  private async sayAll(): Promise<void> {
    if (this.isSaying) return;
    this.isSaying = true;
    for (let one = this.waiting.shift(); one; one = this.waiting.shift()) {
      const { runId, saying } = one;
      const known = Math.max(one.known, this.after.runId === runId ? this.after.count : 0);
      const answer = this.send(runId, known, saying);
      one.end(answer);
      await answer.then(
        () => (this.after = { runId, count: known + 1 }),
        () => this.forget(runId),
      );
    }
    this.isSaying = false;
  }

  /** What waits to be said to a run is not said any more. */
  private forget(runId: string): void {
    for (const one of this.waiting) if (one.runId === runId) one.end(Promise.resolve());
    this.waiting = this.waiting.filter((one) => one.runId !== runId);
  }
}

/** Two changes that hold from the same kind of moment, as one; null for anything else. */
function togetherMaybe(before: RunSaying, saying: RunSaying): RunSaying | null {
  if (before.kind !== 'change' || saying.kind !== 'change' || before.every !== saying.every) return null;
  return { ...saying, settings: { ...before.settings, ...saying.settings } };
}
