/** A moment on both clocks of a page: seconds of its sound, milliseconds of the page. */
export interface AudioMoment {
  readonly audioSeconds: number;
  readonly pageMs: number;
}

/** Audio seconds = `audioSeconds` + `rate` × (page time − `pageMs`) / 1000. */
export interface AudioLine extends AudioMoment {
  readonly rate: number;
}

const KEPT_MOMENTS = 30;
/** Farther off than this the sound was suspended, or its device changed: what was known before says nothing any more. */
const JUMP_SECONDS = 0.02;
/** Below so long a window the rate of a sound card cannot be told from the jitter of reading it. */
const RATE_FROM_MS = 5000;
const MOST_RATE = 500e-6;

/** So many readings in a row must be off to one side before the sound is taken to have jumped: single ones are odd now and then. */
const JUMPED_READINGS = 3;

/** The moments that still count, with one more; where the sound has jumped only those from the jump on. */
export function momentsAfter(known: readonly AudioMoment[], moment: AudioMoment): readonly AudioMoment[] {
  const newest = [...known.slice(1 - JUMPED_READINGS), moment];
  const line = audioLineMaybe(known.slice(0, known.length + 1 - JUMPED_READINGS));
  const misses = line ? newest.map((each) => each.audioSeconds - audioSecondsOf(line, each.pageMs)) : [];
  const hasJumped =
    misses.length === JUMPED_READINGS &&
    (misses.every((miss) => miss > JUMP_SECONDS) || misses.every((miss) => miss < -JUMP_SECONDS));
  return hasJumped ? newest : [...known.slice(1 - KEPT_MOMENTS), moment];
}

/** The line of median slope through the moments (Theil–Sen), which single odd readings do not move; null for none. */
export function audioLineMaybe(moments: readonly AudioMoment[]): AudioLine | null {
  const last = moments.at(-1);
  const first = moments[0];
  if (!first || !last) return null;
  const slopes: number[] = [];
  if (last.pageMs - first.pageMs >= RATE_FROM_MS)
    for (const [index, from] of moments.entries())
      for (const to of moments.slice(index + 1))
        if (to.pageMs - from.pageMs >= RATE_FROM_MS / 2)
          slopes.push((1000 * (to.audioSeconds - from.audioSeconds)) / (to.pageMs - from.pageMs));
  const measured = slopes.length > 0 ? medianOf(slopes) : 1;
  const rate = Math.min(1 + MOST_RATE, Math.max(1 - MOST_RATE, measured));
  const audioSeconds = medianOf(
    moments.map((moment) => moment.audioSeconds + (rate * (last.pageMs - moment.pageMs)) / 1000),
  );
  return { audioSeconds, pageMs: last.pageMs, rate };
}

export function audioSecondsOf({ audioSeconds, pageMs, rate }: AudioLine, atPageMs: number): number {
  return audioSeconds + (rate * (atPageMs - pageMs)) / 1000;
}

function medianOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  const upper = sorted[middle] ?? 0;
  return sorted.length % 2 ? upper : ((sorted[middle - 1] ?? upper) + upper) / 2;
}
