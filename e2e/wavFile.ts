/** Samples of one channel as a WAV file of 16 bits. */
export function wavOf(samples: Int16Array, sampleRate: number): Buffer {
  const header = Buffer.from(
    'RIFF\0\0\0\0WAVEfmt \x10\0\0\0\x01\0\x01\0\0\0\0\0\0\0\0\0\x02\0\x10\0data\0\0\0\0',
    'latin1',
  );
  header.writeUInt32LE(36 + samples.byteLength, 4);
  header.writeUInt32LE(sampleRate, 24);
  header.writeUInt32LE(2 * sampleRate, 28);
  header.writeUInt32LE(samples.byteLength, 40);
  return Buffer.concat([header, Buffer.from(samples.buffer)]);
}
