import type { Proof } from '@anchorbeat/core';
import { sectionsOf } from '@anchorbeat/core';
import { stacked } from './blocks.ts';
import type { SheetPage } from './page.ts';
import { paperSystems } from './paperLine.ts';
import type { SheetSettings } from './settings.ts';
import { systemBlock } from './systemBlock.ts';

const EDGE_PT = 10;

/** The line of some bars alone, as wide as asked for and as high as it needs: for a slide or a message. */
export function linePicture(proof: Proof, settings: SheetSettings, widthPt: number): SheetPage {
  const sections = settings.section === null ? sectionsOf(proof.piece) : [settings.section];
  const inside = widthPt - 2 * EDGE_PT;
  const systems = paperSystems(proof, settings, inside);
  const block = stacked(systems.map((system) => systemBlock(proof, system, settings, sections)));
  return {
    widthPt,
    heightPt: block.heightPt + 2 * EDGE_PT,
    items: block.items.map((item) => ({ ...item, x: item.x + EDGE_PT, y: item.y + EDGE_PT })),
  };
}
