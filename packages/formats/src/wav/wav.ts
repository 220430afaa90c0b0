/** A named place in a sound file, by sample. */
export interface WavCue {
  readonly sample: number;
  readonly label: string;
}

export interface WavOptions {
  readonly sampleRate: number;
  readonly bits: 16 | 24;
  readonly cues?: readonly WavCue[];
}

/**
 * A mono RIFF/WAVE file of samples from −1 to 1, with its named places as a `cue ` chunk and labels. What is beyond full
 * scale is held at it.
 */
export function writeWav(samples: Float32Array, { sampleRate, bits, cues = [] }: WavOptions): Uint8Array {
  const bytesPerSample = bits / 8;
  const data = chunk('data', sampleBytes(samples, bits));
  const format = new ByteWriter()
    .uint16(1)
    .uint16(1)
    .uint32(sampleRate)
    .uint32(sampleRate * bytesPerSample)
    .uint16(bytesPerSample)
    .uint16(bits);
  const chunks = [chunk('fmt ', format.bytes()), data, ...cueChunks(cues)];
  const length = chunks.reduce((total, part) => total + part.length, 4);
  const riff = new ByteWriter().text('RIFF').uint32(length).text('WAVE').bytes();
  return joined([riff, ...chunks]);
}

function sampleBytes(samples: Float32Array, bits: 16 | 24): Uint8Array {
  const width = bits / 8;
  const bytes = new Uint8Array(samples.length * width);
  const full = 2 ** (bits - 1) - 1;
  for (let index = 0; index < samples.length; index++) {
    const value = Math.round(Math.min(Math.max(samples[index] ?? 0, -1), 1) * full);
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

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((total, part) => total + part.length, 0));
  let at = 0;
  for (const part of parts) {
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

  bytes(): Uint8Array {
    return joined(this.parts);
  }
}
