import { accepted, refused, type PlacedSounds, type Result, type SoundSettings } from '@anchorbeat/core';
import { renderChunks, renderedSampleCount, type RenderOptions } from './renderSamples.ts';

export const SAMPLE_RATES = [44_100, 48_000, 96_000] as const;
export const SAMPLE_BITS = [16, 24] as const;
export const SOUND_FORMATS = ['wav', 'flac', 'mp3'] as const;
export type SoundFormat = (typeof SOUND_FORMATS)[number];

/** One channel with everything, or for a mixing desk: the click left, what is said right. */
export const SOUND_CHANNELS = ['one', 'click and words'] as const;

/** A sound file is never longer than this. */
const MOST_SOUND_HOURS = 3;

/** How something is rendered to a sound file. */
export interface SoundWishes extends SoundSettings {
  readonly format: SoundFormat;
  readonly sampleRate: (typeof SAMPLE_RATES)[number];
  readonly bits: (typeof SAMPLE_BITS)[number];
  readonly channels: (typeof SOUND_CHANNELS)[number];
}

/** A named place in a sound, by sample. */
export interface SoundCue {
  readonly sample: number;
  readonly label: string;
}

/** Sound that is made as it is taken: chunks of one or two channels, samples from −1 to 1, `sampleCount` in all. */
export interface SoundTrack {
  readonly sampleRate: number;
  readonly sampleCount: number;
  readonly channelCount: 1 | 2;
  readonly chunks: Iterable<readonly Float32Array[]>;
  readonly cues: readonly SoundCue[];
}

/**
 * What sounds as a track that has not been made yet. Refused where it would be longer than three hours, where nobody is
 * there to say the words, or where the format does not take so many samples a second.
 */
export function soundTrack(
  { sounds, places }: PlacedSounds,
  { format, sampleRate, channels, spoken }: SoundWishes,
  options: RenderOptions = {},
): Result<SoundTrack> {
  if (sounds.lengthSeconds > MOST_SOUND_HOURS * 3600) return refused(tooLong(sounds.lengthSeconds));
  if (format === 'mp3' && sampleRate > 48_000)
    return refused('An MP3 takes 48000 samples a second at most: choose fewer, or FLAC');
  const isDesk = channels === 'click and words';
  if (isDesk && (spoken === 'nothing' || !options.words))
    return refused(
      'With the click left and words right, something has to be said: the count-off or everything',
    );
  const { onProgress, ...rest } = options;
  const heard = (part: NonNullable<RenderOptions['part']>, more: RenderOptions = {}) =>
    renderChunks(sounds, sampleRate, { ...rest, ...more, part });
  const told = onProgress ? { onProgress } : {};
  return accepted({
    sampleRate,
    sampleCount: renderedSampleCount(sounds, sampleRate),
    channelCount: isDesk ? 2 : 1,
    chunks: isDesk ? sideBySide(heard('clicks', told), heard('words')) : alone(heard('all', told)),
    cues: places.map(({ seconds, label }) => ({ sample: Math.round(seconds * sampleRate), label })),
  });
}

function* alone(chunks: Iterable<Float32Array>): Generator<readonly Float32Array[]> {
  for (const chunk of chunks) yield [chunk];
}

/** Both are rendered in chunks of the same length. */
function* sideBySide(
  left: Iterable<Float32Array>,
  right: Generator<Float32Array>,
): Generator<readonly Float32Array[]> {
  for (const chunk of left) {
    const next = right.next();
    yield [chunk, next.done ? new Float32Array(chunk.length) : next.value];
  }
}

function tooLong(seconds: number): string {
  const hours = Math.round(seconds / 360) / 10;
  return `This would last ${hours} hours; a sound file holds ${MOST_SOUND_HOURS} at most. Render it faster, or in parts`;
}
