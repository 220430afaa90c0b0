// Packs the spoken counts (words.wav) to the file that pages load: an MP3 with a mark before the first word, by which a page
// finds where its words are, however much a browser leaves at the beginning of what it decodes.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { markedWords, readPcmMaybe } from '@anchorbeat/audio';
import { createMp3Encoder } from 'wasm-media-encoders';
import { ROOT } from './fresh.mjs';

const FOLDER = join(ROOT, 'apps/web/public/words');
const KILOBITS = 40;

const pcm = readPcmMaybe(new Uint8Array(readFileSync(join(FOLDER, 'words.wav'))));
const encoder = await createMp3Encoder();
encoder.configure({ sampleRate: pcm.sampleRate, channels: 1, bitrate: KILOBITS });
const parts = [];
parts.push(Buffer.from(encoder.encode([markedWords(pcm.samples, pcm.sampleRate)])));
parts.push(Buffer.from(encoder.finalize()));
const file = Buffer.concat(parts);
writeFileSync(join(FOLDER, 'words.mp3'), file);
console.log(`words.mp3: ${file.length} bytes`);
