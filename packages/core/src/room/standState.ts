/** What a stand is doing, as it says itself; player and director read the same words. */
export const STAND_STATES = [
  'joining',
  'loading',
  'locking',
  'ready',
  'counting off',
  'playing',
  'waiting for a cue',
  'muted by the director',
  'muted here',
  'silent: poor lock',
  'lost',
] as const;
export type StandState = (typeof STAND_STATES)[number];

/** What a stand tells of itself, every few seconds and at every change. */
export interface StandReport {
  readonly state: StandState;
  /** How well its clock is known, in milliseconds; null while it is not. */
  readonly withinMs: number | null;
  readonly slowRoundTripMs: number | null;
  /** How far its sound is behind its clock, in milliseconds. */
  readonly latencyMs: number;
  /** Whether its page is in front. */
  readonly isSeen: boolean;
}
