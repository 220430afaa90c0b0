/** Mono sound as samples from −1 to 1. */
export interface Pcm {
  readonly samples: Float32Array;
  readonly sampleRate: number;
}

/** Reads a mono 16-bit RIFF/WAVE file; null for anything else. */
export function readPcmMaybe(bytes: Uint8Array): Pcm | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const nameAt = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 12 || nameAt(0) !== 'RIFF' || nameAt(8) !== 'WAVE') return null;
  let sampleRate = 0;
  for (let at = 12; at + 8 <= bytes.length;) {
    const length = view.getUint32(at + 4, true);
    if (nameAt(at) === 'fmt ') {
      const isMono16 = view.getUint16(at + 10, true) === 1 && view.getUint16(at + 22, true) === 16;
      if (!isMono16) return null;
      sampleRate = view.getUint32(at + 12, true);
    }
    if (nameAt(at) === 'data' && sampleRate > 0) {
      const count = Math.floor(Math.min(length, bytes.length - at - 8) / 2);
      const samples = Float32Array.from(
        { length: count },
        (_, n) => view.getInt16(at + 8 + 2 * n, true) / 32_768,
      );
      return { samples, sampleRate };
    }
    at += 8 + length + (length % 2);
  }
  return null;
}
