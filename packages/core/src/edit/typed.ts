import { fraction, ZERO, type Fraction } from '../fraction/fraction.ts';
import { parseFraction } from '../fraction/text.ts';
import { meterLength } from '../meter/meter.ts';
import { parseEnding, parseHoldLength, parseJump } from '../piece/barText.ts';
import { MAX_REPEAT_TIMES, MAX_TEXT_LENGTH, type Bar, type Hold } from '../piece/piece.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import { beatNote } from '../pulse/beatNote.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { parseEquivalence, parseRamp, parseStatedTempo } from '../tempo/text.ts';
import { tempoReturnMaybe, type TempoMark } from '../tempo/tempoMark.ts';
import { noteValueLength, type NoteValue } from '../value/noteValue.ts';
import { withNoteLetters } from '../value/noteSigns.ts';
import { parseNoteValue, turnedLettersMaybe } from '../value/text.ts';
import type { Edit, RouteSigns } from './edit.ts';

const ON_BEAT = /^(.*?)\s+on\s+(\d{1,3})$/;

/**
 * Reads what a director types for a tempo: `q. = 66`, `132` (in the bar's own beat), `e = e`,
 * `e = e, q = 88`, `Allegro q = 120`, `accel. to 160`, each with `on 3` to put it on a later beat. Notes may be drawn (`♪ = ♪`),
 * and a number may have what printers put beside it (`M.M. 96`, `96 bpm`, `c. 96`).
 */
export function parseTempoEntry(typed: string, bar: Bar): Result<TempoMark> {
  const text = withNoteLetters(typed);
  const placed = ON_BEAT.exec(text.trim());
  const at = placed ? beatPosition(bar, Number(placed[2])) : accepted(ZERO);
  if (!at.ok) return at;
  const body = placed?.[1] ?? text.trim();
  let mark: TempoMark = { atWholes: at.value };
  for (const part of body.split(/,(?!\d)/)) {
    const read = parseTempoPart(part, bar);
    if (!read.ok) return read;
    mark = { ...mark, ...read.value };
  }
  return accepted(mark);
}

/** A ramp as it is typed: how much, the word, and what it arrives at. */
export const RAMP_WORDS =
  /^(molto |poco a poco |poco )?(ritardando|rallentando|accelerando|rit\.?|rall\.?|accel\.?|ramp)(?!\p{L})\s*(.*)$/iu;

/** Reads a rit. or accel. with what it arrives at, "a tempo", "tempo primo", or "end" for where a ramp ends. */
function parseRampPart(part: string, unit: NoteValue): Result<Partial<TempoMark>> | null {
  const trimmed = part.trim();
  const returns = tempoReturnMaybe(trimmed);
  if (returns) return accepted({ returns, term: trimmed.toLowerCase() === returns ? returns : trimmed });
  if (trimmed.toLowerCase() === 'end') return accepted({ endsRamp: true });
  const match = RAMP_WORDS.exec(trimmed);
  if (!match) return null;
  const rest = match[3] ?? '';
  const ramp = parseRamp(/^\d/.test(rest) ? `to ${rest}` : rest, unit);
  if (!ramp.ok) return ramp;
  const word = match[2] ?? '';
  const printed = `${match[1] ?? ''}${word.endsWith('.') || word.length > 'accel.'.length ? word : `${word}.`}`;
  return accepted({ ramp: ramp.value, ...(word.toLowerCase() !== 'ramp' && { term: printed }) });
}

function parseTempoPart(part: string, bar: Bar): Result<Partial<TempoMark>> {
  const unit = beatNote(bar);
  const ramp = parseRampPart(part, unit);
  if (ramp) return ramp;
  return withTermMaybe(part, unit) ?? parsePlainTempo(part, unit);
}

/** A word of tempo, one letter of which is no note: "Allegro", "Più mosso". */
const TERM = /^\p{L}[\p{L}.’']+$/u;

/** A printed word before its tempo: "Allegro q = 120", "Meno mosso 80"; null where the words are a tempo without one. */
function withTermMaybe(part: string, unit: NoteValue): Result<Partial<TempoMark>> | null {
  const words = part.trim().split(/\s+/);
  if (parsePlainTempo(part, unit).ok) return null;
  const isTerm = (word: string) => TERM.test(word) && !parseNoteValue(word).ok;
  const others = words.findIndex((word) => !isTerm(word));
  if (others === 0) return null;
  const most = others < 0 ? words.length : others;
  const shown = words.slice(0, most).join(' ').slice(0, MAX_TEXT_LENGTH);
  if (others < 0) return refused(`Give ${shown.slice(0, 40)} its tempo too: ${shown.slice(0, 40)} q = 96`);
  for (let count = 1; count <= most; count++) {
    const tempo = parsePlainTempo(words.slice(count).join(' '), unit);
    if (!tempo.ok) continue;
    const term = words.slice(0, count).join(' ').slice(0, MAX_TEXT_LENGTH);
    return accepted({ ...tempo.value, term });
  }
  return parsePlainTempo(words.slice(most).join(' '), unit);
}

/** What printers put before and after a number of beats a minute. */
const BESIDE_NUMBER =
  /(?:\bm\.?\s?m\.?\s*=?\s*|\bc(?:a|irca)?\.?\s*)(?=\d|[bwhqestx]\.*\s*=)|(?<=\d)\s*(?:bpm|b\.p\.m\.)\s*$/gi;

function parsePlainTempo(printed: string, unit: NoteValue): Result<Partial<TempoMark>> {
  const part = printed.replace(BESIDE_NUMBER, '');
  const right = part.split('=')[1]?.trim() ?? '';
  if (/^[a-z]/i.test(right)) {
    const equivalence = parseEquivalence(part);
    return equivalence.ok ? accepted({ equivalence: equivalence.value }) : equivalence;
  }
  const turned = turnedLettersMaybe(part);
  if (turned) return turned;
  const stated = parseStatedTempo(part, unit);
  return stated.ok ? accepted({ stated: stated.value }) : stated;
}

/** Where the beat with a numeral begins. */
export function beatPosition(bar: Bar, numeral: number): Result<Fraction> {
  const beat = pulseOf(bar).find((candidate) => candidate.numeral === numeral);
  if (beat) return accepted(beat.atWholes);
  return refused(
    `This bar has no beat ${numeral}: its beats are ${pulseOf(bar)
      .map((b) => b.numeral)
      .join(', ')}`,
  );
}

/** Reads a hold or breath: `2 beats`, `until cued on 4`, `breath 0.5 seconds on 2`. */
export function parseHoldEntry(text: string, bar: Bar): Result<Hold> {
  const placed = ON_BEAT.exec(text.trim());
  const at = placed ? beatPosition(bar, Number(placed[2])) : accepted(pulseOf(bar).at(-1)?.atWholes ?? ZERO);
  if (!at.ok) return at;
  const body = placed?.[1] ?? text.trim();
  const isBreath = body.startsWith('breath');
  const length = parseHoldLength(isBreath ? body.slice('breath'.length) : body);
  if (!length.ok) return length;
  return accepted({ kind: isBreath ? 'breath' : 'hold', atWholes: at.value, length: length.value });
}

/**
 * Reads the signs of the route at a bar, with commas between: `|:`, `:|`, `:| 3 times`, `:| until cued`, `ending 1, 2`,
 * `segno`, `coda`, `to coda`, `fine`, `D.C.`, `D.S. al coda`.
 */
export function parseSignsEntry(text: string): Result<RouteSigns> {
  let signs: RouteSigns = {};
  for (const part of text.split(/[,;](?!\s*\d)\s*/)) {
    const read = parseSign(part.trim());
    if (!read.ok) return read;
    const navigation = { ...signs.navigation, ...read.value.navigation };
    signs = { ...signs, ...read.value, ...(Object.keys(navigation).length > 0 && { navigation }) };
  }
  return accepted(signs);
}

const PLAIN_SIGNS: Readonly<Record<string, RouteSigns>> = {
  '': {},
  '|:': { startsRepeat: true },
  ':|': { endsRepeat: 2 },
  ':| until cued': { endsRepeat: 'until cued' },
  segno: { navigation: { segno: true } },
  coda: { navigation: { coda: true } },
  'to coda': { navigation: { toCoda: true } },
  fine: { navigation: { fine: true } },
};

function parseSign(part: string): Result<RouteSigns> {
  const plain = PLAIN_SIGNS[part];
  if (plain) return accepted(plain);
  const times = /^:\|\s*(\d{1,2})(?:\s*times)?$/.exec(part);
  if (times) {
    const count = Number(times[1]);
    if (count >= 2 && count <= MAX_REPEAT_TIMES) return accepted({ endsRepeat: count });
    return refused(`A repeat is played 2 to ${MAX_REPEAT_TIMES} times in all`);
  }
  const ending = /^ending\s+(.+)$/.exec(part);
  if (ending) {
    const passes = parseEnding(ending[1] ?? '');
    return passes.ok ? accepted({ ending: passes.value }) : passes;
  }
  const jump = parseJump(part);
  if (jump.ok) return accepted({ navigation: { jump: jump.value } });
  return refused(
    `"${part.slice(0, 30)}" is no sign: write |: :| ending 1, segno, to coda, coda, fine, D.C. or D.S. al coda`,
  );
}

/** Reads a pickup's length: `e`, `dotted quarter`, `3/8`, or a number of the meter's units such as `2`. */
export function parsePickupEntry(text: string, bar: Bar): Result<Fraction> {
  const trimmed = text.trim();
  const asNote = parseNoteValue(trimmed);
  if (asNote.ok) return accepted(noteValueLength(asNote.value));
  const asNumber = parseFraction(trimmed);
  if (!asNumber.ok)
    return refused(`"${trimmed.slice(0, 40)}" is not a length: write e, q., 3/8 or a number of beats`);
  if (trimmed.includes('/')) return asNumber;
  const unit = bar.meter.parts.at(-1)?.unit ?? meterLength(bar.meter).d;
  return accepted(fraction(asNumber.value.n, asNumber.value.d * unit));
}

/** What a director types about sections: `Bells enter`, `Reeds rest`, `Reeds rest 8`, `Drums cue after the bell`, `Drums` alone takes it back. */
export type SectionEntry = Extract<Edit, { kind: 'markSection' | 'restSection' }>;

const SECTION_ENTRY = /^(.+?)\s+(enters?|rests?|cue)(?:\s+(.+))?$/i;

export function parseSectionEntry(
  text: string,
  sections: readonly string[],
  bar: number,
): Result<SectionEntry> {
  const match = SECTION_ENTRY.exec(text.trim());
  const typed = (match?.[1] ?? text).trim();
  const section = sections.find((name) => name.toLowerCase() === typed.toLowerCase()) ?? typed;
  if (section === '' || (!match && !sections.includes(section))) {
    return refused('Write the section and what it does: Bells enter, Reeds rest 8, Drums cue after the bell');
  }
  if (!match) return accepted({ kind: 'markSection', bar, section, does: null });
  const word = (match[2] ?? '').toLowerCase();
  const says = match[3]?.trim();
  if (!word.startsWith('rest')) {
    const does = word === 'cue' ? 'cue' : 'enters';
    return accepted({
      kind: 'markSection',
      bar,
      section,
      does,
      ...(says && { says: says.slice(0, MAX_TEXT_LENGTH) }),
    });
  }
  if (says === undefined) return accepted({ kind: 'markSection', bar, section, does: 'rests' });
  const count = Number(/^(\d{1,5})(?:\s*bars?)?$/.exec(says)?.[1] ?? NaN);
  if (!Number.isInteger(count) || count < 1)
    return refused(`"${says.slice(0, 20)}" is not a number of bars to rest`);
  return accepted({ kind: 'restSection', section, from: bar, count });
}
