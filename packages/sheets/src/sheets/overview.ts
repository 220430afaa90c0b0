import { howMany, pieceSeconds, type Proof } from '@anchorbeat/core';
import { layoutLine, systemShapes, type LineLayout } from '@anchorbeat/drawing';
import { drawing, textBlock } from '../blocks.ts';
import { clockText } from '../clockText.ts';
import type { Block } from '../page.ts';
import type { PageFrame } from '../settings.ts';
import type { Sheet } from '../sheet.ts';
import { routeBlockMaybe, titleBlock } from '../titleBlock.ts';

/** Smaller than this nobody reads a bar's number. */
const LEAST_SCALE = 0.5;
const USUAL_SCALE = 0.78;
const MOST_PIXELS_PER_SECOND = 110;
const LEAST_PIXELS_PER_SECOND = 1.5;
const FOOT_ROOM_PT = 24;

/** The whole piece on one page. */
export const overview: Sheet = {
  id: 'overview',
  name: 'Overview',
  says: 'The whole piece on one page, true to time, for the director.',
  hears: [],
  blocks: ({ proof }, frame) => {
    const { bodyWidthPt } = frame;
    const route = routeBlockMaybe(proof, bodyWidthPt);
    const head = [titleBlock(proof, factsOf(proof), bodyWidthPt), ...(route ? [route] : [])];
    const roomPt =
      frame.heightPt -
      2 * frame.marginPt -
      FOOT_ROOM_PT -
      head.reduce((sum, { heightPt }) => sum + heightPt, 0);
    return [...head, ...linesOn(proof, frame, roomPt)];
  },
};

function factsOf({ piece, compiled }: Proof): string {
  const seconds = Math.round(pieceSeconds(compiled.timeline));
  return `Overview · ${howMany(piece.bars.length, 'bar')} · ${howMany(compiled.seams.length, 'seam')} · ${clockText(seconds)}`;
}

/** The largest drawing of the whole line that fits in a height. */
function linesOn(proof: Proof, { bodyWidthPt }: PageFrame, roomPt: number): readonly Block[] {
  const [few, small] = [[USUAL_SCALE], [LEAST_SCALE]].map(([scale = 1]) => ({
    scale,
    layout: largestFitting(proof, bodyWidthPt / scale, roomPt / scale),
  }));
  const isReadable = few && few.layout.detail !== 'far';
  const { scale, layout } = (isReadable ? few : small) ?? { scale: LEAST_SCALE, layout: null };
  if (!layout) return [textBlock('Nothing is written yet.', { size: 11 }, bodyWidthPt)];
  return layout.systems.map((_, index) => {
    const { rows, abovePx } = layout.rowsOf(index);
    const shapes = systemShapes({
      ...proof,
      bars: layout.geometryOf(index),
      seamOf: layout.seamOf,
      rows,
      isCounted: () => false,
    });
    return drawing(shapes, {
      says: `system ${index + 1} of ${layout.systems.length}`,
      x: layout.gutterPx * 0.5 * scale,
      y: abovePx * scale,
      scale,
      heightPt: layout.heightOf(index) * scale,
    });
  });
}

function largestFitting(proof: Proof, widthPx: number, heightPx: number): LineLayout {
  const laidOut = (pixelsPerSecond: number) =>
    layoutLine(proof, {
      scale: { trueTo: 'time', pixelsPerSecond, pixelsPerWhole: pixelsPerSecond * 2 },
      widthPx,
      hasLanes: false,
    });
  const fits = (layout: LineLayout) => layout.topOf(layout.systems.length) <= heightPx;
  let [low, high] = [LEAST_PIXELS_PER_SECOND, MOST_PIXELS_PER_SECOND];
  let best = laidOut(low);
  for (let step = 0; step < 9; step++) {
    const middle = Math.sqrt(low * high);
    const layout = laidOut(middle);
    if (fits(layout)) [best, low] = [layout, middle];
    else high = middle;
  }
  return best;
}
