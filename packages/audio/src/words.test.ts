import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from '@jest/globals';
import { MPEGDecoder } from 'mpg123-decoder';
import { recordedWordsMaybe, spokenPartsMaybe, wordsFromSeconds, type WordIndex } from './words.ts';

const shipped = (name: string) =>
  readFileSync(fileURLToPath(new URL(`../../../apps/web/public/words/${name}`, import.meta.url)));
const index = JSON.parse(shipped('words.json').toString('utf8')) as WordIndex;
const file = shipped('words.wav');
const rate = file.readUInt32LE(24);
const samples = Float32Array.from(
  { length: (file.length - 44) >> 1 },
  (_, n) => file.readInt16LE(44 + 2 * n) / 32_768,
);

/** Energy of all samples before each one. */
const energyUpTo = new Float64Array(samples.length + 1);
samples.forEach((sample, n) => (energyUpTo[n + 1] = (energyUpTo[n] ?? 0) + sample ** 2));

/**
 * The criterion: the beat is heard where the energy of a window of 12 ms first rises to a quarter of the most it has in
 * the word, taken at the window's middle.
 */
function energyRiseSeconds(from: number, to: number): number {
  const half = Math.round(0.006 * rate);
  const energyAt = (middle: number) =>
    (energyUpTo[Math.min(to, middle + half)] ?? 0) - (energyUpTo[Math.max(from, middle - half)] ?? 0);
  let peak = 0;
  for (let middle = from + half; middle < to - half; middle += 4) peak = Math.max(peak, energyAt(middle));
  let middle = from + half;
  while (energyAt(middle) < peak / 4) middle++;
  return (middle - from) / rate;
}

describe('spoken words', () => {
  test.each(Object.entries(index))('“%s” is heard on its beat, and is as long as it says', (_shown, word) => {
    const from = Math.round(word.startSeconds * rate);
    const to = from + Math.round(word.lengthSeconds * rate);
    const offset = energyRiseSeconds(from, to) - word.anchorSeconds;
    expect(Math.abs(offset)).toBeLessThan(0.01);
    const loudest = samples.subarray(from, to).reduce((peak, sample) => Math.max(peak, Math.abs(sample)), 0);
    expect(loudest).toBeGreaterThan(0.6);
    expect(loudest).toBeLessThan(0.8);
    expect(samples.subarray(to, to + Math.round(0.04 * rate)).every((sample) => sample === 0)).toBe(true);
  });

  test('there is a word for every beat of a bar, every syllable of the schools, and every rehearsal letter', () => {
    for (const word of ['1', '16', '32', '&', 'e', 'a', 'ready', 'go', 'A', 'Z'])
      expect(index).toHaveProperty(word);
  });

  test('a word that is too long for its beat, or not there, leaves the beat to a click', () => {
    const seven = [{ word: index['7'], atSeconds: -index['7']!.anchorSeconds }];
    expect(spokenPartsMaybe(index, { word: '7', roomSeconds: 0.5 })).toEqual(seven);
    expect(spokenPartsMaybe(index, { word: '7', roomSeconds: 0.18 })).toBeNull();
    expect(spokenPartsMaybe(index, { word: 'Coda', roomSeconds: 2 })).toBeNull();
    // A cue that nobody has recorded, or that is too long, leaves the beat its own count.
    expect(spokenPartsMaybe(index, { word: 'Coda', ownWord: '7', roomSeconds: 2 })).toEqual(seven);
    expect(spokenPartsMaybe(index, { word: '70', ownWord: '7', roomSeconds: 0.3 })).toEqual(seven);
  });

  test.each<[string, string[] | null]>([
    ['7', ['7']],
    ['48', ['48']],
    ['50', ['50']],
    ['71', ['70', '1']],
    ['100', ['1', 'hundred']],
    ['105', ['1', 'O', '5']],
    ['118', ['1', '18']],
    ['260', ['2', '60']],
    ['999', ['9', '90', '9']],
    ['bar 118', ['bar', '1', '18']],
    ['Bar 12a', ['bar', '12', 'A']],
    ['c', ['C']],
    ['letter C', null],
    ['1000', null],
    ['', null],
    ['constructor', null],
    ['1 2 3 4 5 6 7 8 9', null],
  ])('“%s” is made of %j', (text, words) => {
    expect(recordedWordsMaybe(index, text)).toEqual(words);
  });

  test('every bar up to 999 can be said: word after word, the last one’s vowel on the beat', () => {
    for (let bar = 1; bar <= 999; bar++) {
      const parts = spokenPartsMaybe(index, { word: String(bar), roomSeconds: 0.6 })!;
      expect(parts.at(-1)!.atSeconds).toBeCloseTo(-parts.at(-1)!.word.anchorSeconds, 9);
      parts.slice(1).forEach(({ atSeconds }, at) => {
        const before = parts[at]!;
        expect(atSeconds).toBeCloseTo(before.atSeconds + before.word.lengthSeconds - 0.02, 9);
      });
      expect(parts[0]!.atSeconds).toBeGreaterThan(-1.4);
    }
  });
});

/** In samples: farther off than a millisecond is looked for too. */
const MOST_LAG = 60;

test.each([0, 1105])(
  'packed and decoded, with %i samples left at the beginning, every word is where it was to a millisecond',
  async (left) => {
    const decoder = new MPEGDecoder({ enableGapless: false });
    await decoder.ready;
    const decoded = decoder.decode(new Uint8Array(shipped('words.mp3'))).channelData[0]!;
    decoder.free();
    const whole = new Float32Array(left + decoded.length + MOST_LAG);
    whole.set(decoded, left);
    const from = wordsFromSeconds(whole, rate);
    for (const { startSeconds, lengthSeconds } of Object.values(index)) {
      const at = Math.round(startSeconds * rate);
      const word = samples.slice(at, at + Math.round(lengthSeconds * rate));
      const expectedAt = Math.round((from + startSeconds) * rate);
      const likeness = (lag: number) => {
        let sum = 0;
        const other = whole.subarray(expectedAt + lag);
        for (let n = 0; n < word.length; n++) sum += word[n]! * other[n]!;
        return sum;
      };
      let best = { lag: -MOST_LAG, likeness: likeness(-MOST_LAG) };
      for (let lag = 1 - MOST_LAG; lag <= MOST_LAG; lag++) {
        const here = likeness(lag);
        if (here > best.likeness) best = { lag, likeness: here };
      }
      expect(Math.abs(best.lag) / rate).toBeLessThan(0.001);
    }
  },
);
