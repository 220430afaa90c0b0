/**
 * Samples from −1 to 1 as whole numbers of 16 or 24 bits, the channels of each moment beside one another. What is beyond
 * full scale is held at it.
 */
export function wholeSamples(channels: readonly Float32Array[], bits: 16 | 24): Int32Array<ArrayBuffer> {
  const count = channels[0]?.length ?? 0;
  const full = 2 ** (bits - 1) - 1;
  const whole = new Int32Array(count * channels.length);
  channels.forEach((samples, channel) => {
    for (let index = 0; index < count; index++) {
      const sample = samples[index] as number;
      // Called for every sample of hours of sound: no call but the rounding.
      const held = sample > 1 ? 1 : sample < -1 ? -1 : sample;
      whole[index * channels.length + channel] = Math.round(held * full);
    }
  });
  return whole;
}
