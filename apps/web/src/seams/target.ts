import {
  barName,
  barsPlace,
  seamPlace,
  type CompiledPiece,
  type DrillPlace,
  type Seam,
  type SeamDetails,
} from '@anchorbeat/core';

/** A transition of the piece with everything that is told about it. */
export interface ToldSeam {
  readonly seam: Seam;
  readonly details: SeamDetails;
  readonly barIndex: number;
}

/** What is being looked at and drilled: a seam, or bars that were chosen elsewhere. */
export type Target =
  | { readonly kind: 'seam'; readonly place: DrillPlace; readonly told: ToldSeam }
  | { readonly kind: 'bars'; readonly place: DrillPlace };

export function seamTarget(compiled: CompiledPiece, told: ToldSeam): Target {
  return { kind: 'seam', place: seamPlace(compiled, told.barIndex), told };
}

/** Bars as they stand in an address: "12-16", or "12", by index from 0; null for what is none of the piece. */
export function barsTargetMaybe(compiled: CompiledPiece, text: string | null): Target | null {
  const match = /^(\d{1,6})(?:-(\d{1,6}))?$/.exec(text ?? '');
  if (!match) return null;
  const [from, to] = [Number(match[1]), Number(match[2] ?? match[1])];
  const isInside = from <= to && to < compiled.labels.length && (compiled.firstPerformed[from] ?? -1) >= 0;
  return isInside ? { kind: 'bars', place: barsPlace(compiled, from, to - from + 1) } : null;
}

/** "bar 12", "bar 12 to 16": how a place is named now. */
export function placeName({ labels }: CompiledPiece, { kind, barIndex, bars }: DrillPlace): string {
  if (barIndex >= labels.length) return 'taken out of the piece';
  const first = barName(labels, barIndex);
  if (kind === 'seam' || bars < 2) return first;
  return `${first} to ${barName(labels, barIndex + bars - 1).replace(/^bar /, '')}`;
}

/** Tells targets apart, so that what was begun on one does not go on for another. */
export function targetKey({ kind, place }: Target): string {
  return `${kind} ${place.barIndex} ${place.bars}`;
}
