import { barName, formatMeter, inWords, PLAIN_HAND, pulseOf, type Bar, type Proof } from '@anchorbeat/core';
import { PATTERN_HEIGHT_PX, PATTERN_WIDTH_PX, patternShapes } from '@anchorbeat/drawing';
import { besides, drawing, spaced, stacked, textBlock } from '../blocks.ts';
import type { Block } from '../page.ts';
import type { Sheet } from '../sheet.ts';
import { titleBlock } from '../titleBlock.ts';

/** Four beside each other on A4. */
const SCALE = 0.64;
const GAP_PT = 14;

/** How the hand goes in every meter of the piece. */
export const patterns: Sheet = {
  id: 'patterns',
  name: 'Conducting patterns',
  says: 'The path of the hand in every meter and grouping of the piece, and where each comes first.',
  hears: [],
  blocks: ({ proof }, { bodyWidthPt }) => {
    const each = neededPatterns(proof);
    const widthPt = PATTERN_WIDTH_PX * SCALE + GAP_PT;
    const aRow = Math.max(1, Math.floor((bodyWidthPt + GAP_PT) / widthPt));
    const rows = Array.from({ length: Math.ceil(each.length / aRow) }, (_, row) =>
      each.slice(row * aRow, (row + 1) * aRow),
    );
    return [
      titleBlock(proof, `Conducting patterns · ${each.length} in this piece`, bodyWidthPt),
      ...rows.map((row) =>
        besides(row.map((pattern, index) => ({ x: index * widthPt, block: patternBlock(proof, pattern) }))),
      ),
    ];
  },
};

interface NeededPattern {
  readonly bar: Bar;
  readonly name: string;
  readonly firstBar: number;
  readonly bars: number;
}

/** Every different way a bar of the piece is beaten, in the order of its first bar. */
function neededPatterns({ piece }: Proof): readonly NeededPattern[] {
  const known = new Map<string, NeededPattern>();
  for (const [firstBar, bar] of piece.bars.entries()) {
    if (bar.partial) continue;
    const name = `${formatMeter(bar.meter)}, ${inWords(pulseOf(bar).length)}`;
    const before = known.get(name);
    known.set(name, before ? { ...before, bars: before.bars + 1 } : { bar, name, firstBar, bars: 1 });
  }
  return [...known.values()];
}

function patternBlock({ compiled }: Proof, { bar, name, firstBar, bars }: NeededPattern): Block {
  const widthPt = PATTERN_WIDTH_PX * SCALE;
  const first = barName(compiled.labels, firstBar);
  return spaced(
    stacked([
      drawing(patternShapes(bar, PLAIN_HAND), {
        says: `The hand in ${name}`,
        y: 0,
        scale: SCALE,
        heightPt: PATTERN_HEIGHT_PX * SCALE,
      }),
      textBlock(name, { size: 11, weight: 700 }, widthPt),
      textBlock(
        bars === 1 ? `only in ${first}` : `${bars} bars, first in ${first}`,
        { size: 9.5, tone: 'quiet' },
        widthPt,
      ),
    ]),
    10,
  );
}
