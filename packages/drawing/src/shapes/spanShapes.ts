import type { BarGeometry, Piece, SectionMark, SectionSpan } from '@anchorbeat/core';
import { drawnRests } from '../drawnRests.ts';
import { hopPath } from '../hopPaths.ts';
import type { PlacedAnchor } from '../placeAnchors.ts';
import { placeHolds, placeHoldWords, type Span } from '../placeHolds.ts';
import type { LineRows } from '../lineRows.ts';
import { path, run, words, type Shape, type TextPart } from './shape.ts';

const HOLD_WORDS_SIZE = 12.5;
const BREATH = '\uE4CE';
/** How wide a letter of a hold's words is at most on the average, and how far beyond its last bar a system has room. */
const HOLD_LETTER_PX = 7;
const BEYOND_LAST_PX = 12;
const REST_HEIGHT_PX = { near: 26, page: 12 } as const;
const MIN_NUMBER_PX = 26;

/** A rest of several bars as one long low hop with its number; where a system breaks it, the rest of it is told beside. */
export function longRestShapes(bars: readonly BarGeometry[], isPage: boolean): readonly Shape[] {
  const heightPx = REST_HEIGHT_PX[isPage ? 'page' : 'near'];
  return drawnRests(bars).flatMap(({ run: rest, xPx, widthPx, firstBar }) => {
    const left = rest.from + rest.count - firstBar;
    const hop = path(hopPath({ xPx, widthPx, heightPx }), { stroke: 'ink', strokePx: 2.6 });
    if (widthPx < MIN_NUMBER_PX) return [hop];
    const parts: readonly TextPart[] = [
      { text: String(left) },
      ...(firstBar > rest.from
        ? [{ text: ` of ${rest.count}`, sizePx: 13, tone: 'quiet' as const, weight: 600 as const }]
        : []),
    ];
    const number = run(parts, xPx + widthPx / 2, -heightPx - (isPage ? 4 : 7), {
      sizePx: isPage ? 15 : 24,
      tone: 'ink',
      weight: 800,
      face: 'display',
      anchor: 'middle',
    });
    return [hop, number];
  });
}

/** Where a hold stands its landing opens into a bowl, with its length in words; a breath is a comma above. */
export function holdShapes(
  piece: Piece,
  bars: readonly BarGeometry[],
  anchors: readonly PlacedAnchor[],
  rows: LineRows,
): readonly Shape[] {
  const last = bars.at(-1);
  const endPx = last ? last.xPx + last.widthPx + BEYOND_LAST_PX : Infinity;
  const isUnderAnchors = rows.holdWordsY - HOLD_WORDS_SIZE > rows.anchorY + rows.anchorSize;
  const taken: Span[] = isUnderAnchors ? [] : [...anchors];
  return placeHolds(piece, bars).flatMap(({ kind, x, words: length }) => {
    if (kind === 'breath')
      return [run([{ text: BREATH, isMusic: true }], x, rows.breathY, { sizePx: 26, tone: 'ink' })];
    const place = placeHoldWords({ x, widthPx: length.length * HOLD_LETTER_PX }, { endPx, taken });
    taken.push(place);
    const { anchor } = place;
    return [
      path(`M${x - 11} -6Q${x} 14 ${x + 11} -6`, { stroke: 'entry', strokePx: 2.6 }),
      words(length, anchor === 'end' ? place.toPx : place.fromPx, rows.holdWordsY, {
        sizePx: HOLD_WORDS_SIZE,
        tone: 'entry-text',
        weight: 700,
        ...(anchor === 'end' && { anchor }),
      }),
    ];
  });
}

/** The height of one section's lane. */
export const LANE_PX = 14;
const MIN_WORDS_PX = 40;
const NAME_ROOM_PX = 70;
const LONGEST_NAME = 11;

interface Lanes {
  readonly sections: readonly string[];
  readonly spans: readonly SectionSpan[];
  /** Where the first lane stands. */
  readonly y: number;
  /** Room for its name before the line; where it is little, the name stands on the lane's beginning; null for none. */
  readonly gutterPx: number | null;
}

/** A lane a section: a solid line where it plays, dots where it rests, a flag where it comes in. */
export function laneShapes(
  piece: Piece,
  bars: readonly BarGeometry[],
  { sections, spans, y, gutterPx }: Lanes,
): readonly Shape[] {
  return sections.flatMap((section, index) => {
    const laneY = y + index * LANE_PX;
    return [
      ...spans.filter((span) => span.section === section).flatMap((span) => spanShapes(span, bars, laneY)),
      ...marksIn(piece, bars, section).flatMap((placed) => flagShapes(placed, laneY)),
      ...(gutterPx === null ? [] : [laneName(section, laneY, gutterPx >= NAME_ROOM_PX)]),
    ];
  });
}

function laneName(section: string, y: number, isBefore: boolean): Shape {
  const isLong = section.length > LONGEST_NAME;
  return words(isLong ? `${section.slice(0, LONGEST_NAME - 1)}…` : section, isBefore ? -8 : 13, y + 4, {
    sizePx: 11.5,
    tone: 'quiet',
    anchor: isBefore ? 'end' : 'start',
    whole: section,
    ...(!isBefore && { haloPx: 5 }),
  });
}

function spanShapes(span: SectionSpan, bars: readonly BarGeometry[], y: number): readonly Shape[] {
  const covered = bars.filter(({ barIndex }) => barIndex >= span.from && barIndex < span.to);
  const [first, last] = [covered[0], covered.at(-1)];
  if (!first || !last) return [];
  const d = `M${first.xPx + 2} ${y}H${last.xPx + last.widthPx - 2}`;
  const look = { stroke: 'quiet', hasRoundEnds: true } as const;
  return [
    path(
      d,
      span.does === 'plays' ? { ...look, strokePx: 2.4 } : { ...look, strokePx: 1.5, dashPx: [0.1, 7] },
    ),
  ];
}

interface PlacedMark {
  readonly bar: BarGeometry;
  readonly mark: SectionMark;
  readonly roomPx: number;
}

function marksIn(piece: Piece, bars: readonly BarGeometry[], section: string): readonly PlacedMark[] {
  const marked = bars.flatMap((bar) => {
    const mark = piece.bars[bar.barIndex]?.sectionMarks?.find((candidate) => candidate.section === section);
    return mark && mark.does !== 'rests' ? [{ bar, mark }] : [];
  });
  const end = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  return marked.map((placed, index) => ({
    ...placed,
    roomPx: (marked[index + 1]?.bar.xPx ?? end) - placed.bar.xPx,
  }));
}

/** A filled flag for an entry, an open one for a cue, with what is said of it where there is room. */
function flagShapes({ bar: { xPx: x }, mark, roomPx }: PlacedMark, y: number): readonly Shape[] {
  const flag = path(`M${x} ${y - 6}L${x + 11} ${y}L${x} ${y + 6}Z`, {
    fill: mark.does === 'cue' ? 'ground' : 'entry',
    stroke: 'entry',
    strokePx: 1.6,
  });
  if (!mark.says || roomPx <= MIN_WORDS_PX) return [flag];
  const said = words(cut(mark.says, Math.floor((roomPx - 18) / 6)), x + 15, y - 2.5, {
    sizePx: 11.5,
    tone: 'entry-text',
    weight: 600,
    haloPx: 3,
    whole: mark.says,
  });
  return [flag, said];
}

/** The height of the words to the ensemble. */
export const NOTES_LANE_PX = 18;
const LETTER_PX = 6.4;

/** Words to the ensemble, each from its bar on, as far as there is room. */
export function ensembleNoteShapes(piece: Piece, bars: readonly BarGeometry[], y: number): readonly Shape[] {
  const noted = bars.filter(({ barIndex }) => piece.bars[barIndex]?.note !== undefined);
  const end = (bars.at(-1)?.xPx ?? 0) + (bars.at(-1)?.widthPx ?? 0);
  return noted.flatMap((bar, index) => {
    const note = piece.bars[bar.barIndex]?.note ?? '';
    const room = (noted[index + 1]?.xPx ?? Math.max(end, bar.xPx + 200)) - bar.xPx - 14;
    return [
      path(`M${bar.xPx} ${y - 9}V${y + 4}`, { stroke: 'ink', strokePx: 1.6 }),
      words(cut(note, Math.max(1, Math.floor(room / LETTER_PX))), bar.xPx + 6, y + 2, {
        sizePx: 13,
        tone: 'ink',
        isItalic: true,
        whole: note,
      }),
    ];
  });
}

/** A text of at most so many letters; what is cut off is told by dots. */
function cut(text: string, letters: number): string {
  return text.length > letters ? `${text.slice(0, Math.max(1, letters - 1))}…` : text;
}
