import type { ClickKind } from '@anchorbeat/core';

interface Voice {
  readonly hertz: number;
  /** A second partial, as a multiple of the first, and its share of the sound. */
  readonly overtone: number;
  readonly overtoneShare: number;
  readonly lengthSeconds: number;
  readonly peak: number;
}

/** Clicks differ by pitch, colour and length, so that they are told apart without listening for loudness. */
const VOICES: Readonly<Record<ClickKind, Voice>> = {
  downbeat: { hertz: 1480, overtone: 2.76, overtoneShare: 0.45, lengthSeconds: 0.07, peak: 0.85 },
  group: { hertz: 1110, overtone: 2.76, overtoneShare: 0.35, lengthSeconds: 0.055, peak: 0.7 },
  beat: { hertz: 880, overtone: 2, overtoneShare: 0.25, lengthSeconds: 0.05, peak: 0.6 },
  subdivision: { hertz: 2640, overtone: 1.5, overtoneShare: 0.5, lengthSeconds: 0.015, peak: 0.25 },
  countoffDownbeat: { hertz: 740, overtone: 3, overtoneShare: 0.15, lengthSeconds: 0.12, peak: 0.75 },
  overlay: { hertz: 1865, overtone: 1.25, overtoneShare: 0.8, lengthSeconds: 0.03, peak: 0.45 },
  countoff: { hertz: 587, overtone: 3, overtoneShare: 0.15, lengthSeconds: 0.11, peak: 0.65 },
};

const ATTACK_SECONDS = 0.0006;

/** The samples of one click, mono, from its onset. Struck-wood shape: a quick attack, an exponential fall. */
export function clickSamples(kind: ClickKind, sampleRate: number): Float32Array<ArrayBuffer> {
  const voice = VOICES[kind];
  const samples = new Float32Array(Math.round(voice.lengthSeconds * sampleRate));
  const scale = voice.peak / (1 + voice.overtoneShare);
  for (let index = 0; index < samples.length; index++) {
    const t = index / sampleRate;
    const attack = Math.min(1, (t + 1 / sampleRate) / ATTACK_SECONDS);
    const fall = Math.exp((-6 * t) / voice.lengthSeconds) * (1 - index / samples.length);
    const phase = 2 * Math.PI * voice.hertz * t;
    const tone = Math.cos(phase) + voice.overtoneShare * Math.cos(voice.overtone * phase);
    samples[index] = scale * attack * fall * tone;
  }
  return samples;
}

const TONE_SECONDS = 0.42;
const TONE_PEAK = 0.6;
/** Partials of a struck bar of metal, soft on top: each with its share and how much faster it dies away. */
const TONE_PARTIALS: ReadonlyArray<readonly [multiple: number, share: number, fallsFaster: number]> = [
  [1, 1, 1],
  [2, 0.32, 1.6],
  [3.01, 0.12, 2.6],
];

/** The samples of a tone on a MIDI note, for a count-off on pitches. It sounds long enough to be sung to. */
export function toneSamples(pitch: number, sampleRate: number): Float32Array<ArrayBuffer> {
  const hertz = 440 * 2 ** ((pitch - 69) / 12);
  const samples = new Float32Array(Math.round(TONE_SECONDS * sampleRate));
  const total = TONE_PARTIALS.reduce((sum, [, share]) => sum + share, 0);
  for (let index = 0; index < samples.length; index++) {
    const t = index / sampleRate;
    const attack = Math.min(1, (t + 1 / sampleRate) / ATTACK_SECONDS);
    const close = 1 - (index / samples.length) ** 3;
    const tone = TONE_PARTIALS.reduce(
      (sum, [multiple, share, faster]) =>
        sum +
        share * Math.exp((-3.2 * faster * t) / TONE_SECONDS) * Math.cos(2 * Math.PI * hertz * multiple * t),
      0,
    );
    samples[index] = (TONE_PEAK / total) * attack * close * tone;
  }
  return samples;
}
