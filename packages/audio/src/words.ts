/** Where a spoken word stands in the file of words, and where in it the ear hears the beat. Seconds. */
export interface SpokenWord {
  readonly startSeconds: number;
  readonly lengthSeconds: number;
  readonly anchorSeconds: number;
}

export type WordIndex = Readonly<Record<string, SpokenWord>>;

/** A word may run on a little into the next beat before it is in the way. */
const OVERLAP = 1.15;

/** The word for what is to be said, where there is one and it is over before the next beat; else null, for a click. */
export function fittingWordMaybe(index: WordIndex, word: string, roomSeconds: number): SpokenWord | null {
  const spoken = index[word];
  if (!spoken) return null;
  return spoken.lengthSeconds - spoken.anchorSeconds <= roomSeconds * OVERLAP ? spoken : null;
}
