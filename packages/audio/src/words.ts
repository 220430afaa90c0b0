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

/** A short burst stands so far from the beginning of a packed file of words, and the first word so far. */
const MARK_AT_SECONDS = 0.25;
const MARK_LENGTH_SECONDS = 0.003;
const MARK_HERTZ = 2000;
const WORDS_FROM_SECONDS = 0.6;

/** The words after a mark by which `wordsFromSeconds` finds them again. */
export function markedWords(words: Float32Array, sampleRate: number): Float32Array {
  const from = Math.round(WORDS_FROM_SECONDS * sampleRate);
  const samples = new Float32Array(from + words.length);
  samples.set(words, from);
  const length = Math.round(MARK_LENGTH_SECONDS * sampleRate);
  const at = Math.round(MARK_AT_SECONDS * sampleRate) - (length >> 1);
  for (let index = 0; index < length; index++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * (index + 0.5)) / length);
    const phase = (2 * Math.PI * MARK_HERTZ * (index - length / 2)) / sampleRate;
    samples[at + index] = 0.9 * window * Math.cos(phase);
  }
  return samples;
}

/** Where the words begin in a packed file once it is decoded, by its mark; whatever the decoder left before it. */
export function wordsFromSeconds(decoded: Float32Array, sampleRate: number): number {
  const head = decoded.subarray(0, Math.round((WORDS_FROM_SECONDS - 0.05) * sampleRate));
  let peakAt = 0;
  head.forEach((sample, at) => {
    if (Math.abs(sample) > Math.abs(head[peakAt] ?? 0)) peakAt = at;
  });
  return peakAt / sampleRate - MARK_AT_SECONDS + WORDS_FROM_SECONDS;
}
