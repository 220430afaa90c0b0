/** How a count-off is wanted. Everything has a sensible value already. */
export interface CountOffSettings {
  /** Full bars, before what completes a pickup. */
  readonly bars: number;
  /** Id of a count school. */
  readonly school: string;
  /** Id of a count-off style. */
  readonly style: string;
  /** The last beat is left open, for a breath. */
  readonly breathOnLastBeat: boolean;
  /** Spoken on the last beat instead of its numeral: the bar's number or rehearsal mark. */
  readonly cueWord: string | null;
  /** For a pitched count-off: the first note of the entry as a MIDI number. */
  readonly firstNote: number | null;
}

export const MAX_COUNT_OFF_BARS = 8;

export const PLAIN_COUNT_OFF: CountOffSettings = {
  bars: 1,
  school: 'plain',
  style: 'plain',
  breathOnLastBeat: false,
  cueWord: null,
  firstNote: null,
};
