/** Two times closer than this are one moment: far below a sample, far above what adding up seconds can lose. */
export const SAME_MOMENT_SECONDS = 1e-7;

/** Whether two times, in seconds, are one moment. */
export function isSameMoment(aSeconds: number, bSeconds: number): boolean {
  return Math.abs(aSeconds - bSeconds) < SAME_MOMENT_SECONDS;
}
