import {
  countBar,
  countBetween,
  countSchoolMaybe,
  COUNT_SCHOOLS,
  barLength,
  countRest,
  fullestFactor,
  landsTogether,
  meanBeatPx,
  oddShown,
  sectionRestRuns,
  sectionSpans,
  sectionsOf,
  slashPositions,
  systemGeometry,
  systemsOfWidths,
  toNumber,
  writtenIndex,
  type Bar,
  type BarGeometry,
  type CountSchool,
  type LineScale,
  type Proof,
  type RestRun,
  type Seam,
  type SectionSpan,
} from '@anchorbeat/core';
import { roomAbove, type LineRows, type PlacedCount } from '@anchorbeat/drawing';
import { letterWidth } from './measure.ts';
import { drawingScale, type PulseDrawing, type SheetSettings } from './settings.ts';

/** The line of a piece as some settings print it: all that every system of it needs. */
export interface PaperLine {
  readonly proof: Proof;
  readonly settings: SheetSettings;
  readonly bodyWidthPt: number;
  /** Points a pixel. */
  readonly scale: number;
  /** Room left of the line: for the names of the sections, where more than one is told of. */
  readonly gutterPx: number;
  /** Whose rests and entries are told. */
  readonly sections: readonly string[];
  readonly spans: readonly SectionSpan[];
  /** Seams by the written bar they lead into, where it is first heard. */
  readonly seams: ReadonlyMap<number, Seam>;
}

export function paperLine(proof: Proof, settings: SheetSettings, bodyWidthPt: number): PaperLine {
  const sections = settings.section === null ? sectionsOf(proof.piece) : [settings.section];
  return {
    proof,
    settings,
    bodyWidthPt,
    scale: drawingScale(settings.type),
    gutterPx: settings.section === null && sections.length > 0 ? NAMES_PX : EDGE_PX,
    sections,
    spans: sectionSpans(proof.piece).filter(({ section }) => sections.includes(section)),
    seams: firstSeams(proof),
  };
}

/** One system as it is printed: its bars from x = 0, in pixels of the drawing. */
export interface PaperSystem {
  readonly bars: readonly BarGeometry[];
  readonly rows: LineRows;
  readonly abovePx: number;
  readonly belowPx: number;
}

/** Average width of a beat, in pixels: room for "1 & 2 &". */
const WISHED_BEAT_PX: Readonly<Record<PulseDrawing, number>> = { hops: 46, slashes: 38, counts: 38 };
/** A rest of one section takes no more room than this, however long it is. */
const REST_PX = { least: 46, aBar: 7, most: 150 };

/** The written bars of a sheet in systems that come out full, true to time; rests of a section are drawn together. */
export function paperSystems(line: PaperLine): readonly PaperSystem[] {
  const { proof, settings } = line;
  const widthPx = line.bodyWidthPt / line.scale - line.gutterPx - EDGE_PX;
  const { from, to } = spanOf(proof, settings);
  const one: LineScale = { trueTo: 'time', pixelsPerSecond: 1, pixelsPerWhole: 1 };
  const perSecond = WISHED_BEAT_PX[settings.pulse] / meanBeatPx(proof, one);
  const runs = settings.section === null ? [] : sectionRestRuns(proof.piece, settings.section);
  const drawn = (pixelsPerSecond: number) =>
    withRests(
      systemGeometry(
        proof,
        { ...one, pixelsPerSecond },
        { firstBar: from, endBar: to, widthPx: 0, shrink: 1 },
      ),
      runs,
    );
  const factor = fullestFactor(
    drawn(perSecond).map(({ widthPx: width }) => width),
    widthPx,
  );
  const bars = drawn(perSecond * factor);
  return systemsOfWidths(
    bars.map(({ widthPx: width }) => width),
    widthPx,
  ).map(({ firstBar, endBar, shrink }) => {
    const inSystem = fromZero(bars.slice(firstBar, endBar), shrink);
    return { bars: inSystem, ...rowsFor(line, inSystem) };
  });
}

/** Room for half a landing at either end of the line. */
const EDGE_PX = 6;
const NAMES_PX = 76;

/** The written bars that are printed; to the end of the piece where the last of them would lie before the first. */
export function spanOf(
  { piece }: Proof,
  settings: SheetSettings,
): { readonly from: number; readonly to: number } {
  const from = Math.min(Math.max(0, settings.from), piece.bars.length - 1);
  const { to } = settings;
  return { from, to: to > from ? Math.min(to, piece.bars.length) : piece.bars.length };
}

/** Bars of a section's rest, narrower where there are several and marked as one rest. */
function withRests(bars: readonly BarGeometry[], runs: readonly RestRun[]): readonly BarGeometry[] {
  const runOf = new Map(
    runs.flatMap((run) => Array.from({ length: run.count }, (_, index) => [run.from + index, run] as const)),
  );
  return bars.map((bar) => {
    const run = runOf.get(bar.barIndex);
    if (!run) return bar;
    const most = Math.min(REST_PX.most, REST_PX.least + REST_PX.aBar * run.count) / run.count;
    const narrow = stretched(bar, bar.xPx, run.count > 1 ? Math.min(1, most / bar.widthPx) : 1);
    return { ...narrow, restRun: run, hops: narrow.hops.map((hop) => ({ ...hop, heightPx: 5 })) };
  });
}

function fromZero(bars: readonly BarGeometry[], shrink: number): readonly BarGeometry[] {
  let x = 0;
  return bars.map((bar) => {
    const moved = stretched(bar, x, shrink);
    x += moved.widthPx;
    return moved;
  });
}

function stretched(bar: BarGeometry, xPx: number, factor: number): BarGeometry {
  return {
    ...bar,
    xPx,
    widthPx: bar.widthPx * factor,
    hops: bar.hops.map((hop) => ({
      ...hop,
      xPx: xPx + (hop.xPx - bar.xPx) * factor,
      widthPx: hop.widthPx * factor,
    })),
  };
}

function firstSeams(proof: Proof): ReadonlyMap<number, Seam> {
  const seams = new Map<number, Seam>();
  for (const seam of proof.compiled.seams.filter(landsTogether)) {
    const barIndex = writtenIndex(proof, seam.performed);
    if (!seams.has(barIndex)) seams.set(barIndex, seam);
  }
  return seams;
}

const SIGN_ROOM_PX = 34;
const LEAST_TOP_PX = 22;
/** The number of a rest stands over its hop. */
const REST_TOP_PX = 52;

/** Rows that stand as close as what is in them lets them. */
function rowsFor(
  { proof, settings: { pulse }, seams }: PaperLine,
  bars: readonly BarGeometry[],
): Omit<PaperSystem, 'bars'> {
  const highest = Math.max(0, ...bars.flatMap(({ hops }) => hops.map(({ heightPx }) => heightPx)));
  const least = bars.some(({ restRun }) => restRun) ? REST_TOP_PX : LEAST_TOP_PX;
  const top = pulse === 'hops' ? Math.max(least, Math.min(48, Math.ceil(highest))) : least;
  const rows = paperRows(top);
  const hasLower = bars.some(
    ({ barIndex }) => seams.has(barIndex) || (proof.piece.bars[barIndex]?.holds?.length ?? 0) > 0,
  );
  return {
    rows,
    abovePx: Math.max(top + SIGN_ROOM_PX, roomAbove(proof, bars, rows)),
    belowPx: hasLower ? 60 : 38,
  };
}

/** Rows for hops so high, as close as they can be read on paper. */
export function paperRows(top: number): LineRows {
  return {
    detail: 'near',
    barlineY: -top,
    signY: -top - 17,
    signSize: 26,
    tempoY: -top - 12,
    upperTempoY: -top - SIGN_ROOM_PX - 8,
    upperY: -top - SIGN_ROOM_PX - 4,
    tempoSize: 14,
    breathY: -top + 8,
    countY: 18,
    labelY: 33,
    labelSize: 12.5,
    anchorTopY: 22,
    anchorY: 38,
    anchorSize: 10,
    carryY: 55,
    carrySize: 14,
    holdWordsY: 52,
  };
}

const COUNT_SIZE = 14;
const COUNT_AIR = 2;
/** Half of the next bar's "1". */
const NEXT_COUNT_PX = 4;

/** What is counted in a bar in a school: every beat, and what is said between them where it has room. */
export function countsOf({ proof, settings }: PaperLine): (bar: BarGeometry) => readonly PlacedCount[] {
  const school: CountSchool = countSchoolMaybe(settings.countSchool) ?? COUNT_SCHOOLS[0];
  return (drawn) => {
    const bar = proof.piece.bars[drawn.barIndex] as Bar;
    if (drawn.restRun) return restCounts(proof, drawn, school);
    const { bars } = proof.piece;
    const words =
      school.id === oddShown.id
        ? countBetween(bar, [bars[drawn.barIndex - 1], bars[drawn.barIndex + 1]])
        : countBar(bar, school);
    return fitting(words, bar, drawn.widthPx);
  };
}

type Words = ReturnType<typeof countBar>;

function fitting(words: Words, bar: Bar, widthPx: number): readonly PlacedCount[] {
  const length = toNumber(barLength(bar));
  // The next bar begins with its own count.
  const taken = [{ from: widthPx - NEXT_COUNT_PX, to: Infinity }];
  const placed: PlacedCount[] = [];
  // Beats first: what is said between them takes the room that is left.
  for (const isMain of [true, false]) {
    for (const word of words.filter((known) => known.isMain === isMain)) {
      const share = toNumber(word.atWholes) / length;
      const half =
        letterWidth(word.word, isMain ? 'display-bold' : 'display', COUNT_SIZE) / 2 + COUNT_AIR / 2;
      const [from, to] = [share * widthPx - half, share * widthPx + half];
      if (taken.some((other) => from < other.to && to > other.from)) continue;
      taken.push({ from, to });
      placed.push({ word: word.word, share, isStrong: isMain });
    }
  }
  return placed.sort((a, b) => a.share - b.share);
}

/** The first bar of a rest is counted with its number, as the rest is: "1 2 3 4, 2 2 3 4". */
function restCounts({ piece }: Proof, drawn: BarGeometry, school: CountSchool): readonly PlacedCount[] {
  const run = drawn.restRun as RestRun;
  if (run.count > 1) return [];
  const bar = piece.bars[drawn.barIndex] as Bar;
  return fitting(countRest([bar], school)[0] ?? [], bar, drawn.widthPx);
}

/** Where slashes stand in a bar, in pixels. */
export function slashesOf({ piece }: Proof, drawn: BarGeometry): readonly number[] {
  if (drawn.restRun) return [];
  const bar = piece.bars[drawn.barIndex] as Bar;
  const length = toNumber(barLength(bar));
  return slashPositions(bar).map((at) => drawn.xPx + (toNumber(at) / length) * drawn.widthPx);
}
