import { createMp3Encoder } from 'wasm-media-encoders';
import { wholeFile, type FileInParts } from '../fileInParts.ts';
import type { SoundTrack } from '../soundTrack.ts';
import { infoFrame } from './mp3Info.ts';

/** Enough that a click keeps its edge: kilobits a second. */
const BIT_RATE = { 1: 96, 2: 160 } as const;

/**
 * A track as MP3. The first frame states what the encoder put before the sound and after it, so that a player begins
 * with the first sample and ends with the last.
 */
export async function writeMp3(track: SoundTrack): Promise<FileInParts> {
  const { channelCount, sampleCount, sampleRate } = track;
  if (sampleRate !== 44_100 && sampleRate !== 48_000)
    throw new RangeError('an MP3 has 44,100 or 48,000 samples a second');
  const encoder = await createMp3Encoder();
  encoder.configure({ sampleRate, channels: channelCount, bitrate: BIT_RATE[channelCount] });
  const parts: Array<Uint8Array<ArrayBuffer>> = [];
  for (const channels of track.chunks) parts.push(Uint8Array.from(encoder.encode([...channels])));
  parts.push(Uint8Array.from(encoder.finalize()));
  return wholeFile([infoFrame(parts, sampleCount), ...parts]);
}
