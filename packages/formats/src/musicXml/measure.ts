import {
  add,
  compare,
  divide,
  equal,
  fraction,
  subtract,
  ZERO,
  type Fraction,
  type NoteValue,
} from '@anchorbeat/core';
import { keyNameMaybe } from '../keyNames.ts';
import { readDirection, readSound } from './direction.ts';
import { mergedRoute, type RouteWords, type SaidWords, type ScoreMark } from './scoreWords.ts';
import { decimalMaybe, lengthOfNote, valueOfNoteMaybe } from './values.ts';
import { child, childrenOf, childText, type XmlElement } from './xmlTree.ts';

/** A note or rest of one voice, at its place in the bar. */
export interface VoiceNote {
  readonly at: Fraction;
  readonly length: Fraction;
  /** Null where no single note is so long. */
  readonly value: NoteValue | null;
  readonly isRest: boolean;
  readonly isTied: boolean;
}

export interface ScoreHold {
  readonly kind: 'hold' | 'breath' | 'caesura';
  readonly at: Fraction;
  /** Where the note that carries it ends. */
  readonly end: Fraction;
  readonly value: NoteValue | null;
}

interface ScoreEnding {
  readonly type: 'start' | 'stop' | 'discontinue';
  readonly passes: readonly number[];
}

/** What one part writes in one bar, as far as time is concerned. */
export interface PartMeasure extends Omit<SaidWords, 'mark' | 'route'> {
  readonly number: string;
  readonly isImplicit: boolean;
  /** As `parseMeter` reads it; null where the meter stays. */
  readonly meter: string | null;
  readonly isSenzaMisura: boolean;
  /** As it sounds, where the part is written for an instrument that transposes. */
  readonly key: string | null;
  /** How far the part's notes, rests and gaps reach. */
  readonly end: Fraction;
  readonly voices: ReadonlyMap<string, readonly VoiceNote[]>;
  readonly isSounding: boolean;
  readonly marks: readonly ScoreMark[];
  readonly holds: readonly ScoreHold[];
  readonly rehearsalMark: string | null;
  /** A letter or a number in a frame: a rehearsal mark, where the score writes none as such. */
  readonly framed: string | null;
  readonly startsRepeat: boolean;
  /** Times in all, 0 where they are not said; null where the bar ends no repeat. */
  readonly endsRepeat: number | null;
  readonly endings: readonly ScoreEnding[];
  readonly route: RouteWords;
  readonly guessed: readonly string[];
  readonly unread: readonly string[];
}

/** What a part has in force from bar to bar. */
export interface PartState {
  /** Divisions of a quarter. */
  divisions: Fraction;
  /** How many sharps more its key has as it sounds; null in a score that is written as it sounds. */
  moreSharps: number | null;
}

export const firstState = (isAsItSounds: boolean): PartState => ({
  divisions: fraction(1),
  moreSharps: isAsItSounds ? null : 0,
});

/** Reads one `measure` of a part; what it changes for the next ones is left in `state`. */
export function readMeasure(measure: XmlElement, state: PartState): PartMeasure {
  const reader = new MeasureReader(measure, state);
  for (const element of measure.children) reader.element(element);
  return reader.measure();
}

/** Goes through a measure with a cursor, as its notes, backups and forwards say. */
class MeasureReader {
  private at: Fraction = ZERO;
  private lastNoteAt: Fraction = ZERO;
  private lastVoice = '';
  private end: Fraction = ZERO;
  private meter: string | null = null;
  private isSenzaMisura = false;
  private key: string | null = null;
  private readonly voices = new Map<string, VoiceNote[]>();
  private isSounding = false;
  private readonly marks: ScoreMark[] = [];
  private readonly holds: ScoreHold[] = [];
  private rehearsalMark: string | null = null;
  private framed: string | null = null;
  private said: Omit<SaidWords, 'mark' | 'route'> = {};
  private startsRepeat = false;
  private endsRepeat: number | null = null;
  private readonly endings: ScoreEnding[] = [];
  private route: RouteWords = {};
  private readonly guessed: string[] = [];
  private readonly unread: string[] = [];

  constructor(
    private readonly source: XmlElement,
    private readonly state: PartState,
  ) {}

  element(element: XmlElement): void {
    switch (element.name) {
      case 'attributes':
        return this.attributes(element);
      case 'note':
        return this.note(element);
      case 'backup':
        return this.backUp(this.duration(element));
      case 'forward':
        return this.forward(this.duration(element));
      case 'direction':
        return this.direction(element);
      case 'sound':
        return this.sound(element);
      case 'barline':
        return this.barline(element);
    }
  }

  measure(): PartMeasure {
    const { attributes } = this.source;
    return {
      ...this.said,
      number: (attributes['number'] ?? '').trim(),
      isImplicit: attributes['implicit'] === 'yes',
      meter: this.meter,
      isSenzaMisura: this.isSenzaMisura,
      key: this.key,
      end: this.end,
      voices: this.voices,
      isSounding: this.isSounding,
      marks: this.marks,
      holds: this.holds,
      rehearsalMark: this.rehearsalMark,
      framed: this.framed,
      startsRepeat: this.startsRepeat,
      endsRepeat: this.endsRepeat,
      endings: this.endings,
      route: this.route,
      guessed: this.guessed,
      unread: this.unread,
    };
  }

  private attributes(element: XmlElement): void {
    const divisions = decimalMaybe(childText(element, 'divisions'));
    if (divisions && divisions.n > 0) this.state.divisions = divisions;
    const time = child(element, 'time');
    if (time) {
      if (child(time, 'senza-misura')) this.isSenzaMisura = true;
      else this.meter = meterText(time) ?? this.meter;
      if (child(time, 'interchangeable')) this.unread.push('the second of two interchangeable meters');
    }
    const transpose = child(element, 'transpose');
    if (transpose && this.state.moreSharps !== null) this.state.moreSharps = moreSharpsOf(transpose);
    const key = child(element, 'key');
    if (key) this.key = keyText(key, this.state.moreSharps ?? 0);
  }

  private note(element: XmlElement): void {
    if (child(element, 'grace')) return;
    const length = lengthOfNote(element, this.duration(element), this.divisions(1));
    const isChord = child(element, 'chord') !== undefined;
    const at = isChord ? this.lastNoteAt : this.at;
    const rest = child(element, 'rest');
    // A cue note is printed small for somebody else: its player rests.
    const isRest = rest !== undefined || child(element, 'cue') !== undefined;
    const value = valueOfNoteMaybe(element, length);
    // A rest that is not to be seen only takes time.
    const isUnseen = rest !== undefined && element.attributes['print-object'] === 'no';
    if (isUnseen) this.move(length, 1);
    else if (!isChord) {
      const voice = childText(element, 'voice') || '1';
      const notes = this.voices.get(voice) ?? [];
      this.voices.set(voice, notes);
      this.lastVoice = voice;
      const isTied =
        !isRest && childrenOf(element, 'tie').some(({ attributes }) => attributes['type'] === 'start');
      notes.push({ at, length, value, isRest, isTied });
      this.lastNoteAt = at;
      this.move(length, 1);
    }
    if (!isRest) this.isSounding = true;
    this.notations(element, at, length, value);
  }

  /** A gap right after a note belongs to that note's voice, as a rest. */
  private forward(length: Fraction): void {
    const notes = this.voices.get(this.lastVoice);
    const last = notes?.at(-1);
    if (notes && last && equal(add(last.at, last.length), this.at) && length.n > 0)
      notes.push({ at: this.at, length, value: null, isRest: true, isTied: false });
    this.move(length, 1);
  }

  private notations(note: XmlElement, at: Fraction, length: Fraction, value: NoteValue | null): void {
    const end = add(at, length);
    for (const notations of childrenOf(note, 'notations')) {
      if (child(notations, 'fermata')) this.holds.push({ kind: 'hold', at, end, value });
      const articulations = child(notations, 'articulations');
      if (child(articulations, 'breath-mark')) this.holds.push({ kind: 'breath', at, end, value });
      if (child(articulations, 'caesura')) this.holds.push({ kind: 'caesura', at, end, value });
    }
  }

  private direction(element: XmlElement): void {
    const offset = this.offsetOf(element);
    const { marks, rehearsalMark, framed, route, guessed, unread, ...said } = readDirection(element, offset);
    this.marks.push(...marks);
    this.rehearsalMark ??= rehearsalMark;
    this.framed ??= framed;
    this.route = mergedRoute(this.route, route);
    this.said = { ...said, ...this.said };
    this.guessed.push(...guessed);
    this.unread.push(...unread);
  }

  private sound(element: XmlElement): void {
    const reading = readSound(element, this.offsetOf(element));
    this.marks.push(...reading.marks);
    this.route = mergedRoute(this.route, reading.route);
  }

  private barline(element: XmlElement): void {
    const isLeft = element.attributes['location'] === 'left';
    const repeat = child(element, 'repeat');
    if (repeat && element.attributes['location'] === 'middle')
      this.guessed.push(
        `a repeat sign inside the bar was taken for one at its ${repeat.attributes['direction'] === 'forward' ? 'beginning' : 'end'}: cut the bar in two on the map`,
      );
    if (repeat?.attributes['direction'] === 'forward') this.startsRepeat = true;
    if (repeat?.attributes['direction'] === 'backward') {
      const times = Number(repeat.attributes['times'] ?? 0);
      this.endsRepeat = Number.isInteger(times) && times >= 2 && times <= 99 ? times : 0;
      if (repeat.attributes['after-jump'] === 'yes')
        this.said = { ...this.said, takesRepeatsAfterJump: true };
    }
    const ending = child(element, 'ending');
    const type = ending?.attributes['type'];
    if (ending && (type === 'start' || type === 'stop' || type === 'discontinue'))
      this.endings.push({ type, passes: passesOf(ending) });
    if (child(element, 'segno')) this.route = { ...this.route, segno: true };
    if (child(element, 'coda'))
      this.route = { ...this.route, ...(isLeft ? { coda: true } : { toCoda: true }) };
    if (child(element, 'fermata')) this.unread.push('a fermata over a barline');
  }

  /** A direction may stand before or after the cursor; never outside the bar's beginning. */
  private offsetOf(element: XmlElement): Fraction {
    const text = childText(element, 'offset');
    const size = decimalMaybe(text.replace('-', ''));
    if (!size) return this.at;
    const offset = divide(size, this.wholeInDivisions());
    const at = text.startsWith('-') ? subtract(this.at, offset) : add(this.at, offset);
    return compare(at, ZERO) < 0 ? ZERO : at;
  }

  private duration(element: XmlElement): Fraction {
    const duration = decimalMaybe(childText(element, 'duration'));
    return duration ? divide(duration, this.wholeInDivisions()) : ZERO;
  }

  private wholeInDivisions(): Fraction {
    const { n, d } = this.state.divisions;
    return fraction(4 * n, d);
  }

  private divisions(count: number): Fraction {
    return divide(fraction(count), this.wholeInDivisions());
  }

  /** Durations that were rounded lead back to a few divisions behind the barline: that is the barline. */
  private backUp(by: Fraction): void {
    this.move(by, -1);
    const slack = this.divisions(4);
    if (compare(slack, fraction(1, 64)) <= 0 && compare(this.at, slack) <= 0) this.at = ZERO;
  }

  private move(by: Fraction, direction: 1 | -1): void {
    this.at = direction > 0 ? add(this.at, by) : subtract(this.at, by);
    if (compare(this.at, ZERO) < 0) this.at = ZERO;
    if (compare(this.at, this.end) > 0) this.end = this.at;
  }
}

/** "7/8", "(2+2+3)/8", "3/4+3/8"; null for what is no meter. */
function meterText(time: XmlElement): string | null {
  const beats = childrenOf(time, 'beats').map(({ text }) => text.replace(/\s/g, ''));
  const types = childrenOf(time, 'beat-type').map(({ text }) => text.trim());
  const parts = beats.flatMap((count, index) => {
    const unit = types[index];
    if (!/^\d{1,3}(\+\d{1,3})*$/.test(count) || unit === undefined || !/^\d{1,3}$/.test(unit)) return [];
    return [count.includes('+') ? `(${count})/${unit}` : `${count}/${unit}`];
  });
  return parts.length > 0 ? parts.join('+') : null;
}

/** "D minor" as it sounds, or null for a key without a usual name. */
function keyText(key: XmlElement, moreSharps: number): string | null {
  const written = Number(childText(key, 'fifths') || NaN);
  const fifths = written + moreSharps;
  // Seven flats and more are told as the sharps that sound the same.
  const usual = fifths < -7 ? fifths + 12 : fifths > 7 ? fifths - 12 : fifths;
  return keyNameMaybe(usual, childText(key, 'mode') === 'minor');
}

/** A clarinet that sounds two semitones lower is written with two sharps more than sound: each semitone is seven fifths. */
function moreSharpsOf(transpose: XmlElement): number {
  const chromatic = Number(childText(transpose, 'chromatic') || 0);
  if (!Number.isInteger(chromatic)) return 0;
  const fifths = (((7 * chromatic) % 12) + 12) % 12;
  return fifths > 6 ? fifths - 12 : fifths;
}

/** The passes of an ending: "1", "1, 2", "1-3". */
function passesOf({ attributes, text }: XmlElement): readonly number[] {
  const written = attributes['number']?.trim() ? (attributes['number'] ?? '') : text;
  const passes = new Set<number>();
  for (const part of written.split(/[,\s]+/)) {
    const range = /^(\d{1,2})(?:\.?-(\d{1,2}))?\.?$/.exec(part);
    const [from, to] = [Number(range?.[1] ?? 0), Number(range?.[2] ?? range?.[1] ?? 0)];
    for (let pass = from; pass > 0 && pass <= to; pass++) passes.add(pass);
  }
  return [...passes].sort((a, b) => a - b);
}
