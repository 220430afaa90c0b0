import type { BarDocument, HoldDocument, TempoMarkDocument } from '../document/document.ts';
import { STAND_IN_METER } from '../document/fields/meterFields.ts';
import { formatFraction, parseFraction } from '../fraction/text.ts';
import { parseMeter } from '../meter/text.ts';
import { parseJump } from '../piece/barText.ts';
import { barLength, type Bar } from '../piece/piece.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { parsePulseChoice } from '../pulse/text.ts';
import { writeTempoMark } from '../document/fields/tempoField.ts';
import { beatPosition, parseTempoEntry, RAMP_WORDS } from '../edit/typed.ts';
import { chosenBeatsMaybe } from '../pulse/choice.ts';
import { TEMPO_RETURNS, tempoReturnMaybe } from '../tempo/tempoMark.ts';
import { inNoteNames } from '../value/names.ts';
import { afterFirst, splitClauses, type TextPart } from './textParts.ts';

export type WritableBar = { -readonly [K in keyof BarDocument]: BarDocument[K] };

/** What a line puts on its bar, or why it cannot; `field` is where it went, for naming what is wrong with it later. */
export type SignLine = (bar: WritableBar) => Result<{ readonly field: string }>;

/** A line that stands before the bar it belongs to; null where the words are no such line. */
export function openingLineMaybe(line: TextPart): SignLine | null {
  const mark = /^mark\s+(.+)$/i.exec(line.text)?.[1];
  if (mark) return put('rehearsalMark', { rehearsalMark: mark });
  const label = /^number\s+(.+)$/i.exec(line.text)?.[1];
  if (label) return put('label', { label });
  const plain = OPENING[line.text.toLowerCase()];
  if (plain) return plain;
  if (/^tempo\b/i.test(line.text))
    return (bar) => putTempo(bar, splitClauses(afterFirst(line, 'tempo'.length)));
  if (SAYS_A_TEMPO.test(line.text)) return (bar) => putTempo(bar, splitClauses(line));
  return /^(hold|breath)\b/i.test(line.text) ? (bar) => putHold(bar, splitClauses(line)) : null;
}

/** A line that stands after the bar it belongs to; null where the words are no such line. */
export function closingLineMaybe(line: TextPart): SignLine | null {
  const back = /^repeat back(?:\s+(until cued)|,?\s+(\d+|twice)(?:\s+times)?)?$/i.exec(line.text);
  if (back) {
    const times = back[2] === undefined || back[2] === 'twice' ? 2 : Number(back[2]);
    return put('endsRepeat', { endsRepeat: back[1] ? 'until cued' : times });
  }
  const plain = CLOSING[line.text.toLowerCase()];
  if (plain) return plain;
  const jump = JUMP.exec(line.text);
  if (!jump) return null;
  const text = `${(jump[1] ?? '').toUpperCase()}${jump[2] ? ` al ${jump[2].toLowerCase()}` : ''}`;
  return parseJump(text).ok ? put('jump', { jump: text }) : null;
}

/** What is a tempo without the word, as on the map: "rit. to 60", "a tempo", "e = e", "Allegro q = 120". */
const SAYS_A_TEMPO = new RegExp(`^(?:${TEMPO_RETURNS.join('|')})$|${RAMP_WORDS.source}|^[^:]+=`, 'iu');

const JUMP = /^(d\.c\.|d\.s\.)(?:\s+al\s+(fine|coda))?$/i;

const OPENING: Readonly<Record<string, SignLine>> = {
  'no number': put('label', { label: null }),
  'repeat from here': put('startsRepeat', { startsRepeat: true }),
  segno: put('segno', { segno: true }),
  coda: put('coda', { coda: true }),
};

const CLOSING: Readonly<Record<string, SignLine>> = {
  'to coda': put('toCoda', { toCoda: true }),
  fine: put('fine', { fine: true }),
};

function put(field: string, value: BarDocument): SignLine {
  return (bar) => {
    Object.assign(bar, value);
    return accepted({ field });
  };
}

function putTempo(bar: WritableBar, clauses: readonly TextPart[]): ReturnType<SignLine> {
  let mark: TempoMarkDocument = {};
  for (const { text } of clauses) {
    const said = tempoClause(text, bar);
    if (!said.ok) return said;
    const { term, ...rest } = said.value;
    const terms = [mark.term, term].filter((word) => word !== undefined);
    mark = { ...mark, ...rest, ...(terms.length > 0 && { term: terms.join(', ') }) };
  }
  if (Object.keys(mark).length === 0)
    return refused(inNoteNames('Say the tempo: tempo quarter = 96, tempo "Lento", tempo eighth = eighth'));
  bar.tempo = inOrder([...(bar.tempo ?? []), mark]);
  return accepted({ field: `tempo[${bar.tempo.indexOf(mark)}]` });
}

const ENDS_IN_A_TEMPO = /\d{2,3}(?:\.\d+)?(?:\s*bpm)?$/i;

function tempoClause(text: string, bar: WritableBar): Result<TempoMarkDocument> {
  const quoted = /^"(.*)"$/.exec(text)?.[1];
  if (quoted !== undefined) return accepted({ term: quoted.replaceAll('""', '"') });
  const lower = text.toLowerCase();
  const returns = tempoReturnMaybe(text);
  if (returns) return accepted({ returns, ...(lower !== returns && { term: text }) });
  if (lower === 'end of ramp') return accepted({ endsRamp: true });
  const at = positionMaybe(text, bar);
  if (at) return at.ok ? accepted(at.value === '0' ? {} : { at: at.value }) : at;
  const ramp = RAMP_WORDS.exec(text);
  const isRamp = ramp !== null && /^(?:$|\d|even\b|to\b|on\b)/.test(ramp[3] ?? '');
  if (isRamp || text.includes('=') || /^\d/.test(text)) return asOnTheMap(text, bar);
  // "Fast 160" is a tempo, "Tempo di marcia" and "Op. 2" are words.
  const withNumber = ENDS_IN_A_TEMPO.test(text) ? asOnTheMap(text, bar) : null;
  if (withNumber?.ok) return withNumber;
  return text === '' ? accepted({}) : accepted({ term: text });
}

/** What the map's own entry makes of the words. */
function asOnTheMap(text: string, bar: WritableBar): Result<TempoMarkDocument> {
  const mark = parseTempoEntry(text, shapeMaybe(bar) ?? { meter: STAND_IN_METER, tempoMarks: [] });
  return mark.ok ? accepted(writeTempoMark(mark.value)) : mark;
}

function putHold(bar: WritableBar, clauses: readonly TextPart[]): ReturnType<SignLine> {
  const [first, ...others] = clauses;
  const words = /^(hold|breath)\s*(.*)$/i.exec(first?.text ?? '');
  const isBreath = words?.[1]?.toLowerCase() === 'breath';
  let hold: HoldDocument = { length: words?.[2] ?? '', ...(isBreath && { kind: 'breath' as const }) };
  let at: Result<string> | null = null;
  for (const { text } of others) {
    const value = /^note\s+(.+)$/i.exec(text)?.[1];
    const position = positionMaybe(text, bar);
    if (value) hold = { ...hold, value };
    else if (position) at = position;
    else
      return refused(
        `"${text.slice(0, 40)}" is not understood here: write on 3, at 1/2 or note ${inNoteNames('quarter')}`,
      );
  }
  const where = at ?? accepted(lastBeat(bar));
  if (!where.ok) return where;
  const placed = where.value === '0' ? hold : { ...hold, at: where.value };
  bar.holds = [...(bar.holds ?? []), placed];
  return accepted({ field: `holds[${bar.holds.length - 1}]` });
}

/** "on 3" or "at 3/8" as whole notes from the barline; null where the words say no position. */
function positionMaybe(text: string, bar: WritableBar): Result<string> | null {
  const match = /^(?:on\s+(\d{1,3})|at\s+(\S+))$/i.exec(text);
  if (!match) return null;
  if (match[2] !== undefined) {
    const at = parseFraction(match[2]);
    return at.ok ? accepted(formatFraction(at.value)) : at;
  }
  const shape = shapeMaybe(bar);
  if (!shape) return accepted('0');
  const at = beatPosition(shape, Number(match[1]));
  return at.ok ? accepted(formatFraction(at.value)) : at;
}

function lastBeat(bar: WritableBar): string {
  const shape = shapeMaybe(bar);
  const beat = shape && pulseOf(shape).at(-1);
  return beat ? formatFraction(beat.atWholes) : '0';
}

/** As much of the bar as its beats need; null while its meter or its length is wrong, which is told elsewhere. */
function shapeMaybe({ meter = '', pickup, cutTo, pulse }: WritableBar): Bar | null {
  const parsed = parseMeter(meter);
  if (!parsed.ok) return null;
  const length = parseFraction(pickup ?? cutTo ?? '0');
  const choice = pulse === undefined ? null : parsePulseChoice(pulse);
  const bar: Bar = {
    meter: parsed.value,
    tempoMarks: [],
    ...(length.ok &&
      length.value.n > 0 && {
        partial: { keeps: pickup ? ('end' as const) : ('start' as const), lengthWholes: length.value },
      }),
    ...(choice?.ok && chosenBeatsMaybe(parsed.value, choice.value) && { pulse: choice.value }),
  };
  return barLength(bar).n > 0 ? bar : null;
}

function inOrder(marks: readonly TempoMarkDocument[]): readonly TempoMarkDocument[] {
  const positionOf = ({ at = '0' }: TempoMarkDocument) => {
    const read = parseFraction(at);
    return read.ok ? read.value.n / read.value.d : 0;
  };
  return [...marks].sort((a, b) => positionOf(a) - positionOf(b));
}
