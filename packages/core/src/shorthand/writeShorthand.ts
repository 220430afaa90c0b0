import { formatMeter } from '../meter/text.ts';
import { type BarDocument, type HoldDocument, type TempoMarkDocument } from '../document/document.ts';
import { writePiece } from '../document/writePiece.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { formatFraction } from '../fraction/text.ts';
import { inNoteNames } from '../value/names.ts';
import { howMany } from '../words/howMany.ts';

const HEAD = ['title', 'subtitle', 'composer', 'key', 'style'] as const;

/**
 * The piece as a text that can be read aloud, line by line: what stands at the start of a bar comes before its line, what
 * stands at its end after it. `readShorthand` reads it back. Answers, notes, sections and count-offs are not in it.
 */
export function writeShorthand(piece: Piece): string {
  const lines = HEAD.flatMap((name) => (piece[name] ? [`${name}: ${piece[name]}`] : []));
  const documents = writePiece(piece).bars;
  let openLine: { readonly rest: string; count: number } | null = null;
  const flush = () => {
    if (openLine) lines.push(`${howMany(openLine.count, 'bar')}${openLine.rest}`);
    openLine = null;
  };
  documents.forEach((document, index) => {
    const bar = piece.bars[index] as Bar;
    const opening = openingLines(document, bar);
    const rest = barRest(document, bar, index === 0 || document.meter !== undefined);
    const continues =
      openLine?.rest.replace(/^ of [^,]*/, '') === rest && opening.length === 0 && !document.pickup;
    if (openLine && continues) openLine.count++;
    else {
      flush();
      lines.push(...(opening.length > 0 ? ['', ...opening] : []));
      if (document.pickup) lines.push(pickupLine(document.pickup, bar, document));
      else openLine = { rest, count: 1 };
    }
    const closing = closingLines(document);
    if (closing.length === 0) return;
    flush();
    lines.push(...closing);
  });
  flush();
  return `${lines.join('\n').trim()}\n`;
}

/** A whole number would be read as so many of the meter's units, so a whole note is written 1/1. */
function pickupLine(length: string, { meter }: Bar, document: BarDocument): string {
  return `pickup of ${length.includes('/') ? length : `${length}/1`} in ${formatMeter(meter)}${clausesOf(document)}`;
}

function barRest(document: BarDocument, bar: Bar, saysMeter: boolean): string {
  return `${saysMeter ? ` of ${formatMeter(bar.meter)}` : ''}${clausesOf(document)}`;
}

/** What is said of a bar, or of each of several, on its own line. */
function clausesOf({ cutTo, pulse, rhythm, ending }: BarDocument): string {
  const clauses = [
    cutTo && `cut to ${cutTo}`,
    pulse && `beaten ${pulse}`,
    rhythm && `notes ${rhythm}`,
    ending && `ending ${ending}`,
  ].filter(Boolean);
  return clauses.map((clause) => `, ${clause as string}`).join('');
}

function openingLines(document: BarDocument, bar: Bar): string[] {
  const { rehearsalMark, label } = document;
  return [
    ...(rehearsalMark !== undefined ? [`mark ${rehearsalMark}`] : []),
    ...(label === null ? ['no number'] : label !== undefined ? [`number ${label}`] : []),
    ...startSigns(document),
    ...tempoLines(document, bar),
    ...holdLines(document, bar),
  ];
}

/** The shorthand's lines of one bar for a table: signs at its start and at its end, tempi, holds. */
export interface BarLines {
  readonly atStart: readonly string[];
  readonly tempo: readonly string[];
  readonly holds: readonly string[];
  readonly atEnd: readonly string[];
}

export function barLinesOf(document: BarDocument, bar: Bar): BarLines {
  return {
    atStart: startSigns(document),
    tempo: tempoLines(document, bar),
    holds: holdLines(document, bar),
    atEnd: closingLines(document),
  };
}

function startSigns({ startsRepeat, segno, coda }: BarDocument): string[] {
  return [
    ...(startsRepeat ? ['repeat from here'] : []),
    ...(segno ? ['segno'] : []),
    ...(coda ? ['coda'] : []),
  ];
}

function tempoLines({ tempo = [] }: BarDocument, bar: Bar): string[] {
  return tempo.map((mark) => tempoLine(mark, bar));
}

function holdLines({ holds = [] }: BarDocument, bar: Bar): string[] {
  return holds.map((hold) => holdLine(hold, bar));
}

function closingLines({ endsRepeat, toCoda, fine, jump }: BarDocument): string[] {
  const times = endsRepeat === 2 ? '' : endsRepeat === 'until cued' ? ' until cued' : `, ${endsRepeat} times`;
  return [
    ...(endsRepeat !== undefined ? [`repeat back${times}`] : []),
    ...(toCoda ? ['to coda'] : []),
    ...(fine ? ['fine'] : []),
    ...(jump ? [jump] : []),
  ];
}

function tempoLine(
  { at, term, tempo, equivalence, returns, ramp, endsRamp }: TempoMarkDocument,
  bar: Bar,
): string {
  const parts = [
    term !== undefined && `"${term.replaceAll('"', '""')}"`,
    equivalence && inNoteNames(equivalence),
    tempo && inNoteNames(tempo),
    returns,
    ramp && `ramp ${inNoteNames(ramp)}`,
    endsRamp && 'end of ramp',
    at && positionWords(at, bar),
  ];
  return `tempo ${parts.filter(Boolean).join(', ')}`;
}

function holdLine({ at, kind, length, value }: HoldDocument, bar: Bar): string {
  return [`${kind ?? 'hold'} ${length}`, positionWords(at ?? '0', bar), value && inNoteNames(`note ${value}`)]
    .filter(Boolean)
    .join(', ');
}

/** "on 3" where a beat begins there, else "at 3/16" of a whole note. */
function positionWords(at: string, bar: Bar): string {
  const beats = pulseOf(bar);
  const beat = beats.find(({ atWholes }) => formatFraction(atWholes) === at);
  const isOnly = beat && beats.filter(({ numeral }) => numeral === beat.numeral).length === 1;
  return isOnly ? `on ${beat.numeral}` : `at ${at}`;
}
