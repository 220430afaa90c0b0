import type { FileInParts } from '../fileInParts.ts';
import type { SoundCue, SoundTrack } from '../soundTrack.ts';
import { wholeSamples } from '../wholeSamples.ts';

/**
 * A RIFF/WAVE file of a track, its channels beside one another, with its named places as a `cue ` chunk and labels. What
 * is beyond full scale is held at it.
 */
export function writeWav(track: SoundTrack, bits: 16 | 24): FileInParts {
  const { sampleRate, channelCount, cues } = track;
  const bytesPerMoment = (channelCount * bits) / 8;
  const dataBytes = track.sampleCount * bytesPerMoment;
  const format = new ByteWriter()
    .uint16(1)
    .uint16(channelCount)
    .uint32(sampleRate)
    .uint32(sampleRate * bytesPerMoment)
    .uint16(bytesPerMoment)
    .uint16(bits);
  const formatChunk = chunk('fmt ', format.bytes());
  const fill = new Uint8Array(dataBytes % 2);
  const after = joined([fill, ...cueChunks(cues)]);
  const riffBytes = 4 + formatChunk.length + 8 + dataBytes + after.length;
  const head = joined([
    new ByteWriter().text('RIFF').uint32(riffBytes).text('WAVE').bytes(),
    formatChunk,
    new ByteWriter().text('data').uint32(dataBytes).bytes(),
  ]);
  function* parts(): Generator<Uint8Array<ArrayBuffer>> {
    yield head;
    for (const channels of track.chunks) yield sampleBytes(wholeSamples(channels, bits), bits / 8);
    yield after;
  }
  return { lengthBytes: 8 + riffBytes, parts: parts() };
}

function sampleBytes(samples: Int32Array, width: number): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(samples.length * width);
  for (let index = 0; index < samples.length; index++) {
    const value = samples[index] as number;
    for (let byte = 0; byte < width; byte++) bytes[index * width + byte] = (value >> (8 * byte)) & 0xff;
  }
  return bytes;
}

function cueChunks(cues: readonly SoundCue[]): readonly Uint8Array[] {
  if (cues.length === 0) return [];
  const points = new ByteWriter().uint32(cues.length);
  const labels = new ByteWriter().text('adtl');
  cues.forEach(({ sample, label }, index) => {
    points
      .uint32(index + 1)
      .uint32(sample)
      .text('data')
      .uint32(0)
      .uint32(0)
      .uint32(sample);
    const text = new TextEncoder().encode(`${label}\0`);
    labels.raw(chunk('labl', joined([new ByteWriter().uint32(index + 1).bytes(), text])));
  });
  return [chunk('cue ', points.bytes()), chunk('LIST', labels.bytes())];
}

/** A chunk with its name and length; an odd one is filled up to an even length. */
function chunk(name: string, content: Uint8Array): Uint8Array {
  const head = new ByteWriter().text(name).uint32(content.length).bytes();
  return joined([head, content, new Uint8Array(content.length % 2)]);
}

/** Several runs of bytes as one. */
export function joined(parts: Iterable<Uint8Array>): Uint8Array<ArrayBuffer> {
  const all = [...parts];
  const whole = new Uint8Array(all.reduce((total, part) => total + part.length, 0));
  let at = 0;
  for (const part of all) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** Little-endian numbers and four-letter names, one after another. */
class ByteWriter {
  private readonly parts: Uint8Array[] = [];

  uint16(value: number): this {
    return this.raw(Uint8Array.of(value & 0xff, (value >> 8) & 0xff));
  }

  uint32(value: number): this {
    return this.raw(
      Uint8Array.of(value & 0xff, (value >> 8) & 0xff, (value >> 16) & 0xff, (value >>> 24) & 0xff),
    );
  }

  text(name: string): this {
    return this.raw(new TextEncoder().encode(name));
  }

  raw(bytes: Uint8Array): this {
    this.parts.push(bytes);
    return this;
  }

  bytes(): Uint8Array<ArrayBuffer> {
    return joined(this.parts);
  }
}
