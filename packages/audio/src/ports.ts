import type { RunClick } from '@anchorbeat/core';

/** A sound that has been handed to the output and may still be taken back. */
export interface ScheduledSound {
  /** Silences it at once, whether it has begun or not. */
  readonly cancel: () => void;
}

/** Where sound goes. Times are seconds on the output's own clock. */
export interface SoundOutput {
  readonly sampleRate: number;
  readonly nowSeconds: () => number;
  /** How much later than the clock says the ear hears it. */
  readonly latencySeconds: () => number;
  /** Lets the ear hear the sound exactly at `whenSeconds`: a click, or the tone or the word it stands for. */
  readonly schedule: (click: RunClick, whenSeconds: number) => ScheduledSound;
  /** Wakes the output; resolves once its clock runs. */
  readonly resume: () => Promise<void>;
}

/** Wakes the player again and again; the timing of the sound does not depend on it. */
export interface WakeTimer {
  /** Calls `wake` about every `periodSeconds`; the returned function stops it. */
  readonly every: (periodSeconds: number, wake: () => void) => () => void;
}
