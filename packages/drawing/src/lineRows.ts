/** How much of a bar is told: its shape, what is written in it, or also its counts, subdivisions, sections and words. */
export type Detail = 'far' | 'page' | 'near';

/** Beats at least this wide, on average, are seen from near; narrower than the second, from far. */
const NEAR_BEAT_PX = 70;
const PAGE_BEAT_PX = 17;

/** How much can be told where a beat is this wide on average, in pixels. */
export function detailAt(meanBeatPx: number): Detail {
  if (meanBeatPx >= NEAR_BEAT_PX) return 'near';
  return meanBeatPx >= PAGE_BEAT_PX ? 'page' : 'far';
}

/** Where everything beside the hops stands, in pixels from the line: up is negative. */
export interface LineRows {
  readonly detail: Detail;
  /** Top of the barlines and posts. */
  readonly barlineY: number;
  /** Middle of the meters. */
  readonly signY: number;
  readonly signSize: number;
  readonly tempoY: number;
  /** Tempo marks without room beside their meter, endings, wedges, segno and coda. */
  readonly upperTempoY: number;
  readonly upperY: number;
  readonly tempoSize: number;
  readonly breathY: number;
  readonly countY: number;
  readonly labelY: number;
  readonly labelSize: number;
  readonly anchorTopY: number;
  readonly anchorY: number;
  readonly anchorSize: number;
  readonly carryY: number;
  readonly carrySize: number;
  readonly holdWordsY: number;
}

const NEAR_TOP_PX = 62;

/** As near as at the podium and on a seam's card: room for every row, whatever stands in it. */
export const NEAR_ROWS: LineRows = {
  detail: 'near',
  barlineY: -NEAR_TOP_PX,
  signY: -90,
  signSize: 30,
  tempoY: -84,
  upperTempoY: -114,
  upperY: -108,
  tempoSize: 15,
  breathY: -56,
  countY: 19,
  labelY: 35,
  labelSize: 12,
  anchorTopY: 24,
  anchorY: 46,
  anchorSize: 13,
  carryY: 58,
  carrySize: 15,
  holdWordsY: 48,
};

/** Seen as a page: signs stand close above hops that are `topPx` high, numbers and carries in one row below. */
export function pageRows(detail: 'far' | 'page', topPx: number): LineRows {
  const top = -topPx;
  return {
    detail,
    barlineY: top - 2,
    signY: top - (detail === 'far' ? 11 : 14),
    signSize: detail === 'far' ? 16 : 21,
    tempoY: top - 10,
    upperTempoY: top - (detail === 'far' ? 22 : 28),
    upperY: top - (detail === 'far' ? 21 : 27),
    tempoSize: detail === 'far' ? 12 : 13,
    breathY: top + 4,
    countY: -5,
    labelY: 17,
    labelSize: 12,
    anchorTopY: 3,
    anchorY: 9,
    anchorSize: 9,
    carryY: 19,
    carrySize: 13,
    holdWordsY: 33,
  };
}
