import { parsePickupEntry } from '../edit/typed.ts';
import { formatFraction } from '../fraction/text.ts';
import { parseMeter } from '../meter/text.ts';
import { MAX_BARS, type Piece } from '../piece/piece.ts';
import { readPiece } from '../document/readPiece.ts';
import { mergeBars, UNSAID, type KeptField } from './mergeBars.ts';
import { closingLineMaybe, openingLineMaybe, type SignLine, type WritableBar } from './signLines.ts';
import { splitClauses, splitLines, wholeNumberMaybe, wordsIn, type TextPart } from './textParts.ts';
import { inNoteNames } from '../value/names.ts';
import { inThousands } from '../words/inThousands.ts';

/** What is wrong with a shorthand text, and exactly where: character offsets. */
export interface ShorthandProblem {
  readonly from: number;
  readonly to: number;
  readonly message: string;
}

export interface ShorthandReading {
  /** The piece that the text makes of the one it was read against; null while something is wrong. */
  readonly piece: Piece | null;
  readonly problems: readonly ShorthandProblem[];
  /** For each bar of the text, where its line stands. */
  readonly barLines: readonly TextPart[];
}

/**
 * Reads a shorthand text against the piece it stands for. What the text cannot say (answers, notes, sections, count-offs)
 * is kept with the bars that it still belongs to; a head line left out leaves what was there. `keeps` are the fields the text
 * says nothing of.
 */
export function readShorthand(
  text: string,
  piece: Piece,
  keeps: readonly KeptField[] = UNSAID,
): ShorthandReading {
  const reader = new ShorthandReader();
  for (const line of splitLines(text)) reader.readLine(line);
  reader.finish(text);
  const { problems, barLines, head } = reader;
  if (problems.length > 0) return { piece: null, problems, barLines };
  const document = { format: 'anchorbeat-piece', version: 1, title: piece.title, ...head, bars: reader.bars };
  const reading = readPiece(document);
  if (!reading.ok) {
    const placed = reading.problems.map(({ field = '', message }) => {
      const { from, to } = reader.placeOf(field);
      return { from, to, message };
    });
    return { piece: null, problems: placed, barLines };
  }
  return { piece: withHead(piece, head, mergeBars(piece, reading.piece.bars, keeps)), problems, barLines };
}

type Head = Partial<Record<'title' | 'subtitle' | 'composer' | 'key' | 'style', string>>;

/** The piece with other bars and the head lines that were given; an empty one takes its line out. */
function withHead(
  { key: keyBefore, style: styleBefore, ...piece }: Piece,
  head: Head,
  bars: Piece['bars'],
): Piece {
  const { key = keyBefore, style = styleBefore, ...rest } = head;
  return { ...piece, ...rest, ...(key && { key }), ...(style && { style }), bars };
}

const HEAD_LINE = /^(title|subtitle|composer|key|style)\s*:\s*(.*)$/i;
const BARS_LINE = /^(?:(\S+)\s+)?bars?(?:\s+of\s+(.+))?$/i;
const PICKUP_LINE = /^pickup\s+of\s+(.+?)\s+in\s+(.+)$/i;
const AGAIN_LINE = /^last\s+(?:(\S+)\s+)?bars?\s+(?:(\S+)\s+more\s+times|(once) more)$/i;
const CLAUSE = /^(cut to|beaten|notes|ending)\s+(.+)$/i;
const FIELD_OF_CLAUSE: Readonly<Record<string, 'cutTo' | 'pulse' | 'rhythm' | 'ending'>> = {
  'cut to': 'cutTo',
  beaten: 'pulse',
  notes: 'rhythm',
  ending: 'ending',
};

/** How lines of a shorthand text begin, for completion and for telling what was expected. */
export const SHORTHAND_LINES: ReadonlyArray<{
  readonly begins: string;
  readonly example: string;
  readonly says: string;
}> = [
  { begins: '8 bars of', example: '8 bars of 4/4', says: 'bars, their meter if it changes' },
  { begins: 'pickup of', example: 'pickup of 1/8 in 6/8', says: 'a bar that is only the end of its meter' },
  { begins: 'last 4 bars', example: 'last 4 bars 2 more times', says: 'writes a cycle out again' },
  {
    begins: 'tempo',
    example: 'tempo "Unhurried", quarter = 72',
    says: 'at the next bar; on 3 for a later beat',
  },
  { begins: 'tempo eighth = eighth', example: 'tempo eighth = eighth', says: 'note before = note after' },
  { begins: 'tempo rit. to', example: 'tempo rit. to half as fast', says: 'a ramp from the next bar on' },
  { begins: 'mark', example: 'mark A', says: 'rehearsal mark of the next bar' },
  { begins: 'number', example: 'number 12a', says: 'printed number of the next bar' },
  { begins: 'no number', example: 'no number', says: 'the next bar has none' },
  { begins: 'hold', example: 'hold 2 beats, on 3', says: 'in the next bar; until cued, 1.5 seconds' },
  { begins: 'breath', example: 'breath 0.5 seconds, on 4', says: 'in the next bar' },
  { begins: 'repeat from here', example: 'repeat from here', says: 'opens at the next bar' },
  { begins: 'repeat back', example: 'repeat back, 3 times', says: 'closes after the bar before' },
  { begins: 'segno', example: 'segno', says: 'at the next bar' },
  { begins: 'coda', example: 'coda', says: 'at the next bar' },
  { begins: 'to coda', example: 'to coda', says: 'after the bar before' },
  { begins: 'fine', example: 'fine', says: 'after the bar before' },
  { begins: 'D.C. al fine', example: 'D.C. al fine', says: 'after the bar before' },
  { begins: 'D.S. al coda', example: 'D.S. al coda', says: 'after the bar before' },
];

/** Editors put curly quotation marks for straight ones; beside straight ones they are part of what is said. */
function plainlyQuoted(line: TextPart): TextPart {
  return line.text.includes('"') ? line : { ...line, text: line.text.replace(/[“”„‟]/g, '"') };
}

/** Reads line after line; bars come out as documents, and every field of theirs has its place in the text. */
class ShorthandReader {
  readonly head: Head = {};
  readonly bars: WritableBar[] = [];
  readonly problems: ShorthandProblem[] = [];
  readonly barLines: TextPart[] = [];
  private readonly places = new Map<string, TextPart>();
  /** Lines that wait for the bar they stand before. */
  private waiting: Array<{ readonly line: TextPart; readonly put: SignLine }> = [];
  private meter = '';

  readLine(written: TextPart): void {
    const line = plainlyQuoted(written);
    const head = HEAD_LINE.exec(written.text);
    if (head) {
      const name = (head[1] ?? '').toLowerCase() as keyof Head;
      this.head[name] = (head[2] ?? '').trim();
      this.places.set(name, written);
      return;
    }
    const opening = openingLineMaybe(line);
    const closing = closingLineMaybe(line);
    if (opening) this.waiting.push({ line, put: opening });
    else if (closing) this.close(line, closing);
    else if (!this.readBars(line) && !this.readAgain(line)) {
      const ways = inNoteNames(
        'write 8 bars of 4/4, mark A, tempo quarter = 96, repeat from here, repeat back, hold 2 beats',
      );
      this.refuse(line, `"${line.text.slice(0, 40)}" is not understood: ${ways}`);
    }
  }

  finish(text: string): void {
    const [first] = this.waiting;
    if (first) this.refuse(first.line, 'This stands before a bar, and no bar comes after it');
    else if (this.bars.length === 0 && this.problems.length === 0)
      this.problems.push({ from: 0, to: text.length, message: 'Write at least one bar: 8 bars of 4/4' });
  }

  /** The words a field of the document came from, else the line of its bar. */
  placeOf(field: string): { readonly from: number; readonly to: number } {
    for (let path = field; path !== ''; path = path.replace(/(\.[^.[]*|\[\d+\]|^[^.[]*)$/, '')) {
      const place = this.places.get(path);
      if (place) return place;
    }
    return this.barLines[0] ?? { from: 0, to: 0 };
  }

  private refuse({ from, to }: TextPart, message: string): void {
    this.problems.push({ from, to, message });
  }

  private readBars(line: TextPart): boolean {
    const [first, ...clauses] = splitClauses(line);
    const pickup = PICKUP_LINE.exec(first?.text ?? '');
    const match = pickup ?? BARS_LINE.exec(first?.text ?? '');
    if (!first || !match) return false;
    const count = pickup || match[1] === undefined ? 1 : wholeNumberMaybe(match[1]);
    if (!count || this.bars.length + count > MAX_BARS) {
      this.refuse(first, `Give a number of bars from 1 to ${inThousands(MAX_BARS)}`);
      return true;
    }
    const bar = this.barOf(first, match[2]?.trim(), pickup?.[1]);
    for (const clause of clauses) this.readClause(clause, bar);
    this.addBars(line, bar, count);
    return true;
  }

  private barOf(line: TextPart, written: string | undefined, pickup: string | undefined): WritableBar {
    const meter = written ?? this.meter;
    if (meter === '') this.refuse(line, 'The first bars need their meter: 8 bars of 4/4');
    const parsed = parseMeter(meter);
    if (!parsed.ok) {
      if (meter !== '' && written !== undefined) this.refuse(wordsIn(line, meter), parsed.problem.message);
      return { meter };
    }
    if (pickup === undefined) return { meter };
    const length = parsePickupEntry(pickup.replace(/^(an?|one)\s+/, ''), {
      meter: parsed.value,
      tempoMarks: [],
    });
    if (length.ok) return { meter, pickup: formatFraction(length.value) };
    this.refuse(wordsIn(line, pickup), length.problem.message);
    return { meter };
  }

  private readClause(clause: TextPart, bar: WritableBar): void {
    const match = CLAUSE.exec(clause.text);
    const field = FIELD_OF_CLAUSE[(match?.[1] ?? '').toLowerCase()];
    if (!field) {
      const ways = 'write beaten in 2, notes q q h, ending 1 or cut to 5/8';
      this.refuse(clause, `"${clause.text.slice(0, 40)}" is not understood here: ${ways}`);
      return;
    }
    bar[field] = (match?.[2] ?? '').trim();
    this.places.set(`bars[${this.bars.length}].${field}`, clause);
  }

  private addBars(line: TextPart, bar: WritableBar, count: number): void {
    const first = { ...bar };
    for (const { line: sign, put } of this.waiting) this.put(sign, put, first, this.bars.length);
    this.waiting = [];
    this.meter = bar.meter ?? '';
    for (let copy = 0; copy < count; copy++) this.addBar(line, copy === 0 ? first : { ...bar });
  }

  private addBar(line: TextPart, bar: WritableBar): void {
    this.places.set(`bars[${this.bars.length}]`, line);
    this.barLines.push(line);
    this.bars.push(bar);
  }

  private put(line: TextPart, sign: SignLine, bar: WritableBar, index: number): void {
    const result = sign(bar);
    if (result.ok) this.places.set(`bars[${index}].${result.value.field}`, line);
    else this.refuse(line, result.problem.message);
  }

  private close(line: TextPart, sign: SignLine): void {
    const last = this.bars.at(-1);
    if (last && this.waiting.length === 0) this.put(line, sign, last, this.bars.length - 1);
    else this.refuse(line, 'This stands after the bar it belongs to, and no bar comes before it');
  }

  /** "last 4 bars 5 more times": their meters, pulse and notes, not what stands over them. */
  private readAgain(line: TextPart): boolean {
    const match = AGAIN_LINE.exec(line.text);
    if (!match) return false;
    const count = match[1] === undefined ? 1 : wholeNumberMaybe(match[1]);
    const times = match[3] ? 1 : wholeNumberMaybe(match[2] ?? '');
    if (!count || !times || count > this.bars.length || this.bars.length + count * times > MAX_BARS) {
      this.refuse(
        line,
        `Give numbers that fit: there are ${this.bars.length} bars so far, and at most ${inThousands(MAX_BARS)}`,
      );
      return true;
    }
    const cycle = this.bars.slice(-count);
    for (let round = 0; round < times; round++)
      for (const { meter, pulse, rhythm } of cycle)
        this.addBar(line, {
          meter,
          ...(pulse !== undefined && { pulse }),
          ...(rhythm !== undefined && { rhythm }),
        });
    this.meter = this.bars.at(-1)?.meter ?? '';
    return true;
  }
}
