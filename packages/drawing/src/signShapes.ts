import {
  formatNumber,
  formatRampTarget,
  meterSign,
  type Meter,
  type RampTarget,
  type TempoMark,
} from '@anchorbeat/core';

/** What a mark says of a ramp or a return beside its printed word. */
export function rampWords({ term, ramp, returns }: TempoMark): string {
  if (returns) return term ? '' : returns;
  if (!ramp) return '';
  const word = term ? '' : 'ramp';
  return ramp.target ? `${word} to ${shortTarget(ramp.target)}` : `${word} …`;
}

function shortTarget(target: RampTarget): string {
  if (target.kind !== 'tempo') return formatRampTarget(target);
  return formatNumber(target.tempo.bpm);
}

/** Rough width of a drawn tempo mark in pixels, for finding a free lane. */
export function tempoMarkWidth(mark: TempoMark, size: number): number {
  const term = mark.term ? mark.term.length * size * 0.56 + size * 0.6 : 0;
  const equivalence = mark.equivalence ? size * 4 : 0;
  const stated = mark.stated ? size * 3.4 : 0;
  return term + equivalence + stated + rampWords(mark).length * size * 0.55;
}

/** About how far a drawn tempo mark reaches over its line, in pixels: notes stand taller than letters, tuplets tallest. */
export function tempoMarkHeight({ stated, equivalence }: TempoMark, size: number): number {
  const values = [stated?.unit, equivalence?.before, equivalence?.after];
  return size * (values.some((value) => value && value.tuplets.length > 0) ? 1.4 : 1);
}

/** The parts of a meter with where they and the plus before them stand, from x = 0. */
export function placedParts(meter: Meter, size: number) {
  let left = 0;
  return meterSign(meter).map(({ top, bottom }, index) => {
    const plusX = index > 0 ? left + size / 4 : null;
    const start = index > 0 ? left + size / 2 : left;
    const width = figureWidth(top, bottom, size);
    left = start + width;
    return { top, bottom, plusX, centreX: start + width / 2, endX: left };
  });
}

/** Width of a drawn meter in pixels. */
export function meterWidth(meter: Meter, size: number): number {
  return placedParts(meter, size).at(-1)?.endX ?? 0;
}

function figureWidth(top: string, bottom: string, size: number): number {
  const widthOf = (figures: string) =>
    [...figures].reduce((total, figure) => total + (figure === '+' ? 0.5 : figure === '1' ? 0.32 : 0.45), 0);
  return Math.max(widthOf(top), widthOf(bottom)) * size;
}
