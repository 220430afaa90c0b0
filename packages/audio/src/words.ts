/** Where a spoken word stands in the file of words, and where in it the ear hears the beat. Seconds. */
export interface SpokenWord {
  readonly startSeconds: number;
  readonly lengthSeconds: number;
  readonly anchorSeconds: number;
}

export type WordIndex = Readonly<Record<string, SpokenWord>>;

/** A word may run on a little into the next beat before it is in the way. */
const OVERLAP = 1.15;

/** From word to word of what is said in one breath; the air around each is twice as much. */
const JOIN_SECONDS = 0.02;

/** A word of what is said, and when it begins against the beat on which the last vowel falls; before it, less than nothing. */
export interface SpokenPart {
  readonly word: SpokenWord;
  readonly atSeconds: number;
}

/** What can be said on a beat, and by which words, if there are none for the first of them. */
interface Saying {
  readonly word?: string;
  readonly ownWord?: string;
  readonly roomSeconds?: number;
}

/**
 * How it is said, word by word, where all of it is recorded and over before the next beat: "7", "C", "118" as "one eighteen",
 * "bar 205" as "bar two o five". Else how the beat's own count is said; else null, for a click.
 */
export function spokenPartsMaybe(
  index: WordIndex,
  { word = '', ownWord, roomSeconds = Infinity }: Saying,
): readonly SpokenPart[] | null {
  const names = recordedWordsMaybe(index, word) ?? [];
  const last = index[names.at(-1) ?? ''];
  if (last && last.lengthSeconds - last.anchorSeconds <= roomSeconds * OVERLAP)
    return partsOf(names.flatMap((name) => index[name] ?? []));
  return ownWord === undefined ? null : spokenPartsMaybe(index, { word: ownWord, roomSeconds });
}

/** More words in one breath are not said. */
export const MOST_WORDS = 8;

/** The recorded words that make up a text, in order; null where one of them is not recorded, or they are too many. */
export function recordedWordsMaybe(index: WordIndex, text: string): readonly string[] | null {
  const isRecorded = (name: string) => Object.hasOwn(index, name);
  if (isRecorded(text)) return [text];
  const names = text
    .trim()
    .split(/\s+/)
    .flatMap((token) => {
      const [, digits = '', letter = ''] = /^(\d{1,3})([a-z]?)$/i.exec(token) ?? [];
      if (digits !== '') return [...numberWords(Number(digits)), ...(letter ? [letter.toUpperCase()] : [])];
      const lower = token.toLowerCase();
      return isRecorded(token) ? [token] : isRecorded(lower) ? [lower] : [token.toUpperCase()];
    });
  return names.length <= MOST_WORDS && names.every(isRecorded) ? names : null;
}

/** The largest number that is recorded as one word. */
const LAST_WHOLE = 48;

/** A bar's number up to 999, as it is said in a rehearsal: 118 is "1 18", 205 "2 O 5", 300 "3 hundred". */
function numberWords(number: number): readonly string[] {
  if (number <= LAST_WHOLE) return [String(number)];
  if (number < 100) {
    const ones = number % 10;
    return [String(number - ones), ...(ones > 0 ? [String(ones)] : [])];
  }
  const [hundreds, rest] = [Math.floor(number / 100), number % 100];
  if (rest === 0) return [String(hundreds), 'hundred'];
  return rest < 10 ? [String(hundreds), 'O', String(rest)] : [String(hundreds), ...numberWords(rest)];
}

/** One word after another, so that the last one's vowel falls on the beat. */
function partsOf(words: readonly SpokenWord[]): readonly SpokenPart[] {
  const parts: SpokenPart[] = [];
  let next: number | null = null;
  for (const word of [...words].reverse()) {
    const atSeconds: number = next === null ? -word.anchorSeconds : next + JOIN_SECONDS - word.lengthSeconds;
    parts.unshift({ word, atSeconds });
    next = atSeconds;
  }
  return parts;
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
