import type { Fade } from '@anchorbeat/core';

/** The ways the click drops out that one key goes through, with what is said of each. */
export const FADES: ReadonlyArray<{ readonly fade: Fade | null; readonly name: string }> = [
  { fade: null, name: '' },
  { fade: { kind: 'bars', on: 2, off: 2 }, name: '2 bars on, 2 off' },
  { fade: { kind: 'bars', on: 3, off: 1 }, name: '3 bars on, 1 off' },
  { fade: { kind: 'bars', on: 4, off: 4 }, name: '4 bars on, 4 off' },
  { fade: { kind: 'odd bars' }, name: 'odd bars silent' },
  { fade: { kind: 'fewer', bars: 2 }, name: 'fewer every 2 bars' },
];

export function fadeName(fade: Fade | null): string {
  return FADES[fadeIndex(fade)]?.name ?? '';
}

export function nextFade(fade: Fade | null): Fade | null {
  return FADES[(fadeIndex(fade) + 1) % FADES.length]?.fade ?? null;
}

function fadeIndex(fade: Fade | null): number {
  return Math.max(
    0,
    FADES.findIndex((known) => JSON.stringify(known.fade) === JSON.stringify(fade)),
  );
}
