import { expect, test } from '@jest/globals';
import wavefile from 'wavefile';
import type { SoundTrack } from '../soundTrack.ts';
import { joined, writeWav } from './writeWav.ts';

/** The chunks of a RIFF file, read by the book: name, length, content, a fill byte after an odd one. */
function chunksOf(file: Uint8Array): ReadonlyMap<string, Buffer> {
  const bytes = Buffer.from(file);
  expect([bytes.toString('latin1', 0, 4), bytes.readUInt32LE(4), bytes.toString('latin1', 8, 12)]).toEqual([
    'RIFF',
    bytes.length - 8,
    'WAVE',
  ]);
  const chunks = new Map<string, Buffer>();
  for (let at = 12; at < bytes.length;) {
    const length = bytes.readUInt32LE(at + 4);
    chunks.set(bytes.toString('latin1', at, at + 4), bytes.subarray(at + 8, at + 8 + length));
    at += 8 + length + (length % 2);
  }
  return chunks;
}

const samples = Float32Array.of(0, 0.5, -0.5, 1, -1, 2, -2);

interface WavWishes extends Partial<SoundTrack> {
  readonly bits: 16 | 24;
}

/** Made of two chunks; the length told beforehand is that of the file. */
function wavFile({ bits, ...more }: WavWishes): Uint8Array {
  const chunks = [[samples.subarray(0, 3)], [samples.subarray(3)]];
  const track = {
    sampleRate: 48_000,
    sampleCount: samples.length,
    channelCount: 1 as const,
    cues: [],
    chunks,
  };
  const { lengthBytes, parts } = writeWav({ ...track, ...more }, bits);
  const file = joined(parts);
  expect(file).toHaveLength(lengthBytes);
  return file;
}

test.each([
  [16 as const, [0, 16384, -16383, 32767, -32767, 32767, -32767]],
  [24 as const, [0, 4194304, -4194303, 8388607, -8388607, 8388607, -8388607]],
])('%i bits: the samples are there, and what is beyond full scale is held at it', (bits, expected) => {
  const chunks = chunksOf(wavFile({ sampleRate: 48_000, bits }));
  const format = chunks.get('fmt ')!;
  expect([
    format.readUInt16LE(0),
    format.readUInt16LE(2),
    format.readUInt32LE(4),
    format.readUInt16LE(14),
  ]).toEqual([1, 1, 48_000, bits]);
  const data = chunks.get('data')!;
  expect(expected.map((_, index) => data.readIntLE((index * bits) / 8, bits / 8))).toEqual(expected);
});

test('named places stand in it with their labels', () => {
  const cues = [
    { sample: 2, label: 'bar 1' },
    { sample: 5, label: 'bar 2, C♯' },
  ];
  const chunks = chunksOf(wavFile({ sampleRate: 44_100, bits: 16, cues }));
  const points = chunks.get('cue ')!;
  expect(points.readUInt32LE(0)).toBe(2);
  expect([points.readUInt32LE(4 + 20), points.readUInt32LE(4 + 24 + 20)]).toEqual([2, 5]);
  expect(chunks.get('LIST')!.toString('utf8')).toContain('bar 2, C♯\0');
});

test.each([16, 24] as const)(
  '%i bits: another reader finds the same samples, rate and named places',
  (bits) => {
    const cues = [
      { sample: 1, label: 'bar 1' },
      { sample: 5, label: 'bar 2' },
    ];
    const read = new wavefile.WaveFile(wavFile({ sampleRate: 96_000, bits, cues }));
    expect(read.fmt).toMatchObject({ sampleRate: 96_000, bitsPerSample: bits, numChannels: 1 });
    expect(
      (read.listCuePoints() as ReadonlyArray<{ position: number; label: string }>).map(
        ({ position, label }) => [Math.round((position * 96_000) / 1000), label],
      ),
    ).toEqual(cues.map(({ sample, label }) => [sample, label]));
    const full = 2 ** (bits - 1) - 1;
    const found = Array.from(
      read.getSamples(false) as unknown as ArrayLike<number>,
      (sample) => sample / full,
    );
    found.forEach((sample, index) =>
      expect(sample).toBeCloseTo(Math.max(-1, Math.min(1, samples[index]!)), bits === 16 ? 4 : 6),
    );
  },
);
