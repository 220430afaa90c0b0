import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { joined, soundFile, soundTrack } from '@anchorbeat/audio';
import { paperSounds, proofOf, readPiece } from '@anchorbeat/core';
import { MPEGDecoder } from 'mpg123-decoder';

const RATE = 44_100;
const WISHES = {
  sampleRate: RATE,
  bits: 16,
  percent: 100,
  clickOn: 'pulse',
  spoken: 'nothing',
  channels: 'one',
};

/** An hour of click as FLAC and MP3, decoded by other programs: how far its clicks are from where they should be. */
export async function benchSoundFiles() {
  const bars = Array.from({ length: 1800 }, (_, index) => ({
    ...(index === 0 && { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }),
    ...(index > 0 && index % 50 === 0 && { meter: index % 100 === 0 ? '4/4' : '15/16' }),
  }));
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'An hour', bars });
  const sounds = paperSounds(proofOf(reading.piece), { kind: 'piece' }, WISHES).value;
  const times = sounds.sounds
    .clicksIn({ fromSeconds: 0, toSeconds: Infinity })
    .map(({ timeSeconds }) => timeSeconds);
  for (const format of ['flac', 'mp3']) {
    const start = performance.now();
    const { parts } = await soundFile(soundTrack(sounds, { ...WISHES, format }).value, { format, bits: 16 });
    const bytes = joined(parts);
    const seconds = (performance.now() - start) / 1000;
    const decoder = format === 'flac' ? new FLACDecoder() : new MPEGDecoder({ enableGapless: true });
    await decoder.ready;
    const decoded = format === 'flac' ? await decoder.decodeFile(bytes) : decoder.decode(bytes);
    const worst = worstMilliseconds(decoded.channelData[0], times);
    const minutes = Math.round(sounds.sounds.lengthSeconds / 60);
    const clicks = `worst click ${worst.first.toFixed(2)} ms off in the first minute, ${worst.last.toFixed(2)} in the last`;
    console.log(
      `${minutes} minutes as ${format}: ${seconds.toFixed(1)} s, ${(bytes.length / 1e6).toFixed(1)} MB; ${clicks} (wanted: under 1)`,
    );
    decoder.free();
  }
}

function worstMilliseconds(samples, times) {
  const end = times.at(-1);
  const worstOf = (wanted) =>
    Math.max(
      ...times.filter(wanted).map((seconds) => {
        const at = Math.round(seconds * RATE);
        let from = Math.max(0, at - 4000);
        while (from < at + 4000 && Math.abs(samples[from]) < 0.1) from++;
        return (Math.abs(from - at) / RATE) * 1000;
      }),
    );
  return { first: worstOf((seconds) => seconds < 60), last: worstOf((seconds) => seconds > end - 60) };
}
