import type { Proof } from '@anchorbeat/core';

/** How long each written bar lasts the first time through, in seconds; a bar that is never heard has one. */
export function writtenBarSeconds({ compiled }: Proof): readonly number[] {
  const { barStartSeconds } = compiled.timeline;
  return Array.from(compiled.firstPerformed, (performed) =>
    performed < 0 ? 1 : (barStartSeconds[performed + 1] ?? 0) - (barStartSeconds[performed] ?? 0),
  );
}

/** Where every written bar begins when the whole piece is drawn on one line of a width, true to time. */
export function barPlaces(proof: Proof, widthPx: number): readonly number[] {
  const lengths = writtenBarSeconds(proof);
  const total = lengths.reduce((sum, length) => sum + length, 0);
  let at = 0;
  return lengths.map((length) => {
    const place = (at / total) * widthPx;
    at += length;
    return place;
  });
}
