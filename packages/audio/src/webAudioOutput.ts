import { CLICK_KINDS, type ClickKind, type RunClick } from '@anchorbeat/core';
import { limiterCurve, LIMITER_RANGE } from './limiter.ts';
import type { ScheduledSound, SoundOutput } from './ports.ts';
import { clickSamples, toneSamples } from './voices.ts';
import type { RecordedWords } from './voiceBank.ts';
import {
  spokenPartsMaybe,
  wordsFromSeconds,
  type SpokenPart,
  type SpokenWord,
  type WordIndex,
} from './words.ts';

/** Decoded words: the first of them begins so far into the buffer. */
interface DecodedWords {
  readonly buffer: AudioBuffer;
  readonly fromSeconds: number;
}

/** The spoken counts: what can be said, and what is said in somebody's own voice. */
interface Voice {
  readonly index: WordIndex;
  readonly shipped: DecodedWords;
  readonly own: ReadonlyMap<SpokenWord, DecodedWords>;
}

/** Level a fresh window starts with, as a share of full: quiet (about −14 dB). */
export const QUIET_LEVEL = 0.2;
const LEVEL_GLIDE_SECONDS = 0.15;

/** Sounds that are made louder and softer together. */
export const SOUND_GROUPS = [
  'downbeat',
  'group',
  'beat',
  'subdivision',
  'count-off',
  'overlay',
  'voice',
  'players',
] as const;
export type SoundGroup = (typeof SOUND_GROUPS)[number];
export const MOST_GROUP_LEVEL = 1.5;

/** Simulated sections are softer than the click, and sit apart. */
const PLAYERS_GAIN = 0.45;
const SEAT_PANS = [-0.6, 0, 0.6] as const;

function groupOfKind(kind: ClickKind): SoundGroup {
  return kind === 'countoff' || kind === 'countoffDownbeat' ? 'count-off' : kind;
}

/** Sound through the Web Audio clock: click → level → limiter → speakers. Works without a secure context. */
export class WebAudioOutput implements SoundOutput {
  private readonly level: GainNode;
  private readonly limiter: WaveShaperNode;
  private readonly buffers: ReadonlyMap<ClickKind, AudioBuffer>;
  private readonly mix: ReadonlyMap<SoundGroup, GainNode>;
  private readonly tones = new Map<number, AudioBuffer>();
  /** Where simulated sections sit, left to right. */
  private readonly seats: readonly StereoPannerNode[];
  private words: Voice | null = null;

  /** On a live context, or on one that renders to memory. */
  constructor(private readonly context: BaseAudioContext) {
    this.level = new GainNode(context, { gain: QUIET_LEVEL / LIMITER_RANGE });
    this.limiter = new WaveShaperNode(context, { curve: limiterCurve(), oversample: 'none' });
    this.level.connect(this.limiter).connect(context.destination);
    this.mix = new Map(SOUND_GROUPS.map((group) => [group, new GainNode(context)]));
    for (const node of this.mix.values()) node.connect(this.level);
    this.seats = SEAT_PANS.map((pan) => new StereoPannerNode(context, { pan }));
    const softer = new GainNode(context, { gain: PLAYERS_GAIN });
    softer.connect(this.mix.get('players') ?? this.level);
    for (const seat of this.seats) seat.connect(softer);
    this.buffers = new Map(
      CLICK_KINDS.map((kind) => [kind, bufferOf(context.sampleRate, clickSamples(kind, context.sampleRate))]),
    );
  }

  get sampleRate(): number {
    return this.context.sampleRate;
  }

  nowSeconds(): number {
    return this.context.currentTime;
  }

  latencySeconds(): number {
    if (!(this.context instanceof AudioContext)) return 0;
    return (this.context.baseLatency || 0) + (this.context.outputLatency || 0);
  }

  schedule(click: RunClick, whenSeconds: number): ScheduledSound {
    const { kind, pitch, word, part } = click;
    const { words } = this;
    const spoken = words && word !== undefined ? spokenPartsMaybe(words.index, click) : null;
    if (!spoken && click.isOnlySaid) return SILENT;
    if (words && spoken) return together(spoken.map((one) => this.speak(words, one, whenSeconds)));
    const buffer = pitch === undefined ? this.buffers.get(kind) : this.toneBuffer(pitch);
    const source = new AudioBufferSourceNode(this.context, { buffer: buffer ?? null });
    const seat = part === undefined ? undefined : this.seats[part % this.seats.length];
    source.connect(seat ?? this.mix.get(groupOfKind(kind)) ?? this.level);
    source.start(whenSeconds);
    return scheduled(source);
  }

  /** Gives all that sounds to an input of a node as well; the returned function ends that. */
  alsoTo(node: AudioNode, input: number): () => void {
    this.limiter.connect(node, 0, input);
    return () => this.limiter.disconnect(node);
  }

  /** Gives the output its voice: the packed file of words, where each stands among them, and own ones to be said before these. */
  async setWords(file: ArrayBuffer, index: WordIndex, own: RecordedWords | null = null): Promise<void> {
    const buffer = await this.context.decodeAudioData(file);
    const fromSeconds = wordsFromSeconds(buffer.getChannelData(0), buffer.sampleRate);
    const ownBuffer = own && bufferOf(own.sampleRate, own.samples);
    const ownWords = Object.values(own?.index ?? {}).flatMap((word) =>
      ownBuffer ? [[word, { buffer: ownBuffer, fromSeconds: 0 }] as const] : [],
    );
    this.words = {
      index: { ...index, ...own?.index },
      shipped: { buffer, fromSeconds },
      own: new Map(ownWords),
    };
  }

  /** Whether words are said, and not clicked. */
  get hasVoice(): boolean {
    return this.words !== null;
  }

  /** A word begins so much earlier that its vowel falls on the beat; what would be in the past is left out. */
  private speak(
    { shipped, own }: Voice,
    { word, atSeconds }: SpokenPart,
    whenSeconds: number,
  ): ScheduledSound {
    const { buffer, fromSeconds } = own.get(word) ?? shipped;
    const source = new AudioBufferSourceNode(this.context, { buffer });
    source.connect(this.mix.get('voice') ?? this.level);
    const begin = whenSeconds + atSeconds;
    const late = Math.min(Math.max(0, this.context.currentTime - begin), word.lengthSeconds);
    source.start(begin + late, fromSeconds + word.startSeconds + late, word.lengthSeconds - late);
    return scheduled(source);
  }

  private toneBuffer(pitch: number): AudioBuffer {
    const known =
      this.tones.get(pitch) ?? bufferOf(this.context.sampleRate, toneSamples(pitch, this.context.sampleRate));
    this.tones.set(pitch, known);
    return known;
  }

  /** Sets the level from 0 to 1, gliding there so that it never jumps. */
  setLevel(level: number): void {
    const { gain } = this.level;
    const now = this.context.currentTime;
    gain.cancelScheduledValues(now);
    gain.setTargetAtTime(Math.min(Math.max(level, 0), 1) / LIMITER_RANGE, now, LEVEL_GLIDE_SECONDS / 3);
  }

  /** Sets how loud a group of sounds is against the others, 1 as designed, gliding there. */
  setGroupLevel(group: SoundGroup, level: number): void {
    const gain = this.mix.get(group)?.gain;
    gain?.cancelScheduledValues(this.context.currentTime);
    gain?.setTargetAtTime(
      Math.min(Math.max(level, 0), MOST_GROUP_LEVEL),
      this.context.currentTime,
      LEVEL_GLIDE_SECONDS / 3,
    );
  }

  /** Two hands: what lies over the bar in the right ear, everything else in the left; or all in both. */
  setHands(areApart: boolean): void {
    for (const [group, node] of this.mix) {
      node.disconnect();
      const pan = group === 'overlay' ? 1 : -1;
      if (areApart) node.connect(new StereoPannerNode(this.context, { pan })).connect(this.level);
      else node.connect(this.level);
    }
  }

  async resume(): Promise<void> {
    if (this.context instanceof AudioContext && this.context.state !== 'running') await this.context.resume();
  }
}

function bufferOf(sampleRate: number, samples: Float32Array): AudioBuffer {
  const buffer = new AudioBuffer({ length: samples.length, sampleRate });
  buffer.copyToChannel(Float32Array.from(samples), 0);
  return buffer;
}

/** Nothing sounds, and there is nothing to take back. */
const SILENT: ScheduledSound = { cancel: () => undefined };

function scheduled(source: AudioBufferSourceNode): ScheduledSound {
  return {
    cancel: () => {
      source.stop();
      source.disconnect();
    },
  };
}

function together(sounds: readonly ScheduledSound[]): ScheduledSound {
  return { cancel: () => sounds.forEach((sound) => sound.cancel()) };
}
