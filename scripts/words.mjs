// Remakes the spoken counts that the app ships, with espeak-ng (Debian: apt install espeak-ng).
// All words stand in one file one after another; words.json says where each stands and where in it the ear hears the beat.
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from './fresh.mjs';

const RATE = 22_050;
const FOLDER = join(ROOT, 'apps/web/public/words');
const LAST_NUMBER = 48;
/** What numbers up to 999 are made of, besides. */
const PARTS = ['50', '60', '70', '80', '90', 'hundred', 'bar'];
/** What is shown, and what is said for it where that differs. */
const SAID = { '&': 'and', e: 'ee', a: 'uh', ready: 'ready', go: 'go' };
/** Said before a drill that is done off the instruments. */
const CALLS = ['speak the count', 'clap the groups', 'step and sing'];
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('');
const GAP_SECONDS = 0.05;
const LEAD_SECONDS = 0.012;
const TAIL_SECONDS = 0.03;
const PEAK = 0.7;

const words = [
  ...Array.from({ length: LAST_NUMBER }, (_, index) => [String(index + 1), String(index + 1)]),
  ...Object.entries(SAID),
  ...LETTERS.map((letter) => [letter, letter === 'A' ? 'ay' : letter]),
  ...CALLS.map((call) => [call, call]),
  ...PARTS.map((part) => [part, part]),
];

const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-words-'));
const pieces = [];
const index = {};
let at = 0;
for (const [shown, said] of words) {
  const samples = spoken(said);
  const { from, to } = voicedPart(samples);
  const word = levelled(samples.subarray(from, to));
  index[shown] = {
    startSeconds: round(at / RATE),
    lengthSeconds: round(word.length / RATE),
    anchorSeconds: round(perceivedOnset(word)),
  };
  pieces.push(word, new Float32Array(Math.round(GAP_SECONDS * RATE)));
  at += word.length + Math.round(GAP_SECONDS * RATE);
}
mkdirSync(FOLDER, { recursive: true });
writeFileSync(join(FOLDER, 'words.wav'), wav(pieces, at));
writeFileSync(join(FOLDER, 'words.json'), `${JSON.stringify(index, null, 1)}\n`);
rmSync(folder, { recursive: true });
console.log(`${words.length} words, ${(at / RATE).toFixed(1)} s`);

function spoken(text) {
  const file = join(folder, 'word.wav');
  execFileSync('espeak-ng', ['-v', 'en-gb', '-s', '215', '-p', '42', '-a', '140', '-w', file, text]);
  const bytes = readFileSync(file);
  const data = bytes.indexOf('data') + 8;
  const rate = bytes.readUInt32LE(24);
  if (rate !== RATE) throw new Error(`espeak-ng spoke at ${rate} samples a second, not ${RATE}`);
  return Float32Array.from(
    { length: (bytes.length - data) >> 1 },
    (_, n) => bytes.readInt16LE(data + 2 * n) / 32768,
  );
}

/** Where the word begins and ends, with a little air. */
function voicedPart(samples) {
  const loud = 0.02 * samples.reduce((peak, sample) => Math.max(peak, Math.abs(sample)), 0);
  const first = samples.findIndex((sample) => Math.abs(sample) > loud);
  const last = samples.findLastIndex((sample) => Math.abs(sample) > loud);
  return {
    from: Math.max(0, first - Math.round(LEAD_SECONDS * RATE)),
    to: Math.min(samples.length, last + Math.round(TAIL_SECONDS * RATE)),
  };
}

function levelled(samples) {
  const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 1e-6);
  const fade = Math.round(0.012 * RATE);
  return samples.map((sample, n) => (sample * PEAK * Math.min(1, (samples.length - n) / fade)) / peak);
}

/**
 * When the ear takes the word to begin: where the energy of 12 ms first rises to a quarter of its peak (−6 dB). That is
 * where its vowel opens, not where its consonant begins.
 */
function perceivedOnset(samples) {
  const window = Math.round(0.012 * RATE);
  const step = Math.round(0.0005 * RATE);
  const energies = [];
  for (let from = 0; from + window <= samples.length; from += step) {
    let energy = 0;
    for (let n = from; n < from + window; n++) energy += samples[n] ** 2;
    energies.push(energy);
  }
  const peak = Math.max(...energies);
  return (energies.findIndex((energy) => energy >= peak / 4) * step + window / 2) / RATE;
}

function round(seconds) {
  return Math.round(seconds * 10_000) / 10_000;
}

function wav(parts, length) {
  const bytes = Buffer.alloc(44 + 2 * length);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + 2 * length, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(RATE, 24);
  bytes.writeUInt32LE(2 * RATE, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(2 * length, 40);
  let at = 44;
  for (const part of parts)
    for (const sample of part) at = bytes.writeInt16LE(Math.round(sample * 32_767), at);
  return bytes;
}
