import type { Proof } from '@anchorbeat/core';
import { stacked } from './blocks.ts';
import type { SheetPage } from './page.ts';
import { paperLine, paperSystems } from './paperLine.ts';
import type { SheetSettings } from './settings.ts';
import { systemBlock } from './systemBlock.ts';

const EDGE_PT = 10;

/** The line of some bars alone, as wide as asked for and as high as it needs: for a slide or a message. */
export function linePicture(proof: Proof, settings: SheetSettings, widthPt: number): SheetPage {
  const line = paperLine(proof, settings, widthPt - 2 * EDGE_PT);
  const block = stacked(paperSystems(line).map((system) => systemBlock(line, system)));
  return {
    widthPt,
    heightPt: block.heightPt + 2 * EDGE_PT,
    items: block.items.map((item) => ({ ...item, x: item.x + EDGE_PT, y: item.y + EDGE_PT })),
  };
}
