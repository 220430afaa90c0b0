import type { RunClick } from '@anchorbeat/core';
import { clickSamples, toneSamples } from './voices.ts';
import { MOST_WORDS, spokenPartsMaybe, type SpokenPart, type SpokenWord, type WordIndex } from './words.ts';

/** The spoken counts: one sound with all words in it, and where each stands. */
export interface RecordedWords {
  readonly samples: Float32Array;
  readonly sampleRate: number;
  readonly index: WordIndex;
}

interface Voice {
  readonly samples: Float32Array;
  /** So many samples of it sound before the moment it is meant for. */
  readonly leadSamples: number;
}

const NOTHING: Voice = { samples: new Float32Array(0), leadSamples: 0 };

/** Every sound of a run at one rate, made once. */
export class VoiceBank {
  private readonly voices = new Map<string, Voice>();

  constructor(
    private readonly sampleRate: number,
    private readonly words: RecordedWords | undefined,
  ) {}

  /** No sound begins earlier than this before the moment it is meant for. */
  get leadSeconds(): number {
    const known = Object.values(this.words?.index ?? {});
    const anchor = Math.max(0, ...known.map(({ anchorSeconds }) => anchorSeconds));
    const longest = Math.max(0, ...known.map(({ lengthSeconds }) => lengthSeconds));
    return anchor + (MOST_WORDS - 1) * longest + 1 / this.sampleRate;
  }

  of(click: RunClick): Voice {
    const spoken = this.wordMaybe(click);
    if (!spoken && click.isOnlySaid) return NOTHING;
    return (
      spoken ??
      this.known(click.pitch === undefined ? click.kind : String(click.pitch), () => ({
        samples: this.clickVoice(click),
        leadSamples: 0,
      }))
    );
  }

  /** What is said for a click; null where nothing is, or there is no time to say it. */
  wordMaybe(click: RunClick): Voice | null {
    const { words } = this;
    const parts = words && click.word !== undefined ? spokenPartsMaybe(words.index, click) : null;
    if (!words || !parts) return null;
    const name = parts.map(({ word }) => word.startSeconds).join(' ');
    return this.known(`words ${name}`, () => this.voiceOf(parts, words));
  }

  private known(name: string, make: () => Voice): Voice {
    const voice = this.voices.get(name) ?? make();
    this.voices.set(name, voice);
    return voice;
  }

  private clickVoice({ kind, pitch }: RunClick): Float32Array {
    return pitch === undefined ? clickSamples(kind, this.sampleRate) : toneSamples(pitch, this.sampleRate);
  }

  private voiceOf(parts: readonly SpokenPart[], words: RecordedWords): Voice {
    const sampleAt = (seconds: number) => Math.round(seconds * this.sampleRate);
    const from = Math.min(...parts.map(({ atSeconds }) => sampleAt(atSeconds)));
    const spoken = parts.map(({ word, atSeconds }) => ({
      begin: sampleAt(atSeconds) - from,
      samples: this.wordSamples(word, words),
    }));
    const samples = new Float32Array(Math.max(...spoken.map((part) => part.begin + part.samples.length)));
    for (const part of spoken)
      part.samples.forEach(
        (sample, at) => (samples[part.begin + at] = (samples[part.begin + at] ?? 0) + sample),
      );
    return { samples, leadSamples: -from };
  }

  /** A word at this rate, straight lines drawn between its samples. */
  private wordSamples({ startSeconds, lengthSeconds }: SpokenWord, words: RecordedWords): Float32Array {
    const length = Math.floor(lengthSeconds * this.sampleRate);
    const samples = new Float32Array(length);
    for (let at = 0; at < length; at++) {
      const place = (startSeconds + at / this.sampleRate) * words.sampleRate;
      const [below, share] = [Math.floor(place), place - Math.floor(place)];
      const [a, b] = [words.samples[below] ?? 0, words.samples[below + 1] ?? 0];
      samples[at] = a + share * (b - a);
    }
    return samples;
  }
}
