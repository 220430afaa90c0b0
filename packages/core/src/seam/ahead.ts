import type { Proof } from '../proof/proof.ts';
import { barsUntilMaybe } from '../run/spans.ts';
import type { PerformedSpan } from '../run/settings.ts';
import type { Seam } from './seam.ts';

/** A seam that is still to come, and in how many bars: 1 is the next bar. */
export interface SeamAhead {
  readonly seam: Seam;
  readonly inBars: number;
}

/** The seams after a performed bar, in order, among the bars that are played today. */
export function seamsAhead(
  { compiled }: Pick<Proof, 'compiled'>,
  performed: number,
  leftOut: readonly PerformedSpan[],
): readonly SeamAhead[] {
  return compiled.seams.flatMap((seam) => {
    const inBars = seam.performed > performed ? barsUntilMaybe(leftOut, performed, seam.performed) : null;
    return inBars === null ? [] : [{ seam, inBars }];
  });
}
