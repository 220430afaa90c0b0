import type { OwnWord } from '@anchorbeat/audio';
import { WORD_RATE } from '@anchorbeat/audio';

const WIDTH = 560;
const HEIGHT = 80;
const MIDDLE = HEIGHT / 2;
const STEP_PX = 2;

/** A word as it sounds, and the beat where its vowel opens. */
export function WordWave({ word: { name, samples, anchorSeconds } }: { readonly word: OwnWord }) {
  const seconds = samples.length / WORD_RATE;
  const x = (WIDTH * anchorSeconds) / seconds;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-20 w-full"
      preserveAspectRatio="none"
      role="img"
      aria-label={`“${name}”, ${(seconds * 1000).toFixed(0)} ms long; the beat falls ${(anchorSeconds * 1000).toFixed(0)} ms in`}
    >
      <path d={`M0 ${MIDDLE}H${WIDTH}`} stroke="var(--faint)" strokeWidth={1} />
      <path d={waveOf(samples)} fill="var(--quiet)" />
      <path d={`M${x} 0V${HEIGHT}`} stroke="var(--seam)" strokeWidth={3} />
      <rect x={x - 5} y={MIDDLE - 5} width={10} height={10} fill="var(--seam)" />
    </svg>
  );
}

/** The outline of how loud it is, above the middle and mirrored below it. */
function waveOf(samples: Float32Array): string {
  const count = Math.floor(WIDTH / STEP_PX);
  const peaks = Array.from({ length: count }, (_, index) => {
    const part = samples.subarray(
      Math.floor((index * samples.length) / count),
      Math.floor(((index + 1) * samples.length) / count),
    );
    return part.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0) * MIDDLE;
  });
  const above = peaks.map((peak, index) => `L${index * STEP_PX} ${(MIDDLE - peak).toFixed(1)}`);
  const below = peaks.map((peak, index) => `L${index * STEP_PX} ${(MIDDLE + peak).toFixed(1)}`).reverse();
  return `M0 ${MIDDLE}${above.join('')}${below.join('')}Z`;
}
