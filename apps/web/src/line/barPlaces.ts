import type { Proof } from '../compiled/useCompiled.ts';

/** Where every written bar begins when the whole piece is drawn on one line of a width, true to time. */
export function barPlaces({ compiled }: Proof, widthPx: number): readonly number[] {
  const { barStartSeconds } = compiled.timeline;
  const lengths = Array.from(compiled.firstPerformed, (performed) =>
    performed < 0 ? 1 : (barStartSeconds[performed + 1] ?? 0) - (barStartSeconds[performed] ?? 0),
  );
  const total = lengths.reduce((sum, length) => sum + length, 0);
  let at = 0;
  return lengths.map((length) => {
    const place = (at / total) * widthPx;
    at += length;
    return place;
  });
}
