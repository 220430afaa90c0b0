import { MOST_TAKE_ONSETS } from '@anchorbeat/core';

/** What was tapped along with a run, in seconds of it. */
export interface Tapped {
  readonly runId: string;
  readonly onsets: readonly number[];
}

/** What a stand taps along with a run: told when the run is over, and again until it was heard. */
export class TappedTake {
  private tapped: { readonly runId: string; readonly onsets: number[]; isTold: boolean } | null = null;

  /** `tell` says whether it was heard, be it accepted or not. */
  constructor(private readonly tell: (tapped: Tapped) => Promise<boolean>) {}

  tap(runId: string, runSeconds: number): void {
    if (this.tapped?.runId !== runId) this.tapped = { runId, onsets: [], isTold: false };
    if (this.tapped.onsets.length < MOST_TAKE_ONSETS) this.tapped.onsets.push(runSeconds);
  }

  /** Tells what was tapped with a run that is over, where nobody has heard it yet. */
  tellUnheard(run: { readonly id: string; readonly isOver: boolean } | null): void {
    const { tapped } = this;
    if (!tapped || tapped.isTold || run?.id !== tapped.runId || !run.isOver) return;
    tapped.isTold = true;
    const { runId, onsets } = tapped;
    void this.tell({ runId, onsets }).then((isHeard) => {
      tapped.isTold = isHeard;
    });
  }
}
