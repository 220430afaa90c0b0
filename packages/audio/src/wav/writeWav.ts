/** A named place in a sound file, by sample. */
interface WavCue {
  readonly sample: number;
  readonly label: string;
}

export interface WavOptions {
  readonly sampleRate: number;
  readonly bits: 16 | 24;
  readonly cues?: readonly WavCue[];
}

/** A file that is made piece by piece: its length in bytes is known before the first of them. */
export interface FileInParts {
  readonly lengthBytes: number;
  readonly parts: Iterable<Uint8Array<ArrayBuffer>>;
}

/**
 * A mono RIFF/WAVE file of samples from −1 to 1, with its named places as a `cue ` chunk and labels. What is beyond full
 * scale is held at it. The samples come in chunks, `sampleCount` in all.
 */
export function writeWav(
  chunks: Iterable<Float32Array>,
  sampleCount: number,
  { sampleRate, bits, cues = [] }: WavOptions,
): FileInParts {
  const bytesPerSample = bits / 8;
  const dataBytes = sampleCount * bytesPerSample;
  const format = new ByteWriter()
    .uint16(1)
    .uint16(1)
    .uint32(sampleRate)
    .uint32(sampleRate * bytesPerSample)
    .uint16(bytesPerSample)
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
    for (const samples of chunks) yield sampleBytes(samples, bits);
    yield after;
  }
  return { lengthBytes: 8 + riffBytes, parts: parts() };
}

function sampleBytes(samples: Float32Array, bits: 16 | 24): Uint8Array<ArrayBuffer> {
  const width = bits / 8;
  const bytes = new Uint8Array(samples.length * width);
  const full = 2 ** (bits - 1) - 1;
  for (let index = 0; index < samples.length; index++) {
    const sample = samples[index] as number;
    // Called for every sample of hours of sound: no call but the rounding.
    const held = sample > 1 ? 1 : sample < -1 ? -1 : sample;
    const value = Math.round(held * full);
    for (let byte = 0; byte < width; byte++) bytes[index * width + byte] = (value >> (8 * byte)) & 0xff;
  }
  return bytes;
}

function cueChunks(cues: readonly WavCue[]): readonly Uint8Array[] {
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
