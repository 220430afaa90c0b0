import { routeWords, type Proof } from '@anchorbeat/core';
import { rule, stacked, textBlock } from './blocks.ts';
import type { Block } from './page.ts';

/** The piece, what the sheet is and for whom, over a rule. */
export function titleBlock({ piece }: Proof, what: string, widthPt: number): Block {
  const by = [piece.subtitle, piece.composer].filter(Boolean).join(' · ');
  return stacked([
    textBlock(piece.title || 'Untitled', { size: 22, weight: 800, face: 'display' }, widthPt, {
      role: 'title',
    }),
    textBlock(what, { size: 12, weight: 700 }, widthPt, { afterPt: 1 }),
    ...(by ? [textBlock(by, { size: 9.5, tone: 'quiet' }, widthPt, { afterPt: 1 })] : []),
    rule(widthPt),
  ]);
}

/** The order in which the bars are played, where it is not as written; null where it is. */
export function routeBlockMaybe({ piece, compiled }: Proof, widthPt: number): Block | null {
  const { route } = compiled.timeline;
  const isPlain = route.barIndex.length === piece.bars.length;
  if (isPlain) return null;
  return textBlock(`As played: ${routeWords(piece, route)}`, { size: 9.5, tone: 'quiet' }, widthPt, {
    afterPt: 2,
  });
}
