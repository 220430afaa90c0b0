import type { FileInParts } from './fileInParts.ts';
import type { SoundTrack, SoundWishes } from './soundTrack.ts';
import { writeWav } from './wav/writeWav.ts';

/**
 * A track as a file. A WAV is made part by part as it is taken, with its named places; of a compressed one the first
 * part tells how long it became, so it is made whole. Their writers are only loaded where they are used.
 */
export async function soundFile(
  track: SoundTrack,
  { format, bits }: Pick<SoundWishes, 'format' | 'bits'>,
): Promise<FileInParts> {
  switch (format) {
    case 'wav':
      return writeWav(track, bits);
    case 'flac':
      return (await import('./compressed/writeFlac.ts')).writeFlac(track, bits);
    case 'mp3':
      return (await import('./compressed/writeMp3.ts')).writeMp3(track);
  }
}
