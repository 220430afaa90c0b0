/** Samples that the encoder puts before the sound. A decoder adds 529 of its own and takes both away. */
const ENCODER_DELAY_SAMPLES = 576;
const SAMPLES_A_FRAME = 1152;

/** MPEG-1 Layer III: kilobits a second and samples a second, by their places in a frame's head. */
const BIT_RATES = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320] as const;
const SAMPLE_RATES = [44_100, 48_000, 32_000] as const;

/** Where in the Info frame the extension begins, from the word "Info" on: flags, frames, bytes, places, quality. */
const EXTENSION_AT = 4 + 4 + 4 + 4 + 100 + 4;
const EXTENSION_BYTES = 36;

/**
 * The frame that stands before an MP3's own: a silent one with the length of the file, places for seeking and what is to
 * be cut off at both ends. Layout: the "Info" tag with the 36 bytes that the LAME encoder appends to it.
 */
export function infoFrame(parts: readonly Uint8Array[], sampleCount: number): Uint8Array<ArrayBuffer> {
  const head = parts.find(({ length }) => length >= 4)?.subarray(0, 4);
  if (!head || head[0] !== 0xff) throw new Error('the MP3 does not begin with a frame');
  const frame = new Uint8Array(Math.floor(exactFrameBytes(head)));
  // The head of the others, without their filling byte.
  frame.set([head[0], head[1] as number, (head[2] as number) & ~2, head[3] as number]);
  const isMono = (head[3] as number) >> 6 === 3;
  const at = 4 + (isMono ? 17 : 32);
  const soundBytes = parts.reduce((sum, { length }) => sum + length, 0);
  // At a constant rate a byte more now and then keeps the sum right.
  const frames = Math.round(soundBytes / exactFrameBytes(head));
  const padding = frames * SAMPLES_A_FRAME - ENCODER_DELAY_SAMPLES - sampleCount;
  const view = new DataView(frame.buffer);
  frame.set(new TextEncoder().encode('Info'), at);
  view.setUint32(at + 4, 0b1111);
  view.setUint32(at + 8, frames);
  view.setUint32(at + 12, frame.length + soundBytes);
  for (let percent = 0; percent < 100; percent++)
    frame[at + 16 + percent] = Math.min(255, Math.round((percent * 256) / 100));
  const extension = at + EXTENSION_AT;
  frame.set(new TextEncoder().encode('LAME3.100'), extension);
  // Constant rate; then, after what says nothing here, both ends in 12 bits each.
  frame[extension + 9] = 1;
  frame.set(
    [ENCODER_DELAY_SAMPLES >> 4, ((ENCODER_DELAY_SAMPLES & 15) << 4) | (padding >> 8), padding & 255],
    extension + 21,
  );
  view.setUint32(extension + 28, frame.length + soundBytes);
  const checked = extension + EXTENSION_BYTES - 2;
  view.setUint16(checked, crc16(frame.subarray(0, checked)));
  return frame;
}

/** How long a frame is by its head, before it is cut to whole bytes. */
function exactFrameBytes(head: Uint8Array): number {
  const third = head[2] as number;
  const bitRate = (BIT_RATES[third >> 4] ?? 0) * 1000;
  const sampleRate = SAMPLE_RATES[(third >> 2) & 3];
  if (bitRate === 0 || sampleRate === undefined) throw new Error('the MP3 has a frame without a length');
  return (144 * bitRate) / sampleRate;
}

/** The check sum of the tag: polynomial 0x8005, lowest bit first. */
function crc16(bytes: Uint8Array): number {
  let sum = 0;
  for (const byte of bytes) {
    sum ^= byte;
    for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? (sum >> 1) ^ 0xa001 : sum >> 1;
  }
  return sum;
}
