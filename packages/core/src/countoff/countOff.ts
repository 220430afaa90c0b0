import { add, ZERO, type Fraction } from '../fraction/fraction.ts';
import { countBar } from '../count/countWord.ts';
import { COUNT_SCHOOLS, countSchoolMaybe } from '../count/schools.ts';
import { barLength, barStartInFullBar, type Bar, type Piece } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { secondsOf } from '../tempo/tempoMark.ts';
import { rateAt } from '../timeline/query.ts';
import type { Timeline } from '../timeline/timeline.ts';
import { leastBars } from './advice.ts';
import { MAX_COUNT_OFF_BARS, PLAIN_COUNT_OFF, type CountOffSettings } from './settings.ts';
import { countOffStyleMaybe } from './styles.ts';
import type { PlannedBeat } from './style.ts';

/** One counted beat. `bar` is the count-off's own bar, from 0; the last may be the part before a pickup. */
interface CountOffBeat {
  readonly timeSeconds: number;
  readonly lengthSeconds: number;
  /** What is said; empty where nothing is. */
  readonly word: string;
  /** The beat's own count, said where the word above is not recorded; where it is missing, the word is the count. */
  readonly ownWord?: string;
  readonly isDownbeat: boolean;
  readonly bar: number;
  /** A silent beat is shown and conducted, not heard. */
  readonly sound: PlannedBeat['sound'];
  /** MIDI note of a pitched count-off. */
  readonly pitch?: number;
}

/** What is heard before an entry. Times count from its first beat; the entry falls at `lengthSeconds`. */
export interface CountOff {
  readonly beats: readonly CountOffBeat[];
  readonly lengthSeconds: number;
  readonly lengthWholes: Fraction;
  /** The rate it is counted at, in whole notes per minute: the one in force at the entry. */
  readonly rate: Fraction;
}

/**
 * The count-off before a performed bar: full bars of the entry's meter at the tempo in force there, also inside a
 * ramp; then, before a pickup, what completes its bar, so that the count runs into the entry. As `wanted`, else as the
 * bar itself says, else plainly.
 * @throws RangeError for a bar that is not performed, an unknown school or style, or more than 8 bars.
 */
export function countOffFor(
  piece: Piece,
  timeline: Timeline,
  performed: number,
  wanted?: CountOffSettings,
): CountOff {
  const bar = piece.bars[timeline.route.barIndex[performed] ?? -1];
  if (!bar) throw new RangeError(`there is no performed bar ${performed} to count off`);
  const rate = rateAt(timeline, { performed, atWholes: ZERO });
  const { beats, lengthWholes } = writtenCountOff(bar, piece.key ?? null, wanted);
  return {
    beats: beats.map(({ atWholes, lengthWholes: length, ...beat }) => ({
      timeSeconds: secondsOf(atWholes, rate),
      lengthSeconds: secondsOf(length, rate),
      ...beat,
    })),
    lengthSeconds: secondsOf(lengthWholes, rate),
    lengthWholes,
    rate,
  };
}

/** A count-off before it has a tempo: its beats, in whole notes from its first one. */
export interface WrittenCountOff {
  readonly beats: ReadonlyArray<PlannedBeat & Pick<CountOffBeat, 'ownWord'>>;
  readonly lengthWholes: Fraction;
}

/** The beats of the count-off into a written bar, in a piece of this key. @throws as `countOffFor` does. */
export function writtenCountOff(
  bar: Bar,
  key: string | null,
  settings: CountOffSettings = countOffOf(bar),
): WrittenCountOff {
  const { beats, lengthWholes } = plannedBeats(bar, settings);
  const style = countOffStyleMaybe(settings.style);
  if (!style) throw new RangeError(`there is no count-off style "${settings.style}"`);
  return { beats: withLastBeat(style.plan(beats, { settings, key }), settings), lengthWholes };
}

/** How a bar is counted into: as it says, else plainly. */
export function countOffOf(bar: Bar): CountOffSettings {
  return bar.countOff ?? usualCountOff(bar);
}

/** A plain bar; as many as it takes where a bar has one beat only, so that nobody enters after a lone click. */
function usualCountOff(bar: Bar): CountOffSettings {
  const bars = leastBars(pulseOf({ ...bar, partial: undefined }).length);
  return bars > PLAIN_COUNT_OFF.bars ? { ...PLAIN_COUNT_OFF, bars } : PLAIN_COUNT_OFF;
}

/** The beats of the pulse with the school's words on them, bar after bar, before any style. */
function plannedBeats(bar: Bar, { bars, school: schoolId }: CountOffSettings) {
  if (bars < 0 || bars > MAX_COUNT_OFF_BARS)
    throw new RangeError(`a count-off has up to ${MAX_COUNT_OFF_BARS} bars`);
  const school = countSchoolMaybe(schoolId) ?? COUNT_SCHOOLS[0];
  const beats: PlannedBeat[] = [];
  let start = ZERO;
  leadBars(bar, bars).forEach((counted, index) => {
    const words = countBar(counted, school);
    for (const beat of pulseOf(counted)) {
      const said = words.find(
        (word) => word.atWholes.n === beat.atWholes.n && word.atWholes.d === beat.atWholes.d,
      );
      beats.push({
        atWholes: add(start, beat.atWholes),
        lengthWholes: beat.lengthWholes,
        word: said?.word ?? beat.word,
        isDownbeat: beat.stress === 'downbeat',
        parts: beat.parts,
        bar: index,
        sound: 'count',
      });
    }
    start = add(start, barLength(counted));
  });
  return { beats, lengthWholes: start };
}

/** Full bars, and the missing first part of a pickup's bar. */
function leadBars(bar: Bar, bars: number): Bar[] {
  const full: Bar = { meter: bar.meter, ...(bar.pulse && { pulse: bar.pulse }), tempoMarks: [] };
  const missing = barStartInFullBar(bar);
  const lead = Array.from({ length: bars }, () => full);
  if (missing.n > 0) lead.push({ ...full, partial: { keeps: 'start', lengthWholes: missing } });
  return lead;
}

/** A cue word, or a breath, on the last beat. */
function withLastBeat(beats: readonly PlannedBeat[], settings: CountOffSettings): WrittenCountOff['beats'] {
  const last = beats.findLastIndex((beat) => beat.sound !== 'subdivision');
  return beats.map((beat, index) => {
    if (index < last || last < 0) return beat;
    if (settings.breathOnLastBeat) return { ...beat, word: '', sound: 'silent' };
    return index === last && settings.cueWord
      ? { ...beat, word: settings.cueWord, ownWord: beat.word }
      : beat;
  });
}
