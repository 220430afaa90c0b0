import { PLAIN_COUNT_OFF, type CountOffSettings } from '../countoff/settings.ts';
import { formatFraction } from '../fraction/text.ts';
import { formatMeter } from '../meter/text.ts';
import { formatPulseChoice } from '../pulse/text.ts';
import { formatRhythm } from '../rhythm/text.ts';
import type { TempoMark } from '../tempo/tempoMark.ts';
import { formatEquivalence, formatRamp, formatStatedTempo } from '../tempo/text.ts';
import { formatNoteValue } from '../value/text.ts';
import { formatEnding, formatHoldLength, formatJump } from './barText.ts';
import type { Answer, Bar, Hold, LoggedCorrection, Piece, RepeatTimes, SectionMark } from './piece.ts';

export const PIECE_FORMAT = 'anchorbeat-piece';
export const PIECE_FORMAT_VERSION = 1;

/** A tempo mark as it is kept in a file: words a director can read. */
export interface TempoMarkDocument {
  readonly at?: string;
  readonly term?: string;
  readonly tempo?: string;
  readonly equivalence?: string;
  readonly returns?: string;
  readonly ramp?: string;
  readonly endsRamp?: true;
}

export interface HoldDocument {
  readonly at?: string;
  readonly kind?: 'breath';
  readonly length: string;
  readonly value?: string;
}

/** A bar as it is kept in a file. `meter` is left out where it stays the same. */
export interface BarDocument {
  readonly meter?: string;
  readonly label?: string | null;
  readonly pickup?: string;
  readonly cutTo?: string;
  readonly rehearsalMark?: string;
  readonly tempo?: readonly TempoMarkDocument[];
  readonly holds?: readonly HoldDocument[];
  readonly startsRepeat?: true;
  readonly endsRepeat?: RepeatTimes;
  readonly ending?: string;
  readonly segno?: true;
  readonly coda?: true;
  readonly toCoda?: true;
  readonly fine?: true;
  readonly jump?: string;
  readonly pulse?: string;
  readonly rhythm?: string;
  readonly answers?: readonly Answer[];
  readonly sections?: readonly SectionMark[];
  readonly note?: string;
  readonly countOff?: CountOffDocument;
}

/** How a bar is counted in; what is left out is as in a plain count-off. */
export interface CountOffDocument {
  readonly bars?: number;
  readonly school?: string;
  readonly style?: string;
  readonly breathOnLastBeat?: true;
  readonly cueWord?: string;
  readonly firstNote?: number;
}

/** The piece format, version 1: what files, the server's revisions and the API carry. */
export interface PieceDocument {
  readonly format: typeof PIECE_FORMAT;
  readonly version: typeof PIECE_FORMAT_VERSION;
  readonly title: string;
  readonly subtitle?: string;
  readonly composer?: string;
  readonly key?: string;
  readonly style?: string;
  readonly sections?: readonly string[];
  readonly corrections?: readonly LoggedCorrection[];
  readonly takesRepeatsAfterJump?: true;
  readonly bars: readonly BarDocument[];
}

/** The document of a piece: `readPiece` gives the same piece back. */
export function writePiece(piece: Piece): PieceDocument {
  let meterBefore = '';
  const bars = piece.bars.map((bar) => {
    const meter = formatMeter(bar.meter);
    const written = writeBar(bar, meter === meterBefore ? undefined : meter);
    meterBefore = meter;
    return written;
  });
  return {
    format: PIECE_FORMAT,
    version: PIECE_FORMAT_VERSION,
    title: piece.title,
    ...(piece.subtitle && { subtitle: piece.subtitle }),
    ...(piece.composer && { composer: piece.composer }),
    ...(piece.key !== undefined && { key: piece.key }),
    ...(piece.style !== undefined && { style: piece.style }),
    ...(piece.sections && { sections: piece.sections }),
    ...(piece.corrections && { corrections: piece.corrections }),
    ...(piece.takesRepeatsAfterJump && { takesRepeatsAfterJump: true as const }),
    bars,
  };
}

function writeBar(bar: Bar, meter: string | undefined): BarDocument {
  return {
    ...(meter !== undefined && { meter }),
    ...(bar.label !== undefined && { label: bar.label }),
    ...writePartial(bar),
    ...(bar.rehearsalMark !== undefined && { rehearsalMark: bar.rehearsalMark }),
    ...(bar.tempoMarks.length > 0 && { tempo: bar.tempoMarks.map(writeTempoMark) }),
    ...(bar.holds && { holds: bar.holds.map(writeHold) }),
    ...(bar.startsRepeat && { startsRepeat: true as const }),
    ...(bar.endsRepeat !== undefined && { endsRepeat: bar.endsRepeat }),
    ...(bar.ending && { ending: formatEnding(bar.ending) }),
    ...writeNavigation(bar),
    ...(bar.pulse && { pulse: formatPulseChoice(bar.pulse) }),
    ...(bar.rhythm && { rhythm: formatRhythm(bar.rhythm) }),
    ...(bar.answers && { answers: bar.answers }),
    ...(bar.sectionMarks && { sections: bar.sectionMarks }),
    ...(bar.note !== undefined && { note: bar.note }),
    ...(bar.countOff && { countOff: writeCountOff(bar.countOff) }),
  };
}

function writeCountOff(settings: CountOffSettings): CountOffDocument {
  const { bars, school, style, breathOnLastBeat, cueWord, firstNote } = settings;
  return {
    ...(bars !== PLAIN_COUNT_OFF.bars && { bars }),
    ...(school !== PLAIN_COUNT_OFF.school && { school }),
    ...(style !== PLAIN_COUNT_OFF.style && { style }),
    ...(breathOnLastBeat && { breathOnLastBeat: true as const }),
    ...(cueWord !== null && { cueWord }),
    ...(firstNote !== null && { firstNote }),
  };
}

function writeNavigation({ navigation }: Bar): Partial<BarDocument> {
  if (!navigation) return {};
  const { jump, ...signs } = navigation;
  return { ...signs, ...(jump && { jump: formatJump(jump) }) };
}

function writeHold({ kind, atWholes, length, value }: Hold): HoldDocument {
  return {
    ...(atWholes.n !== 0 && { at: formatFraction(atWholes) }),
    ...(kind === 'breath' && { kind }),
    length: formatHoldLength(length),
    ...(value && { value: formatNoteValue(value) }),
  };
}

function writePartial({ partial }: Bar): Pick<BarDocument, 'pickup' | 'cutTo'> {
  if (!partial) return {};
  const length = formatFraction(partial.lengthWholes);
  return partial.keeps === 'end' ? { pickup: length } : { cutTo: length };
}

function writeTempoMark(mark: TempoMark): TempoMarkDocument {
  return {
    ...(mark.atWholes.n !== 0 && { at: formatFraction(mark.atWholes) }),
    ...(mark.term !== undefined && { term: mark.term }),
    ...(mark.stated && { tempo: formatStatedTempo(mark.stated) }),
    ...(mark.equivalence && { equivalence: formatEquivalence(mark.equivalence) }),
    ...(mark.returns && { returns: mark.returns }),
    ...(mark.ramp && { ramp: formatRamp(mark.ramp) }),
    ...(mark.endsRamp && { endsRamp: true as const }),
  };
}
