import {
  fullestScale,
  landsTogether,
  meanBeatPx,
  sectionSpans,
  sectionsOf,
  systemGeometry,
  systemsOf,
  type BarGeometry,
  type LineScale,
  type LineSystem,
  type Proof,
  type Seam,
  type SectionSpan,
} from '@anchorbeat/core';
import { detailAt, type Detail } from './lineRows.ts';
import { LANE_PX, NOTES_LANE_PX } from './shapes/spanShapes.ts';
import { systemRows, type SystemRows } from './systemRows.ts';

/** The line of a piece broken into systems; the geometry of a system is worked out when it is first asked for. */
export interface LineLayout {
  readonly proof: Proof;
  readonly detail: Detail;
  /** Room left of the line. */
  readonly gutterPx: number;
  readonly systems: readonly LineSystem[];
  readonly sectionSpans: readonly SectionSpan[];
  readonly geometryOf: (systemIndex: number) => readonly BarGeometry[];
  readonly rowsOf: (systemIndex: number) => SystemRows;
  /** Sections with something to say in a system, each on a lane of its own under the line. */
  readonly lanesOf: (systemIndex: number) => readonly string[];
  readonly heightOf: (systemIndex: number) => number;
  /** Where a system begins, in pixels from the top of the piece. */
  readonly topOf: (systemIndex: number) => number;
  readonly systemOfBar: (barIndex: number) => number;
  /** Seams by the written bar they lead into, where it is first heard. */
  readonly seamsByBar: ReadonlyMap<number, Seam>;
  readonly seamOf: (bar: BarGeometry) => Seam | undefined;
}

export interface LineWish {
  /** About how large; the scale taken is the one nearby at which the systems come out full. */
  readonly scale: LineScale;
  readonly widthPx: number;
  readonly hasLanes: boolean;
}

const PLAIN_GUTTER_PX = 20;
const LANES_GUTTER_PX = 82;
/** Narrower than this the names of sections stand on their lanes. */
const WIDE_PX = 700;
const RIGHT_PX = 16;
const LANES_GAP_PX = 8;
/** Between one system and the next. */
const GAP_PX = 8;

export function layoutLine(proof: Proof, { scale: wished, widthPx, hasLanes }: LineWish): LineLayout {
  const { piece } = proof;
  const spans = sectionSpans(piece);
  const said = hasLanes ? sectionsOf(piece).filter((section) => isSaid(section, spans, proof)) : [];
  const room = (gutterPx: number) => Math.max(widthPx - gutterPx - RIGHT_PX, 60);
  const plain = fullestScale(proof, wished, room(PLAIN_GUTTER_PX));
  const detail = detailAt(meanBeatPx(proof, plain));
  const isWide = widthPx >= WIDE_PX;
  const gutterPx = detail === 'near' && said.length > 0 && isWide ? LANES_GUTTER_PX : PLAIN_GUTTER_PX;
  const scale = gutterPx === PLAIN_GUTTER_PX ? plain : fullestScale(proof, wished, room(gutterPx));
  const systems = systemsOf(proof, scale, room(gutterPx));
  const system = (index: number) => {
    const found = systems[index];
    if (!found) throw new RangeError(`there is no system ${index}`);
    return found;
  };
  const geometryOf = remembered((index) => systemGeometry(proof, scale, system(index)));
  const rowsOf = remembered((index) => systemRows(proof, geometryOf(index), detail));
  const lanesOf = remembered((index) =>
    detail === 'near' ? said.filter((section) => happensIn(section, system(index), spans, proof)) : [],
  );
  const byBar = seamsByBar(proof);
  const heightOf = (index: number) => {
    const { abovePx, belowPx } = rowsOf(index);
    const below = lanesHeight(lanesOf(index).length, hasNotes(proof, system(index), detail));
    return abovePx + belowPx + below + GAP_PX;
  };
  const tops = [0];
  const topOf = (index: number) => {
    while (tops.length <= index) tops.push((tops.at(-1) ?? 0) + heightOf(tops.length - 1));
    return tops[index] ?? 0;
  };
  return {
    proof,
    detail,
    gutterPx,
    systems,
    sectionSpans: spans,
    geometryOf,
    rowsOf,
    lanesOf,
    heightOf,
    topOf,
    systemOfBar: (bar) => systemOfBar(systems, bar),
    seamsByBar: byBar,
    seamOf: (bar) => byBar.get(bar.barIndex),
  };
}

function lanesHeight(lanes: number, notes: boolean): number {
  return lanes === 0 && !notes ? 0 : lanes * LANE_PX + (notes ? NOTES_LANE_PX : 0) + LANES_GAP_PX;
}

/** Whether a system has words to the ensemble, which are shown from near. */
export function hasNotes({ piece }: Proof, { firstBar, endBar }: LineSystem, detail: Detail): boolean {
  return detail === 'near' && piece.bars.slice(firstBar, endBar).some(({ note }) => note !== undefined);
}

/** Whether the piece says anything of a section but that it plays throughout. */
function isSaid(section: string, spans: readonly SectionSpan[], { piece }: Proof): boolean {
  return spans.some((span) => span.section === section && (span.from > 0 || span.to < piece.bars.length));
}

/** Whether a section rests, enters or is cued in a system. */
function happensIn(
  section: string,
  { firstBar, endBar }: LineSystem,
  spans: readonly SectionSpan[],
  { piece }: Proof,
): boolean {
  const rests = spans.some(
    (span) => span.section === section && span.does === 'rests' && span.from < endBar && span.to > firstBar,
  );
  return (
    rests ||
    piece.bars
      .slice(firstBar, endBar)
      .some((bar) => bar.sectionMarks?.some((mark) => mark.section === section && mark.does !== 'rests'))
  );
}

function remembered<T>(workOut: (index: number) => T): (index: number) => T {
  const known = new Map<number, T>();
  return (index) => {
    const found = known.get(index);
    if (found !== undefined) return found;
    const value = workOut(index);
    known.set(index, value);
    return value;
  };
}

function systemOfBar(systems: readonly LineSystem[], barIndex: number): number {
  let low = 0;
  let high = systems.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if ((systems[middle]?.firstBar ?? 0) <= barIndex) low = middle;
    else high = middle - 1;
  }
  return low;
}

function seamsByBar({ compiled }: Proof): ReadonlyMap<number, Seam> {
  const { route } = compiled.timeline;
  const byBar = new Map<number, Seam>();
  for (const seam of compiled.seams.filter(landsTogether)) {
    const bar = route.barIndex[seam.performed] ?? -1;
    if (!byBar.has(bar)) byBar.set(bar, seam);
  }
  return byBar;
}
