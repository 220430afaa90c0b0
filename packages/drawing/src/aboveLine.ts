import {
  formatEnding,
  formatJump,
  type Bar,
  type BarGeometry,
  type Proof,
  type TempoMark,
} from '@anchorbeat/core';
import { CODA_GLYPH, SEGNO_GLYPH } from './glyphs.ts';
import type { LineRows } from './lineRows.ts';
import { rampWedges, THICKEST_PX, type RampWedge } from './rampWedges.ts';
import { meterWidth, tempoMarkHeight, tempoMarkWidth } from './signShapes.ts';
import { placeSigns, type PlacedSigns } from './signs.ts';
import { Skyline } from './skyline.ts';

/** Between one thing and what stands over it. */
const AIR_PX = 2;
/** What letters reach under their line, as a share of their size. */
const UNDER_LETTERS = 0.24;
const LETTER_EMS = 0.6;
/** Of an ending's number; the hook of its bracket is as long. */
export const ENDING_SIZE_PX = 14;
const HOOK_PX = ENDING_SIZE_PX + AIR_PX;
const MUSIC_SIZE_PX = 24;

/** The bracket of an ending over the bars of a system that it has. */
interface PlacedEnding {
  readonly fromX: number;
  readonly toX: number;
  readonly y: number;
  /** null where it comes from the system before. */
  readonly number: string | null;
}

/** Words or music signs at a bar's beginning or end. */
interface PlacedWords {
  readonly text: string;
  readonly isMusic: boolean;
  /** Where they begin; at the end of a bar, where they end. */
  readonly x: number;
  readonly y: number;
  readonly sizePx: number;
  readonly isAtEnd: boolean;
}

/** Where everything above the hops of a system stands, in pixels from the line: up is negative. */
export interface AboveLine {
  readonly signs: readonly PlacedSigns[];
  readonly tempos: ReadonlyArray<{ readonly mark: TempoMark; readonly x: number; readonly y: number }>;
  readonly wedges: ReadonlyArray<{ readonly wedge: RampWedge; readonly y: number }>;
  readonly endings: readonly PlacedEnding[];
  readonly words: readonly PlacedWords[];
  /** The uppermost of it, and of the row of the meters also where that is empty. */
  readonly topY: number;
}

interface System extends Proof {
  readonly bars: readonly BarGeometry[];
  readonly rows: LineRows;
}

/** Everything in its row where it has room there, else as far up as it must: nothing stands on anything else. */
export function placeAbove(system: System): AboveLine {
  const { piece, bars, rows } = system;
  const skyline = new Skyline();
  const signs = placeSigns(piece, bars, rows);
  for (const sign of signs) putSigns(sign, system, skyline);
  const atEnds = placeEndWords(system, skyline);
  const wedges = placeWedges(system, skyline);
  const music = placeMusicSigns(system, skyline);
  const endings = placeEndings(system, skyline);
  const tempos = placeTempos(signs, rows, skyline);
  const topY = Math.min(skyline.topY, rows.signY - rows.signSize * 0.56);
  return { signs, tempos, wedges, endings, words: [...atEnds, ...music], topY };
}

/** What stands in the row of the meters: they, rehearsal marks, and the tempo marks beside them. */
function putSigns(
  { barIndex, mark, meterX, meterSize, tempos }: PlacedSigns,
  { piece, rows }: System,
  skyline: Skyline,
): void {
  const { signY, signSize, tempoY, tempoSize } = rows;
  const bar = piece.bars[barIndex];
  if (mark) skyline.put({ fromX: mark.x, toX: mark.x + mark.widthPx, topY: signY - signSize * 0.4 });
  if (bar && meterX !== null) {
    const toX = meterX + meterWidth(bar.meter, meterSize);
    skyline.put({ fromX: meterX, toX, topY: signY - meterSize * 0.56 });
  }
  for (const { mark: tempo, x, isUpper } of tempos) {
    if (isUpper) continue;
    const toX = x + tempoMarkWidth(tempo, tempoSize);
    skyline.put({ fromX: x, toX, topY: tempoY - tempoMarkHeight(tempo, tempoSize) });
  }
}

/** "To coda", "fine", a jump, how often a repeat is played: before the end of their bar. */
function placeEndWords({ piece, bars, rows }: System, skyline: Skyline): readonly PlacedWords[] {
  return bars.flatMap((drawn) => {
    const { navigation, endsRepeat } = piece.bars[drawn.barIndex] ?? {};
    const { toCoda, fine, jump } = navigation ?? {};
    const says = [toCoda && 'to coda', fine && 'fine', jump && formatJump(jump)].filter(Boolean).join(', ');
    const x = drawn.xPx + drawn.widthPx - 4;
    return [
      { text: timesWords(endsRepeat), rowY: rows.barlineY - 8, sizePx: 13 },
      { text: says, rowY: rows.barlineY - 12, sizePx: ENDING_SIZE_PX },
    ].flatMap(({ text, rowY, sizePx }) => {
      if (text === '') return [];
      const fromX = x - text.length * sizePx * LETTER_EMS;
      const y = Math.min(rowY, skyline.freeAbove(fromX, x) - sizePx * UNDER_LETTERS - AIR_PX);
      skyline.put({ fromX, toX: x, topY: y - sizePx * 0.8 });
      return [{ text, isMusic: false, x, y, sizePx, isAtEnd: true }];
    });
  });
}

/** How often a repeat is played, where that is not twice. */
function timesWords(times: Bar['endsRepeat']): string {
  if (times === undefined || times === 2) return '';
  return times === 'until cued' ? times : `${times} times`;
}

/** A ramp has one height over all the bars that it goes through in a system. */
function placeWedges({ piece, compiled, bars, rows }: System, skyline: Skyline): AboveLine['wedges'] {
  const runs: RampWedge[][] = [];
  for (const wedge of rampWedges(piece, compiled, bars)) {
    const last = runs.at(-1);
    const isNext = last !== undefined && Math.abs((last.at(-1)?.toX ?? 0) - wedge.fromX) < 0.5;
    if (isNext) last.push(wedge);
    else runs.push([wedge]);
  }
  return runs.flatMap((run) => {
    const [fromX, toX] = [run[0]?.fromX ?? 0, run.at(-1)?.toX ?? 0];
    const y = Math.min(rows.upperY - AIR_PX, skyline.freeAbove(fromX, toX) - AIR_PX - THICKEST_PX / 2);
    skyline.put({ fromX, toX, topY: y - THICKEST_PX / 2 });
    return run.map((wedge) => ({ wedge, y }));
  });
}

/** Segno and coda, at the beginning of their bar. */
function placeMusicSigns({ piece, bars, rows }: System, skyline: Skyline): readonly PlacedWords[] {
  return bars.flatMap((drawn) => {
    const { segno, coda } = piece.bars[drawn.barIndex]?.navigation ?? {};
    const text = `${segno ? SEGNO_GLYPH : ''}${coda ? CODA_GLYPH : ''}`;
    if (text === '') return [];
    const x = drawn.xPx + 4;
    const toX = x + text.length * MUSIC_SIZE_PX * 0.75;
    const y = Math.min(rows.upperY - AIR_PX, skyline.freeAbove(x, toX) - MUSIC_SIZE_PX * 0.15);
    skyline.put({ fromX: x, toX, topY: y - MUSIC_SIZE_PX * 0.85 });
    return [{ text, isMusic: true, x, y, sizePx: MUSIC_SIZE_PX, isAtEnd: false }];
  });
}

function placeEndings({ piece, bars, rows }: System, skyline: Skyline): readonly PlacedEnding[] {
  const endings: Array<Omit<PlacedEnding, 'y'>> = [];
  for (const [drawnAt, drawn] of bars.entries()) {
    const passes = piece.bars[drawn.barIndex]?.ending;
    if (!passes) continue;
    const before = piece.bars[drawn.barIndex - 1];
    const goesOn = before?.endsRepeat === undefined && before?.ending?.join() === passes.join();
    const toX = drawn.xPx + drawn.widthPx - 3;
    const last = endings.at(-1);
    if (goesOn && last && bars[drawnAt - 1]?.barIndex === drawn.barIndex - 1) {
      endings[endings.length - 1] = { ...last, toX };
    } else {
      endings.push(
        goesOn
          ? { fromX: drawn.xPx - 3, toX, number: null }
          : { fromX: drawn.xPx + 3, toX, number: `${formatEnding(passes)}.` },
      );
    }
  }
  return endings.map((ending) => {
    const { fromX, toX, number } = ending;
    const numberEnd = fromX + 6 + (number?.length ?? 0) * ENDING_SIZE_PX * LETTER_EMS;
    // In a narrow bar its number may stand out.
    const endX = Math.max(toX, numberEnd);
    const overLine = skyline.freeAbove(fromX, endX) - AIR_PX;
    const overHook = number === null ? 0 : skyline.freeAbove(fromX, numberEnd) - HOOK_PX - AIR_PX;
    const y = Math.min(rows.upperY, overLine, overHook);
    skyline.put({ fromX, toX: endX, topY: y - 1 });
    return { ...ending, y };
  });
}

/** Those without room beside their meter have one height in a system, but where two of them meet the later goes over the earlier. */
function placeTempos(
  signs: readonly PlacedSigns[],
  { tempoY, upperTempoY, tempoSize }: LineRows,
  skyline: Skyline,
): AboveLine['tempos'] {
  const tempos = signs
    .flatMap((sign) => sign.tempos)
    .map((tempo) => ({ ...tempo, toX: tempo.x + tempoMarkWidth(tempo.mark, tempoSize) }));
  const freeFor = ({ x, toX }: (typeof tempos)[number]) =>
    skyline.freeAbove(x, toX) - tempoSize * UNDER_LETTERS - AIR_PX;
  const rowY = Math.min(upperTempoY, ...tempos.filter(({ isUpper }) => isUpper).map(freeFor));
  return tempos.map((tempo) => {
    const { mark, x, toX, isUpper } = tempo;
    if (!isUpper) return { mark, x, y: tempoY };
    const y = Math.min(rowY, freeFor(tempo));
    skyline.put({ fromX: x, toX, topY: y - tempoMarkHeight(mark, tempoSize) });
    return { mark, x, y };
  });
}
