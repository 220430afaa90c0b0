import {
  barName,
  formatMeter,
  formatNumber,
  howMany,
  performedGeometry,
  promptFor,
  seamDetails,
  seamWords,
  writtenBar,
  writtenIndex,
  type LineScale,
  type Proof,
  type Seam,
} from '@anchorbeat/core';
import { roomAbove, systemShapes } from '@anchorbeat/drawing';
import { besides, drawing, heading, spaced, stacked, textBlock } from '../blocks.ts';
import type { Block } from '../page.ts';
import { paperRows } from '../paperLine.ts';
import type { Sheet } from '../sheet.ts';
import { titleBlock } from '../titleBlock.ts';

const MOST_SEAMS = 12;
const DRAWING_SHARE = 0.46;
const SCALE = 0.62;
/** The line is so near that hops are as high as they get. */
const HIGHEST_HOP_PX = 72;
const ABOVE_PX = HIGHEST_HOP_PX + 38;
const BELOW_PX = 62;

/** The places to rehearse first, each with what goes wrong there and what to hold on to. */
export const hardestSeams: Sheet = {
  id: 'hardest-seams',
  name: 'Hardest seams',
  says: 'The twelve hardest transitions with their counts, what carries, the usual mistakes and a drill.',
  hears: [],
  blocks: ({ proof }, { bodyWidthPt }) => {
    const worst = [...proof.compiled.seams]
      .sort((a, b) => b.difficulty.score - a.difficulty.score || a.performed - b.performed)
      .slice(0, MOST_SEAMS);
    if (worst.length === 0)
      return [
        titleBlock(proof, 'Hardest seams', bodyWidthPt),
        textBlock('Nothing changes in this piece: it has no seams.', { size: 11 }, bodyWidthPt),
      ];
    return [
      titleBlock(
        proof,
        `The ${worst.length} hardest of ${howMany(proof.compiled.seams.length, 'seam')}`,
        bodyWidthPt,
      ),
      ...worst.map((seam, index) => seamBlock(proof, seam, index + 1, bodyWidthPt)),
    ];
  },
};

function seamBlock(proof: Proof, seam: Seam, place: number, widthPt: number): Block {
  const barIndex = writtenIndex(proof, seam.performed);
  const name = barName(proof.compiled.labels, barIndex);
  const title = `${place}  Into ${name}: ${seamWords(proof, seam)} · difficulty ${Math.round(seam.difficulty.score)} of 100`;
  const drawingPt = widthPt * DRAWING_SHARE;
  const textX = drawingPt + 14;
  return spaced(
    stacked([
      heading(title, widthPt, 12.5),
      besides([
        { x: 0, block: acrossBlock(proof, seam, drawingPt) },
        { x: textX, block: factsBlock(proof, seam, widthPt - textX) },
      ]),
    ]),
    4,
  );
}

/** The bar before and the bar after, as large as fits. */
function acrossBlock(proof: Proof, seam: Seam, widthPt: number): Block {
  const { barStartSeconds } = proof.compiled.timeline;
  const start = (performed: number) => barStartSeconds[performed] ?? 0;
  const seconds = start(seam.performed + 1) - start(seam.performed - 1);
  const widthPx = widthPt / SCALE - 12;
  const scale: LineScale = {
    trueTo: 'time',
    pixelsPerSecond: Math.min(110, widthPx / Math.max(seconds, 0.1)),
    pixelsPerWhole: 1,
  };
  const bars = performedGeometry(proof, scale, { performed: seam.performed - 1, widthPx: widthPx + 1 }).slice(
    0,
    2,
  );
  const rows = paperRows(HIGHEST_HOP_PX);
  const abovePx = Math.max(ABOVE_PX, roomAbove(proof, bars, rows));
  const shapes = systemShapes({
    ...proof,
    bars,
    seamOf: (bar) => (bar.performed === seam.performed ? seam : undefined),
    rows,
  });
  return drawing(shapes, {
    says: `The bar before and the bar after: ${seamWords(proof, seam)}`,
    x: 6 * SCALE,
    y: abovePx * SCALE,
    scale: SCALE,
    heightPt: (abovePx + BELOW_PX) * SCALE,
  });
}

function factsBlock(proof: Proof, seam: Seam, widthPt: number): Block {
  const details = seamDetails(proof, seam);
  const [before, after] = [writtenBar(proof, seam.performed - 1), writtenBar(proof, seam.performed)];
  const pulse = ({ bpm, milliseconds }: { bpm: typeof details.pulseBefore.bpm; milliseconds: number }) =>
    `${formatNumber(bpm)} a minute, ${Math.round(milliseconds)} ms`;
  const lines: ReadonlyArray<readonly [string, string]> = [
    ['meter', `${formatMeter(before.meter)}, then ${formatMeter(after.meter)}`],
    ['pulse', `${pulse(details.pulseBefore)}, then ${pulse(details.pulseAfter)}`],
    ['count', `${details.countAcross[0]} | ${details.countAcross[1]}`],
    ...details.traps.map(({ says }) => ['trap', says] as const),
    ...(after.note ? [['note', after.note] as const] : []),
    [
      'drill',
      `speak the count, clap ${promptFor('clap', [before, after]).join(' | ')}, then play from two bars before`,
    ],
  ];
  return spaced(
    stacked(
      lines.map(([name, says]) =>
        besides([
          { x: 0, block: textBlock(name, { size: 9.5, tone: 'quiet' }, 36) },
          { x: 38, block: textBlock(says, { size: 10 }, widthPt - 38, { afterPt: 1.5 }) },
        ]),
      ),
    ),
    10,
  );
}
