import { hopHeight, type CountOff } from '@anchorbeat/core';

/** A beat of the count-off as a hop. */
export interface LeadInHop {
  readonly xPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly word: string;
  readonly stress: 'downbeat' | 'beat';
  readonly parts: number;
}

/** The count-off as hops that lead up to x = 0, where the entry is. */
export function leadInHops(countOff: CountOff | null, pixelsPerSecond: number): readonly LeadInHop[] {
  if (!countOff) return [];
  return countOff.beats.map((beat) => ({
    xPx: (beat.timeSeconds - countOff.lengthSeconds) * pixelsPerSecond,
    widthPx: beat.lengthSeconds * pixelsPerSecond,
    heightPx: hopHeight(beat.lengthSeconds),
    word: beat.word,
    stress: beat.isDownbeat ? 'downbeat' : 'beat',
    parts: 1,
  }));
}
