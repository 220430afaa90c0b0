import flacLibrary from 'libflacjs/dist/libflac.js';
import { wholeFile, type FileInParts } from '../fileInParts.ts';
import type { SoundTrack } from '../soundTrack.ts';
import { wholeSamples } from '../wholeSamples.ts';

/** Clicks in silence come out the same size from here on. */
const COMPRESSION_LEVEL = 3;

/** A track as FLAC, without loss: what is read from it is the same samples. */
export async function writeFlac(track: SoundTrack, bits: 16 | 24): Promise<FileInParts> {
  const flac = await readyFlac();
  const { sampleRate, sampleCount, channelCount } = track;
  const encoder = flac.create_libflac_encoder(
    sampleRate,
    channelCount,
    bits,
    COMPRESSION_LEVEL,
    sampleCount,
    false,
    0,
  );
  const parts: Array<Uint8Array<ArrayBuffer>> = [];
  const began = flac.init_encoder_stream(encoder, (bytes) => void parts.push(Uint8Array.from(bytes)));
  if (began !== 0) throw new Error(`FLAC could not begin (${began})`);
  try {
    for (const channels of track.chunks) {
      const samples = wholeSamples(channels, bits);
      if (!flac.FLAC__stream_encoder_process_interleaved(encoder, samples, samples.length / channelCount))
        throw new Error(`FLAC stopped (${flac.FLAC__stream_encoder_get_state(encoder)})`);
    }
    if (!flac.FLAC__stream_encoder_finish(encoder)) throw new Error('FLAC could not be finished');
  } finally {
    flac.FLAC__stream_encoder_delete(encoder);
  }
  return wholeFile(parts);
}

function readyFlac(): Promise<typeof flacLibrary> {
  return new Promise((resolve) => {
    if (flacLibrary.isReady()) resolve(flacLibrary);
    else flacLibrary.on('ready', () => resolve(flacLibrary));
  });
}
