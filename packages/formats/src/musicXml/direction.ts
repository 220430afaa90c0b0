import {
  fraction,
  noteValue,
  tempoProportionMaybe,
  type Equivalence,
  type Fraction,
  type Jump,
  type StatedTempo,
  type TempoProportion,
  type TempoReturn,
} from '@anchorbeat/core';
import { readMetronome } from './metronome.ts';
import { decimalMaybe } from './values.ts';
import { childrenOf, type XmlElement } from './xmlTree.ts';

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

export interface DirectionReading {
  readonly marks: readonly ScoreMark[];
  readonly rehearsalMark: string | null;
  readonly route: RouteWords;
  readonly unread: readonly string[];
}

const RAMP =
  /^(?:molto|poco(?: a poco)?|un poco|sempre)?\s*(?:rit(?:\.|ard|ardando|enuto|en\.)?|rall(?:\.|entando)?|accel(?:\.|erando)?|string(?:\.|endo)?|allarg(?:\.|ando)?|slent(?:\.|ando)?|calando)\b\.?/i;
/** Words that are a tempo by themselves. */
const TEMPO_TERM =
  /^(?:molto |poco |più |piu |meno |non troppo |assai |un poco )*(?:grave|largo|larghetto|lento|adagio|andante|andantino|moderato|allegretto|allegro|vivace|vivo|presto|prestissimo|mosso|maestoso|con moto|con brio|tempo di \S+)\b/i;
/** A metronome mark typed as text: "♩ = 96", "♪. = ca. 60". */
const TYPED_TEMPO = /([♩♪])\s*(\.?)\s*=\s*(?:c(?:a|irca)?\.?\s*)?(\d{2,3}(?:\.\d+)?)/;
const A_TEMPO = /^a\s+tempo\b/i;
const TEMPO_PRIMO = /^tempo\s+(?:primo|i\b|1(?:\b|°|º|o))/i;
const JUMP = /^d\.?\s*(c|s)\.?(?=\W|$)|^da\s*capo|^dal\s*segno/i;

/** Everything about time in a `direction`, at a place of its bar. */
export function readDirection(direction: XmlElement, at: Fraction): DirectionReading {
  const types = childrenOf(direction, 'direction-type').flatMap(({ children }) => children);
  const words = types
    .filter(({ name }) => name === 'words')
    .map(({ text }) => text.replace(/\s+/g, ' ').trim())
    .filter((text) => text !== '')
    .join(' ');
  const marks: ScoreMark[] = [];
  const unread: string[] = [];
  let route: RouteWords = {};
  let rehearsalMark: string | null = null;
  for (const type of types) {
    if (type.name === 'rehearsal') rehearsalMark = type.text.trim().slice(0, 200) || null;
    if (type.name === 'segno') route = { ...route, segno: true };
    if (type.name === 'coda') route = { ...route, coda: true };
    if (type.name !== 'metronome') continue;
    const reading = readMetronome(type);
    if (reading.kind === 'unread') unread.push(reading.says);
    else if (reading.kind === 'equivalence') marks.push({ at, equivalence: reading.equivalence });
    else marks.push({ at, stated: reading.tempo, ...(reading.isAbout && { isAbout: true as const }) });
  }
  const sounds = childrenOf(direction, 'sound').map((sound) => readSound(sound, at));
  marks.push(...sounds.flatMap((sound) => sound.marks));
  for (const sound of sounds) route = { ...route, ...sound.route };
  const said = wordsSaid(words, at, marks.length > 0);
  marks.unshift(...said.marks);
  route = { ...said.route, ...route };
  // A coda sign that says "to coda" is the place to leave from, not to arrive at.
  if (route.toCoda && route.coda) route = withoutCoda(route);
  return { marks, rehearsalMark, route, unread };
}

function withoutCoda({ coda: _coda, ...route }: RouteWords): RouteWords {
  return route;
}

/** What a `sound` element says: tempo and route. */
export function readSound(
  { attributes }: XmlElement,
  at: Fraction,
): Pick<DirectionReading, 'marks' | 'route'> {
  const tempo = attributes['tempo'] === undefined ? null : decimalMaybe(attributes['tempo']);
  const isPlayable = tempo !== null && tempo.n / tempo.d >= 1 && tempo.n / tempo.d <= 2000;
  const jump: Jump | null =
    attributes['dacapo'] === 'yes'
      ? { to: 'start' }
      : attributes['dalsegno'] !== undefined
        ? { to: 'segno' }
        : null;
  return {
    marks: isPlayable ? [{ at, sounds: tempo }] : [],
    route: {
      ...(attributes['segno'] !== undefined && { segno: true as const }),
      ...(attributes['coda'] !== undefined && { coda: true as const }),
      ...(attributes['tocoda'] !== undefined && { toCoda: true as const }),
      ...(attributes['fine'] !== undefined && { fine: true as const }),
      ...(jump && { jump }),
    },
  };
}

/** Words of tempo and of the route; any other word is a tempo term only beside a tempo. */
function wordsSaid(
  words: string,
  at: Fraction,
  isBesideTempo: boolean,
): Pick<DirectionReading, 'marks' | 'route'> {
  const text = words.replace(/^[([]+|[)\]]+$/g, '').trim();
  if (text === '') return { marks: [], route: {} };
  const route = routeWords(text);
  if (route) return { marks: [], route };
  const term = text.slice(0, 200);
  if (RAMP.test(text)) return { marks: [{ at, term, isRamp: true }], route: {} };
  if (A_TEMPO.test(text)) return { marks: [{ at, term, returns: 'a tempo' }], route: {} };
  if (TEMPO_PRIMO.test(text)) return { marks: [{ at, term, returns: 'tempo primo' }], route: {} };
  const proportion = tempoProportionMaybe(text);
  if (proportion) return { marks: [{ at, term, proportion }], route: {} };
  const typed = TYPED_TEMPO.exec(text);
  const bpm = typed && !isBesideTempo ? decimalMaybe(typed[3] ?? '') : null;
  if (typed && bpm) {
    const unit = noteValue(typed[1] === '♪' ? 'eighth' : 'quarter', typed[2] ? 1 : 0);
    const word = text.slice(0, typed.index).replace(/[\s([]+$/, '');
    return { marks: [{ at, stated: { unit, bpm }, ...(word && { term: word }) }], route: {} };
  }
  return { marks: isBesideTempo || TEMPO_TERM.test(text) ? [{ at, term }] : [], route: {} };
}

function routeWords(text: string): RouteWords | null {
  const jump = JUMP.exec(text);
  if (jump) {
    const to = /^d\.?\s*c|^da\s*capo/i.test(text) ? 'start' : 'segno';
    const al = /al\s+fine/i.test(text) ? 'fine' : /al\s+coda/i.test(text) ? 'coda' : null;
    return { jump: { to, ...(al && { al }) } };
  }
  if (/^(?:to|al(?:la)?)\s+coda\b/i.test(text)) return { toCoda: true };
  if (/^fine\.?$/i.test(text)) return { fine: true };
  if (/^coda\.?$/i.test(text)) return { coda: true };
  if (/^segno\.?$/i.test(text)) return { segno: true };
  return null;
}

/** A tempo in quarters, as a program plays it. */
export function soundedTempo(quarters: Fraction): StatedTempo {
  return { unit: noteValue('quarter'), bpm: fraction(quarters.n, quarters.d) };
}
