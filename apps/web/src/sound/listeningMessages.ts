/** How the worklet that listens is to listen. Seconds of the sound's clock. */
export interface ListeningOrder {
  /** From when something is sounded to when the microphone hears it. */
  readonly latencySeconds: number;
  /** Until then nobody plays: what of our own sound is heard shows how loud it comes in. */
  readonly learnsUntilSeconds: number;
  /** Whether our own sound is passed over; not while the delay itself is measured. */
  readonly masks: boolean;
}

/** An onset that was heard. */
export interface ListeningNews {
  readonly seconds: number;
}

/** Told each onset, in seconds of the sound's clock as the microphone hears it. */
export type Hears = (seconds: number) => void;

/** The microphone, open. */
export interface Listening {
  readonly order: (order: ListeningOrder) => void;
  readonly close: () => void;
}
