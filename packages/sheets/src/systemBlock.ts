import {
  barName,
  entryWords,
  formatMeter,
  seamWords,
  sectionSpans,
  type BarGeometry,
  type Proof,
} from '@anchorbeat/core';
import {
  ensembleNoteShapes,
  LANE_PX,
  laneShapes,
  NOTES_LANE_PX,
  systemShapes,
  type Shape,
} from '@anchorbeat/drawing';
import { drawing } from './blocks.ts';
import type { Block } from './page.ts';
import { countsOf, lineGutterPx, printedSeams, slashesOf, type PaperSystem } from './paperLine.ts';
import { drawingScale, type SheetSettings } from './settings.ts';

const ROOM_TO_WRITE_PX = 40;
const GAP_PX = 10;

/** A system of the line for print: the line, whose entries and rests matter, the words to the ensemble, room to write. */
export function systemBlock(
  proof: Proof,
  system: PaperSystem,
  settings: SheetSettings,
  sections: readonly string[],
): Block {
  const { piece, compiled } = proof;
  const { bars, rows, abovePx, belowPx } = system;
  const seams = printedSeams(proof);
  const gutterPx = lineGutterPx(proof, settings);
  const lanes = sections.filter((section) => happensIn(proof, section, bars));
  const hasNotes = bars.some(({ barIndex }) => piece.bars[barIndex]?.note);
  const lanesY = belowPx + 8;
  const notesY = lanesY + lanes.length * LANE_PX + 4;
  const drawn = settings.pulse === 'hops' ? bars : withoutHops(bars);
  const shapes: readonly Shape[] = [
    ...systemShapes({
      piece,
      compiled,
      bars: drawn,
      rows,
      seamOf: ({ barIndex }) => seams.get(barIndex),
      countOf: countsOf(proof, settings),
    }),
    ...(settings.pulse === 'slashes' ? slashShapes(proof, bars) : []),
    ...laneShapes(piece, bars, {
      sections: lanes,
      spans: sectionSpans(piece),
      y: lanesY,
      gutterPx: settings.section === null ? gutterPx : null,
    }),
    ...(hasNotes ? ensembleNoteShapes(piece, bars, notesY) : []),
  ];
  const heightPx =
    abovePx +
    belowPx +
    (lanes.length > 0 ? lanes.length * LANE_PX + 6 : 0) +
    (hasNotes ? NOTES_LANE_PX : 0) +
    (settings.hasRoomToWrite ? ROOM_TO_WRITE_PX : 0) +
    GAP_PX;
  const scale = drawingScale(settings.type);
  return drawing(shapes, {
    says: inWords(proof, bars),
    x: gutterPx * scale,
    y: abovePx * scale,
    scale,
    heightPt: heightPx * scale,
  });
}

/** Where a line is only counted, hops are flat. */
function withoutHops(bars: readonly BarGeometry[]): readonly BarGeometry[] {
  return bars.map((bar) => ({
    ...bar,
    hops: bar.hops.map((hop) => ({ ...hop, heightPx: 0, parts: 1 })),
  }));
}

const SLASH = { width: 9, height: 18, thick: 3.4 } as const;

/** One slash a beat of the pulse, as parts print it. */
function slashShapes(proof: Proof, bars: readonly BarGeometry[]): readonly Shape[] {
  const d = bars
    .flatMap((bar) => slashesOf(proof, bar))
    .map((x) => `M${x + 5} 0L${x + 5 + SLASH.width} ${-SLASH.height}`)
    .join('');
  return d === '' ? [] : [{ kind: 'path', d, stroke: 'ink', strokePx: SLASH.thick }];
}

/** Whether a section rests, enters or is cued among some bars. */
function happensIn({ piece }: Proof, section: string, bars: readonly BarGeometry[]): boolean {
  return bars.some(
    ({ barIndex, restRun }) =>
      (restRun !== null && restRun.from === barIndex) ||
      piece.bars[barIndex]?.sectionMarks?.some((mark) => mark.section === section),
  );
}

/** "Bar 11, 15/16; bar 12, 4/4, seam: sixteenth stays": what a system shows, for reading aloud. */
function inWords(proof: Proof, bars: readonly BarGeometry[]): string {
  const seams = printedSeams(proof);
  return bars
    .map(({ barIndex }) => {
      const bar = proof.piece.bars[barIndex];
      const seam = seams.get(barIndex);
      return [
        barName(proof.compiled.labels, barIndex),
        bar && formatMeter(bar.meter),
        seam && `seam: ${seamWords(proof, seam)}`,
        bar?.sectionMarks && entryWords(bar.sectionMarks.filter(({ does }) => does !== 'rests')),
        bar?.note,
      ]
        .filter(Boolean)
        .join(', ');
    })
    .join('; ');
}
