import {
  accepted,
  barCuesIn,
  paperRun,
  PLAIN_RUN,
  refused,
  soundsOf,
  type Proof,
  type Result,
  type RunSettings,
} from '@anchorbeat/core';
import { renderChunks, renderedSampleCount, type RenderOptions } from './renderSamples.ts';
import { writeWav, type FileInParts } from './wav/writeWav.ts';

export const SAMPLE_RATES = [44_100, 48_000, 96_000] as const;
export const SAMPLE_BITS = [16, 24] as const;

/** A sound file is never longer than this. */
const MOST_SOUND_HOURS = 3;

/** How a piece is rendered to a sound file. */
export interface SoundWishes {
  readonly sampleRate: (typeof SAMPLE_RATES)[number];
  readonly bits: (typeof SAMPLE_BITS)[number];
  /** Of the printed tempo. */
  readonly percent: number;
  readonly clickOn: Extract<RunSettings['clickOn'], 'pulse' | 'subdivision'>;
  readonly spoken: RunSettings['spoken'];
}

/**
 * The click of a piece with its count-off as a WAV file, made part by part; every bar is a named place in it. Refused
 * before it begins where it would be longer than three hours.
 */
export function soundFile(
  proof: Proof,
  { sampleRate, bits, ...wishes }: SoundWishes,
  options: RenderOptions = {},
): Result<FileInParts> {
  const plan = paperRun(proof, { ...PLAIN_RUN, ...wishes });
  if (plan.lengthSeconds > MOST_SOUND_HOURS * 3600) return refused(tooLong(plan.lengthSeconds));
  const sounds = soundsOf(proof, plan);
  const cues = barCuesIn(proof, plan, sampleRate);
  const chunks = renderChunks(sounds, sampleRate, options);
  return accepted(writeWav(chunks, renderedSampleCount(sounds, sampleRate), { sampleRate, bits, cues }));
}

function tooLong(seconds: number): string {
  const hours = Math.round(seconds / 360) / 10;
  return `This would last ${hours} hours; a sound file holds ${MOST_SOUND_HOURS} at most. Render it faster, or in parts`;
}
