import type { RunClick, RunPlan } from '@anchorbeat/core';
import { limited } from './limiter.ts';
import { clickSamples, toneSamples } from './voices.ts';
import { fittingWordMaybe, type SpokenWord, type WordIndex } from './words.ts';

const TAIL_SECONDS = 0.5;

/** The spoken counts: one sound with all words in it, and where each stands. */
export interface RecordedWords {
  readonly samples: Float32Array;
  readonly sampleRate: number;
  readonly index: WordIndex;
}

export interface RenderOptions {
  readonly level?: number;
  /** Words are said with these; without them they are clicked. */
  readonly words?: RecordedWords;
  /** Called now and then with the share that is done. */
  readonly onProgress?: (share: number) => void;
}

/**
 * A run as samples from −1 to 1, mono: every click from round(t × rate) on, a word so much earlier that its vowel falls
 * there, mixed and limited as it is live. For a run that ends.
 */
export function renderSamples(
  plan: RunPlan,
  sampleRate: number,
  { level = 1, words, onProgress }: RenderOptions = {},
): Float32Array {
  if (!Number.isFinite(plan.lengthSeconds))
    throw new RangeError('a run that waits for a cue has no length to render');
  const mixed = new Float32Array(Math.ceil((plan.lengthSeconds + TAIL_SECONDS) * sampleRate));
  const voices = new VoiceBank(sampleRate, words);
  plan.clicks.forEach((click, index) => {
    const { samples, leadSamples } = voices.of(click);
    const from = Math.round(click.timeSeconds * sampleRate) - leadSamples;
    for (let at = Math.max(0, -from); at < samples.length && from + at < mixed.length; at++)
      mixed[from + at] = (mixed[from + at] as number) + level * (samples[at] as number);
    if (index % 500 === 0) onProgress?.(index / plan.clicks.length);
  });
  for (let at = 0; at < mixed.length; at++) mixed[at] = limited(mixed[at] as number);
  return mixed;
}

interface Voice {
  readonly samples: Float32Array;
  /** So many samples of it sound before the moment it is meant for. */
  readonly leadSamples: number;
}

/** Every sound of a run, made once. */
class VoiceBank {
  private readonly voices = new Map<string, Voice>();

  constructor(
    private readonly sampleRate: number,
    private readonly words: RecordedWords | undefined,
  ) {}

  of(click: RunClick): Voice {
    const { words } = this;
    const spoken =
      words && click.word !== undefined
        ? fittingWordMaybe(words.index, click.word, click.roomSeconds ?? Infinity)
        : null;
    const name = spoken ? `word ${click.word}` : click.pitch === undefined ? click.kind : String(click.pitch);
    const known = this.voices.get(name);
    if (known) return known;
    const voice =
      spoken && words ? this.wordVoice(spoken, words) : { samples: this.clickVoice(click), leadSamples: 0 };
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
