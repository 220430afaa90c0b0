import type { BarsMoved } from '../difference/barsMoved.ts';
import type { TakeSeam } from './takeRecord.ts';

/** A take with its seams where the bars are that they led into; those whose bar was taken out are left out. */
export function movedTake<Take extends { readonly seams: readonly Pick<TakeSeam, 'barIndex'>[] }>(
  take: Take,
  moved: BarsMoved,
): Take {
  const seams = take.seams.flatMap((seam) => {
    const barIndex = moved[seam.barIndex] ?? null;
    return barIndex === null ? [] : [{ ...seam, barIndex }];
  });
  return { ...take, seams };
}
