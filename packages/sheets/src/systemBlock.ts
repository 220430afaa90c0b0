import { barName, entryWords, formatMeter, seamWords, type BarGeometry, type Proof } from '@anchorbeat/core';
import { LANE_PX, laneShapes, systemShapes, type Shape } from '@anchorbeat/drawing';
import { drawing } from './blocks.ts';
import { letterWidth, wrapped } from './measure.ts';
import type { Block } from './page.ts';
import { countsOf, slashesOf, type PaperLine, type PaperSystem } from './paperLine.ts';

const ROOM_TO_WRITE_PX = 40;
const GAP_PX = 10;

/** A system of the line for print: the line, whose entries and rests matter, the words to the ensemble, room to write. */
export function systemBlock(line: PaperLine, system: PaperSystem): Block {
  const { proof, settings, sections, seams, gutterPx, scale } = line;
  const { piece, compiled } = proof;
  const { bars, rows, abovePx, belowPx } = system;
  const widthPx = line.bodyWidthPt / scale;
  const lanes = sections.filter((section) => happensIn(proof, section, bars));
  const lanesY = belowPx + 11;
  const notes = noteShapes(proof, bars, {
    y: lanesY + lanes.length * LANE_PX + 4,
    widthPx: widthPx - gutterPx,
  });
  const drawn = settings.pulse === 'hops' ? bars : withoutHops(bars);
  const shapes: readonly Shape[] = [
    ...systemShapes({
      piece,
      compiled,
      bars: drawn,
      rows,
      seamOf: ({ barIndex }) => seams.get(barIndex),
      countOf: countsOf(line),
    }),
    ...(settings.pulse === 'slashes' ? slashShapes(proof, bars) : []),
    ...laneShapes(piece, bars, {
      sections: lanes,
      spans: spansIn(line, bars),
      y: lanesY,
      gutterPx: settings.section === null ? gutterPx : null,
    }),
    ...notes.shapes,
  ];
  const heightPx =
    abovePx +
    belowPx +
    (lanes.length > 0 ? lanes.length * LANE_PX + 9 : 0) +
    notes.rows * NOTE_ROW_PX +
    (settings.hasRoomToWrite ? ROOM_TO_WRITE_PX : 0) +
    GAP_PX;
  return drawing(shapes, {
    says: inWords(line, bars),
    x: gutterPx * scale,
    y: abovePx * scale,
    scale,
    heightPt: heightPx * scale,
  });
}

const NOTE_ROW_PX = 18;
const NOTE_SIZE = 13;
const NOTE_INSET_PX = 6;
const NOTE_GAP_PX = 14;

/** The words to the ensemble, each whole from its bar on or ending at the edge of the paper, in as many rows as they need. */
function noteShapes(
  { piece }: Proof,
  bars: readonly BarGeometry[],
  { y, widthPx }: { readonly y: number; readonly widthPx: number },
): { readonly shapes: readonly Shape[]; readonly rows: number } {
  const ends: number[] = [];
  const shapes = bars.flatMap(({ barIndex, xPx }): readonly Shape[] => {
    const note = piece.bars[barIndex]?.note;
    if (note === undefined) return [];
    const lines = wrapped(note, 'text-italic', NOTE_SIZE, widthPx - NOTE_INSET_PX);
    const longest = Math.max(...lines.map((line) => letterWidth(line, 'text-italic', NOTE_SIZE)));
    const x = Math.max(0, Math.min(xPx + NOTE_INSET_PX, widthPx - longest));
    let row = ends.findIndex((end) => end + NOTE_GAP_PX <= x);
    if (row < 0 || lines.length > 1) row = ends.length;
    lines.forEach((_, index) => (ends[row + index] = x + longest));
    const top = y + row * NOTE_ROW_PX;
    return [
      { kind: 'path', d: `M${xPx} ${y - 9}V${top + 4}`, stroke: 'ink', strokePx: 1.6 },
      ...lines.map((line, index): Shape => ({
        kind: 'text',
        x,
        y: top + 2 + index * NOTE_ROW_PX,
        parts: [{ text: line }],
        sizePx: NOTE_SIZE,
        tone: 'ink',
        isItalic: true,
      })),
    ];
  });
  return { shapes, rows: ends.length };
}

/** The spans of the line that lie among some bars. */
function spansIn({ spans }: PaperLine, bars: readonly BarGeometry[]): PaperLine['spans'] {
  const [first, last] = [bars[0]?.barIndex ?? 0, bars.at(-1)?.barIndex ?? 0];
  return spans.filter(({ from, to }) => from <= last && to > first);
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
function inWords({ proof, seams }: PaperLine, bars: readonly BarGeometry[]): string {
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
