import { fraction, noteValue, type Fraction, type Jump, type StatedTempo } from '@anchorbeat/core';
import { readMetronome } from './metronome.ts';
import {
  mergedRoute,
  readScoreWords,
  type RouteWords,
  type SaidWords,
  type ScoreMark,
} from './scoreWords.ts';
import { decimalMaybe } from './values.ts';
import { childrenOf, type XmlElement } from './xmlTree.ts';

export interface DirectionReading extends Omit<SaidWords, 'mark'> {
  readonly marks: readonly ScoreMark[];
  readonly rehearsalMark: string | null;
  /** A letter or a number in a frame: a rehearsal mark, where the score writes none as such. */
  readonly framed: string | null;
  readonly route: RouteWords;
  readonly guessed: readonly string[];
  readonly unread: readonly string[];
}

const LIKE_A_MARK = /^(?:[a-z]{1,2}\d{0,2}|\d{1,3}[a-z]?)$/i;

/** Everything about time in a `direction`, at a place of its bar. */
export function readDirection(direction: XmlElement, at: Fraction): DirectionReading {
  const types = childrenOf(direction, 'direction-type').flatMap(({ children }) => children);
  const words = types.filter(({ name }) => name === 'words');
  const framed = words.find(
    (word) => (word.attributes['enclosure'] ?? 'none') !== 'none' && isLikeAMark(word),
  );
  const marks: ScoreMark[] = [];
  const [guessed, unread]: [string[], string[]] = [[], []];
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
    else {
      marks.push({ at, stated: reading.tempo, ...(reading.isAbout && { isAbout: true as const }) });
      if (reading.says) guessed.push(reading.says);
    }
  }
  const sounds = childrenOf(direction, 'sound').map((sound) => readSound(sound, at));
  marks.push(...sounds.flatMap((sound) => sound.marks));
  for (const sound of sounds) route = mergedRoute(route, sound.route);
  const text = words
    .filter((word) => word !== framed)
    .map(plainText)
    .filter((word) => word !== '');
  const { mark, route: said, ...more } = readScoreWords(text.join(' '), marks.length > 0);
  if (mark) marks.push({ at, ...mark });
  // What is printed is believed before what a program would play.
  route = mergedRoute(said ?? {}, route);
  // A coda sign that says "to coda" is the place to leave from, not to arrive at.
  if (route.toCoda && route.coda) route = withoutCoda(route);
  return { ...more, marks, rehearsalMark, framed: framed ? plainText(framed) : null, route, guessed, unread };
}

function plainText({ text }: XmlElement): string {
  return text.replace(/\s+/g, ' ').trim();
}

function isLikeAMark(word: XmlElement): boolean {
  return LIKE_A_MARK.test(plainText(word));
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

/** A tempo in quarters, as a program plays it. */
export function soundedTempo(quarters: Fraction): StatedTempo {
  return { unit: noteValue('quarter'), bpm: fraction(quarters.n, quarters.d) };
}
