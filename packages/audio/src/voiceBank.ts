import type { RunClick } from '@anchorbeat/core';
import { clickSamples, toneSamples } from './voices.ts';
import { fittingWordMaybe, type SpokenWord, type WordIndex } from './words.ts';

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

/** Every sound of a run at one rate, made once. */
export class VoiceBank {
  private readonly voices = new Map<string, Voice>();

  constructor(
    private readonly sampleRate: number,
    private readonly words: RecordedWords | undefined,
  ) {}

  /** No sound begins earlier than this before the moment it is meant for. */
  get leadSeconds(): number {
    const anchors = Object.values(this.words?.index ?? {}).map(({ anchorSeconds }) => anchorSeconds);
    return Math.max(0, ...anchors) + 1 / this.sampleRate;
  }

  of(click: RunClick): Voice {
    return (
      this.wordMaybe(click) ??
      this.known(click.pitch === undefined ? click.kind : String(click.pitch), () => ({
        samples: this.clickVoice(click),
        leadSamples: 0,
      }))
    );
  }

  /** What is said for a click; null where nothing is, or there is no time to say it. */
  wordMaybe({ word, roomSeconds = Infinity }: RunClick): Voice | null {
    const { words } = this;
    const spoken = words && word !== undefined ? fittingWordMaybe(words.index, word, roomSeconds) : null;
    return spoken && words ? this.known(`word ${word}`, () => this.wordVoice(spoken, words)) : null;
  }

  private known(name: string, make: () => Voice): Voice {
    const voice = this.voices.get(name) ?? make();
    this.voices.set(name, voice);
    return voice;
  }

  private clickVoice({ kind, pitch }: RunClick): Float32Array {
    return pitch === undefined ? clickSamples(kind, this.sampleRate) : toneSamples(pitch, this.sampleRate);
  }

  /** The word at this rate, straight lines drawn between its samples. */
  private wordVoice({ startSeconds, lengthSeconds, anchorSeconds }: SpokenWord, words: RecordedWords): Voice {
    const length = Math.floor(lengthSeconds * this.sampleRate);
    const samples = new Float32Array(length);
    for (let at = 0; at < length; at++) {
      const place = (startSeconds + at / this.sampleRate) * words.sampleRate;
      const [below, share] = [Math.floor(place), place - Math.floor(place)];
      const [a, b] = [words.samples[below] ?? 0, words.samples[below + 1] ?? 0];
      samples[at] = a + share * (b - a);
    }
    return { samples, leadSamples: Math.round(anchorSeconds * this.sampleRate) };
  }
}
