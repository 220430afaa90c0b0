import {
  expectValue,
  parseNoteValue,
  tempoProportionMaybe,
  withNoteLetters,
  type Equivalence,
  type Fraction,
  type Jump,
  type NoteValue,
  type StatedTempo,
  type TempoProportion,
  type TempoReturn,
} from '@anchorbeat/core';
import { decimalMaybe } from './values.ts';

/** Something about tempo at a place in a bar, as one direction says it. */
export interface ScoreMark {
  readonly at: Fraction;
  readonly term?: string;
  readonly stated?: StatedTempo;
  readonly equivalence?: Equivalence;
  readonly returns?: TempoReturn;
  /** Words for an equivalence without notes: what beats they mean, the meters say. */
  readonly proportion?: TempoProportion;
  /** A rit. or accel.; where it leads is not said. */
  readonly isRamp?: true;
  /** Quarters a minute that a program would play. */
  readonly sounds?: Fraction;
  readonly isAbout?: true;
}

/** Signs of the route. */
export interface RouteWords {
  readonly segno?: true;
  readonly coda?: true;
  readonly toCoda?: true;
  readonly fine?: true;
  readonly jump?: Jump;
}

/** What words over a bar say of time. */
export interface SaidWords {
  readonly mark?: Omit<ScoreMark, 'at'>;
  readonly route?: RouteWords;
  /** How often the repeat is played that these words stand over. */
  readonly times?: number | 'until cued';
  /** "in 2", "in one" */
  readonly pulse?: string;
  readonly takesRepeatsAfterJump?: true;
}

const RAMP =
  /^(?:molto|poco(?: a poco)?|un poco|sempre)?\s*(?:rit(?:ard|ardando|en|enuto)?|rall(?:ent|entando)?|accel(?:erando)?|string(?:\.|endo)|affrett(?:ando)?|allarg(?:ando)?|slent(?:ando)?|calando|cédez|ralentir|en pressant|langsamer werden|schneller werden|slowing|slow(?:ing)? down|speed(?:ing)? up|(?:gradually|getting) (?:slower|faster))(?!\p{L})/iu;
/** Words that are a tempo by themselves. */
const TEMPO_TERM =
  /^(?:molto |poco |più |piu |meno |non troppo |assai |un poco )*(?:grave|largo|larghetto|lento|adagio|andante|andantino|moderato|allegretto|allegro|vivace|vivo|presto|prestissimo|mosso|maestoso|con moto|con brio|tempo di \S+)\b/i;
const A_TEMPO = /^a\s+tempo\b/i;
const TEMPO_PRIMO = /^tempo\s+(?:primo|i\b|1(?:\b|°|º|o))/i;
const JUMP = /^d\.?\s*(c|s)\.?(?=\W|$)|^da\s*capo|^dal\s*segno/i;
const WITH_REPEATS = /\b(?:con\s+rep|with\s+rep|mit\s+wied|avec\s+rep)/i;
const PULSE = /^in\s+(?:[1-9]|1[0-2]|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve)$/i;

const NUMBER_WORDS = ['two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
/** "4x", "Play 3 times"; "2x only" is said to a player, not of the repeat. */
const TIMES = new RegExp(
  `^(?:play\\s+|repeat\\s+)?(\\d{1,2}|${NUMBER_WORDS.join('|')})\\s*(?:x|times)(?!\\p{L})(?!.*\\b(?:only|tacet)\\b)`,
  'iu',
);
/** "Vamp till cue", "open repeat", "repeat ad lib."; "open" alone is said to who plays with a mute. */
const UNTIL_CUED =
  /^(?:open\s+(?:repeat|vamp|solos?)\b|(?:vamp|repeat|play)\b.*\b(?:un)?till?\s+(?:cued?|ready)\b|(?:un)?till?\s+(?:cued?|ready)\b|(?:vamp|repeat)\b.*\b(?:on\s+cue|ad\s+lib)|vamp$)/i;

const NOTE = '([whqes])\\s*(\\.{0,2})';
/** A metronome mark typed as text: "♩ = 96", "♪. = ca. 60". */
const TYPED_TEMPO = new RegExp(
  `(?<![\\p{L}\\d])${NOTE}\\s*=\\s*(?:c(?:a|irca)?\\.?\\s*)?(\\d{2,3}(?:[.,]\\d+)?)(?!\\d)`,
  'iu',
);
/** "♪ = ♪", "♩ = preceding ♩."; more notes on a side are a way of playing, such as swing. */
const TYPED_EQUIVALENCE = new RegExp(
  `(?<![\\p{L}\\d])(?<!(?<!\\p{L})[whqes]\\.{0,2}\\s*)${NOTE}\\s*=\\s*((?:the\\s+)?(?:old|previous|preceding|précédente?)\\s+)?${NOTE}(?!\\p{L}|\\s*[whqes](?!\\p{L}))`,
  'iu',
);

/** Words of tempo, of the route, of repeats and of the beat; any other word is a tempo term only beside a tempo. */
export function readScoreWords(words: string, isBesideTempo: boolean): SaidWords {
  const text = words.replace(/^[([]+|[)\]]+$/g, '').trim();
  if (text === '') return {};
  const route = routeWords(text);
  if (route) return { route, ...(WITH_REPEATS.test(text) && { takesRepeatsAfterJump: true }) };
  if (PULSE.test(text)) return { pulse: text.toLowerCase() };
  const times = timesMaybe(text);
  if (times !== null) return { times };
  const mark = tempoWords(text, isBesideTempo);
  return mark ? { mark } : {};
}

function tempoWords(text: string, isBesideTempo: boolean): Omit<ScoreMark, 'at'> | null {
  const term = text.slice(0, 200);
  if (RAMP.test(text)) return { term, isRamp: true };
  if (A_TEMPO.test(text)) return { term, returns: 'a tempo' };
  if (TEMPO_PRIMO.test(text)) return { term, returns: 'tempo primo' };
  const typed = typedMaybe(text);
  if (typed) return typed;
  const proportion = tempoProportionMaybe(text);
  if (proportion) return { term, proportion };
  return isBesideTempo || TEMPO_TERM.test(text) ? { term } : null;
}

/** A tempo or an equivalence that is typed as text, with the words before it as its term. */
function typedMaybe(text: string): Omit<ScoreMark, 'at'> | null {
  const plain = withNoteLetters(text);
  const equals = TYPED_EQUIVALENCE.exec(plain);
  const tempo = TYPED_TEMPO.exec(plain);
  const bpm = decimalMaybe((tempo?.[3] ?? '').replace(',', '.'));
  if (!equals && !bpm) return null;
  const from = Math.min(equals?.index ?? Infinity, (bpm && tempo?.index) ?? Infinity);
  const term = plain
    .slice(0, from)
    .replace(/[\s([,–-]+$/, '')
    .slice(0, 200);
  return {
    ...(equals && { equivalence: typedEquivalence(equals) }),
    ...(tempo && bpm && { stated: { unit: typedNote(tempo[1], tempo[2]), bpm } }),
    ...(term && { term }),
  };
}

function typedEquivalence([, left, leftDots, isOld, right, rightDots]: RegExpExecArray): Equivalence {
  const [first, second] = [typedNote(left, leftDots), typedNote(right, rightDots)];
  return isOld ? { before: second, after: first } : { before: first, after: second };
}

function typedNote(letter = 'q', dots = ''): NoteValue {
  return expectValue(parseNoteValue(`${letter}${dots}`));
}

function timesMaybe(text: string): number | 'until cued' | null {
  if (UNTIL_CUED.test(text)) return 'until cued';
  const number = TIMES.exec(text)?.[1]?.toLowerCase();
  if (number === undefined) return null;
  const times = NUMBER_WORDS.includes(number) ? NUMBER_WORDS.indexOf(number) + 2 : Number(number);
  return times >= 2 ? times : null;
}

function routeWords(words: string): RouteWords | null {
  const text = words
    .replace(/\u{1D10C}|⊕|\uE048/gu, ' coda ')
    .replace(/\u{1D10B}|\uE047/gu, ' segno ')
    .replace(/\s+/g, ' ')
    .trim();
  const jump = JUMP.exec(text);
  if (jump) {
    const to = /^d\.?\s*c|^da\s*capo/i.test(text) ? 'start' : 'segno';
    const al = /\bal\s+fine/i.test(text) ? 'fine' : /\b(?:al|to)\s+coda/i.test(text) ? 'coda' : null;
    return { jump: { to, ...(al && { al }) } };
  }
  if (/\bto\s+coda\b|^al(?:la)?\s+coda\b/i.test(text)) return { toCoda: true };
  if (/^fine\b[\s.]*(?:\(.*\)?)?$/i.test(text)) return { fine: true };
  if (/^(?:coda\b[\s.]*)+$/i.test(text)) return { coda: true };
  if (/^(?:segno\b[\s.]*)+$/i.test(text)) return { segno: true };
  return null;
}

/** Signs of one place put together. Of two jumps the one that says where it ends is the printed one; else the first. */
export function mergedRoute(first: RouteWords, second: RouteWords): RouteWords {
  const jump = first.jump?.al || !second.jump?.al ? (first.jump ?? second.jump) : second.jump;
  return { ...second, ...first, ...(jump && { jump }) };
}
