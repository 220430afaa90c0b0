import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from '@jest/globals';
import { expectValue, seededRandom } from '@anchorbeat/core';
import { cutWord, ownRecording, withOwnWords, WORD_RATE } from './ownWords.ts';
import { readPcmMaybe } from './wav/readPcm.ts';
import type { WordIndex } from './words.ts';

const shipped = (name: string) =>
  readFileSync(fileURLToPath(new URL(`../../../apps/web/public/words/${name}`, import.meta.url)));
const index = JSON.parse(shipped('words.json').toString('utf8')) as WordIndex;
const pcm = readPcmMaybe(shipped('words.wav'))!;

interface Scene {
  readonly rate?: number;
  readonly seconds?: number;
  /** Samples of what is said, and when. */
  readonly said?: ReadonlyArray<{ readonly samples: Float32Array; readonly atSeconds: number }>;
  /** The room, as a root mean square. */
  readonly room?: number;
  readonly seed?: number;
}

/** A recording: a room, and in it what is said. */
function recorded({
  rate = WORD_RATE,
  seconds = 2.5,
  said = [],
  room = 0.001,
  seed = 1,
}: Scene): Float32Array {
  const random = seededRandom(seed);
  const samples = Float32Array.from(
    { length: Math.round(seconds * rate) },
    () => room * Math.sqrt(3) * (2 * random() - 1),
  );
  for (const { samples: word, atSeconds } of said) {
    const from = Math.round(atSeconds * rate);
    word.forEach((sample, at) => (samples[from + at] = (samples[from + at] ?? 0) + sample));
  }
  return samples;
}

/** A consonant of noise, then a vowel of harmonics that opens within 5 ms. */
function syllable(rate: number, consonantSeconds: number, vowelSeconds: number, seed: number): Float32Array {
  const random = seededRandom(seed);
  const pitch = 90 + 120 * random();
  const opens = Math.round(consonantSeconds * rate);
  let before = 0;
  return Float32Array.from({ length: opens + Math.round(vowelSeconds * rate) }, (_, at) => {
    if (at < opens) {
      const noise = 2 * random() - 1;
      // Differences of noise: what is left of it is high, as in an s.
      const hiss = 0.12 * (noise - before);
      before = noise;
      return hiss * Math.min(1, at / (0.02 * rate));
    }
    const time = (at - opens) / rate;
    const envelope = Math.min(1, time / 0.005) * Math.min(1, (vowelSeconds - time) / 0.08);
    const voice = [1, 0.8, 0.7, 0.4, 0.25, 0.2].reduce(
      (sum, strength, part) => sum + strength * Math.sin(2 * Math.PI * pitch * (part + 1) * time),
      0,
    );
    return 0.2 * envelope * voice;
  });
}

function joined(...parts: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

describe('a word that is recorded', () => {
  test('is cut where it begins and anchored where its vowel opens, in rooms and voices of many kinds', () => {
    const off: number[] = [];
    for (let seed = 1; seed <= 40; seed++) {
      const random = seededRandom(1000 + seed);
      const rate = [22_050, 44_100, 48_000][seed % 3]!;
      const consonant = 0.04 + 0.12 * random();
      const vowel = 0.15 + 0.25 * random();
      const atSeconds = 0.3 + random();
      const loud = 0.2 + 0.8 * random();
      const samples = syllable(rate, consonant, vowel, seed).map((sample) => sample * loud);
      const recording = recorded({ rate, said: [{ samples, atSeconds }], room: 0.0008, seed });
      const word = expectValue(cutWord('seven', recording, rate));
      const length = word.samples.length / rate;
      expect(length).toBeGreaterThan(vowel + 0.5 * consonant);
      expect(length).toBeLessThan(consonant + vowel + 0.09);
      // Where the vowel opens, measured from the word's end, which is the same in both.
      off.push(Math.abs(length - word.anchorSeconds - (vowel + 0.03)));
      expect(word.samples.every((sample) => Math.abs(sample) <= 0.9)).toBe(true);
    }
    off.sort((a, b) => a - b);
    expect(off[Math.floor(off.length / 2)]).toBeLessThan(0.012);
    expect(off.at(-1)).toBeLessThan(0.03);
  });

  test('said as the shipped words are, in a room, it lands where they do', () => {
    const some = Object.entries(index).filter((_, at) => at % 4 === 0);
    const off = some.map(([name, { startSeconds, lengthSeconds, anchorSeconds }], at) => {
      const from = Math.round(startSeconds * WORD_RATE);
      const samples = pcm.samples
        .slice(from, from + Math.round(lengthSeconds * WORD_RATE))
        .map((s) => s * 0.4);
      const recording = recorded({ said: [{ samples, atSeconds: 0.7 }], room: 0.0005, seed: at + 1 });
      const word = expectValue(cutWord(name.split(' ').at(-1)!, recording, WORD_RATE));
      // Where it was in the recording, found again by likeness.
      const start = startIn(recording, word.samples);
      return Math.abs(1000 * (start + word.anchorSeconds - 0.7 - anchorSeconds));
    });
    const sorted = off.sort((a, b) => a - b);
    expect(sorted[sorted.length >> 1]).toBeLessThan(5);
    expect(sorted[Math.floor(sorted.length * 0.9)]).toBeLessThan(25);
  });

  test('of several words the last one’s vowel falls on the beat', () => {
    const gap = new Float32Array(Math.round(0.06 * WORD_RATE));
    const last = syllable(WORD_RATE, 0.05, 0.3, 3);
    const samples = joined(
      syllable(WORD_RATE, 0.08, 0.2, 1),
      gap,
      syllable(WORD_RATE, 0.06, 0.15, 2),
      gap,
      last,
    );
    const recording = recorded({ said: [{ samples, atSeconds: 0.5 }] });
    const word = expectValue(cutWord('from the top', recording, WORD_RATE));
    const fromEnd = word.samples.length / WORD_RATE - word.anchorSeconds;
    expect(Math.abs(fromEnd - 0.33)).toBeLessThan(0.03);
    const first = expectValue(cutWord('fromthetop', recording, WORD_RATE));
    expect(first.anchorSeconds).toBeLessThan(0.15);
  });

  test('a key that is pressed before it is no part of it', () => {
    const knock = Float32Array.from({ length: 200 }, (_, at) => 0.8 * Math.exp(-at / 30) * (at % 2 ? 1 : -1));
    const said = syllable(WORD_RATE, 0.06, 0.3, 4);
    const recording = recorded({
      said: [
        { samples: knock, atSeconds: 0.2 },
        { samples: said, atSeconds: 0.9 },
      ],
    });
    const word = expectValue(cutWord('go', recording, WORD_RATE));
    expect(word.samples.length / WORD_RATE).toBeLessThan(0.36 + 0.09);
  });

  test.each<[string, Scene, string]>([
    ['nothing', {}, 'Nothing was heard'],
    [
      'a room that drowns it',
      { room: 0.05, said: [{ samples: syllable(WORD_RATE, 0, 0.3, 5), atSeconds: 1 }] },
      'The room is too loud',
    ],
    [
      'too near',
      { said: [{ samples: syllable(WORD_RATE, 0, 0.3, 6).map((s) => Math.sign(s)), atSeconds: 1 }] },
      'too loud for the microphone',
    ],
    [
      'too soon',
      { said: [{ samples: syllable(WORD_RATE, 0, 0.3, 7), atSeconds: 0 }] },
      'begun before it was listened for',
    ],
    [
      'too late',
      { said: [{ samples: syllable(WORD_RATE, 0, 0.5, 8), atSeconds: 2.1 }] },
      'not over when listening ended',
    ],
    [
      'a speech',
      { seconds: 4, said: [{ samples: syllable(WORD_RATE, 0, 2.6, 9), atSeconds: 0.5 }] },
      'one word at a time',
    ],
    [
      'a knock',
      { said: [{ samples: syllable(WORD_RATE, 0, 0.03, 10), atSeconds: 1 }] },
      'a knock rather than a word',
    ],
    ['no sound at all', { seconds: 0 }, 'Nothing was heard'],
  ])('%s is refused, with what to do', (_why, scene, says) => {
    const result = cutWord('4', recorded({ room: 0.0005, ...scene }), WORD_RATE);
    expect(result.ok ? 'taken' : result.problem.message).toContain(says);
  });
});

test('own words stand in for shipped ones and beside them, each sample where the index says', () => {
  const own = ['4', 'from the top'].map((name, at) => ({
    name,
    samples: Float32Array.from({ length: 3000 + at }, (_, n) => (at + 1) / 4 + n / 1e6),
    anchorSeconds: 0.05 + at / 100,
  }));
  const merged = withOwnWords({ ...pcm, index }, ownRecording(own));
  for (const { name, samples, anchorSeconds } of own) {
    const word = merged.index[name]!;
    const from = Math.round(word.startSeconds * WORD_RATE);
    expect(merged.samples.slice(from, from + samples.length)).toEqual(samples);
    expect(word.anchorSeconds).toBe(anchorSeconds);
  }
  expect(merged.index['5']).toEqual(index['5']);
});

/** Where a cut word was cut from, by the best likeness. */
function startIn(recording: Float32Array, word: Float32Array): number {
  let [best, bestAt] = [-Infinity, 0];
  for (let at = Math.round(0.6 * WORD_RATE); at < Math.round(0.8 * WORD_RATE); at += 6) {
    let sum = 0;
    for (let n = 0; n < Math.min(word.length, 3500); n += 7) sum += (recording[at + n] ?? 0) * (word[n] ?? 0);
    if (sum > best) [best, bestAt] = [sum, at];
  }
  return bestAt / WORD_RATE;
}
