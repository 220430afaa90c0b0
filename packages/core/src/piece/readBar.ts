import { compare, ZERO, type Fraction } from '../fraction/fraction.ts';
import { formatFraction, parseFraction } from '../fraction/text.ts';
import { meterLength, type Meter } from '../meter/meter.ts';
import { formatMeter, parseMeter } from '../meter/text.ts';
import { pulseChoiceProblemMaybe } from '../pulse/choice.ts';
import { parsePulseChoice } from '../pulse/text.ts';
import type { Rhythm } from '../rhythm/rhythm.ts';
import { parseRhythm } from '../rhythm/text.ts';
import { TEMPO_RETURNS, type TempoMark, type TempoReturn } from '../tempo/tempoMark.ts';
import { parseEquivalence, parseRamp, parseStatedTempo } from '../tempo/text.ts';
import { parseNoteValue } from '../value/text.ts';
import { parseEnding, parseHoldLength, parseJump } from './barText.ts';
import { readCountOff } from './readCountOff.ts';
import { within, type FieldReader, type Fields } from './fieldReader.ts';
import {
  MAX_REPEAT_TIMES,
  ofOneShape,
  type Answer,
  type Bar,
  type Hold,
  SECTION_ACTS,
  type Navigation,
  type PartialBar,
  type SectionMark,
} from './piece.ts';

const BAR_FIELDS = [
  'meter',
  'label',
  'pickup',
  'cutTo',
  'rehearsalMark',
  'tempo',
  'holds',
  'startsRepeat',
  'endsRepeat',
  'ending',
  'segno',
  'coda',
  'toCoda',
  'fine',
  'jump',
  'pulse',
  'rhythm',
  'answers',
  'sections',
  'note',
  'countOff',
];
const MARK_FIELDS = ['at', 'term', 'tempo', 'equivalence', 'returns', 'ramp', 'endsRamp'];
const HOLD_FIELDS = ['at', 'kind', 'length', 'value'];
const MAX_RHYTHM_TEXT = 2000;
const MAX_ABOUT_TEXT = 4000;
/** Only for reading on after a meter that was refused. */
const STAND_IN_METER: Meter = { parts: [{ groups: [4], unit: 4, prints: 'total' }] };

/** Reads bars one after another. Whatever is wrong with one, the rest of it is read too, so that all is reported at once. */
export class BarReader {
  /** Bars of the same meter share one object, which makes comparing and remembering cheap. */
  private readonly meters = new Map<string, Meter>();
  /** The same for bars with the same notes. */
  private readonly rhythms = new Map<string, Rhythm>();

  constructor(private readonly reader: FieldReader) {}

  read(value: unknown, path: string, meterBefore: Meter | undefined): Bar {
    const { reader } = this;
    const fields = reader.fields(value, path, BAR_FIELDS);
    if (!fields) return ofOneShape({ meter: meterBefore ?? STAND_IN_METER, tempoMarks: [] });
    const meter = this.meter(fields, path, meterBefore);
    const label = fields['label'] === null ? null : reader.text(fields, 'label', path);
    const partial = this.partial(fields, path, meter);
    const rehearsalMark = reader.text(fields, 'rehearsalMark', path);
    const length = partial?.lengthWholes ?? meterLength(meter);
    const bar = {
      meter,
      label,
      partial,
      rehearsalMark,
      tempoMarks: reader.list<TempoMark>(
        fields['tempo'],
        `${path}.tempo`,
        'Tempo marks come as a list',
        (mark, at, before) => this.tempoMark(mark, at, length, before.at(-1)),
      ),
    };
    return ofOneShape(this.withRest(fields, path, bar));
  }

  /** What most bars have none of. */
  private withRest(fields: Fields, path: string, bar: Bar): Bar {
    if (Object.keys(fields).every((name) => PLAIN_FIELDS.has(name))) return bar;
    const { reader } = this;
    const length = bar.partial?.lengthWholes ?? meterLength(bar.meter);
    const holds = reader.list<Hold>(fields['holds'], `${path}.holds`, 'Holds come as a list', (hold, at) =>
      this.hold(hold, at, length),
    );
    const startsRepeat = reader.flag(fields, 'startsRepeat', path);
    const endsRepeat = this.endsRepeat(fields, path);
    const ending = reader.parsedField(fields, 'ending', path, parseEnding);
    const navigation = this.navigation(fields, path);
    const rhythm = this.rhythm(fields, path);
    const pulse = this.pulse(fields, path, bar);
    const answers = reader.list<Answer>(
      fields['answers'],
      `${path}.answers`,
      'Answers come as a list',
      (answer, at) => this.answer(answer, at),
    );
    const sectionMarks = reader.list<SectionMark>(
      fields['sections'],
      `${path}.sections`,
      'What sections do comes as a list',
      (mark, at, before) => this.sectionMark(mark, at, before),
    );
    return {
      ...bar,
      holds: holds.length > 0 ? holds : undefined,
      startsRepeat: startsRepeat || undefined,
      endsRepeat,
      ending,
      navigation,
      pulse,
      rhythm,
      answers: answers.length > 0 ? answers : undefined,
      sectionMarks: sectionMarks.length > 0 ? sectionMarks : undefined,
      note: reader.text(fields, 'note', path),
      countOff:
        fields['countOff'] === undefined
          ? undefined
          : readCountOff(reader, fields['countOff'], within(path, 'countOff')),
    };
  }

  private meter(fields: Fields, path: string, before: Meter | undefined): Meter {
    if (fields['meter'] === undefined) {
      if (!before) this.reader.refuse(`${path}.meter`, '', 'The first bar needs a meter, such as 4/4');
      return before ?? STAND_IN_METER;
    }
    const meter = this.reader.parsedField(fields, 'meter', path, parseMeter) ?? STAND_IN_METER;
    const text = formatMeter(meter);
    const known = this.meters.get(text) ?? meter;
    this.meters.set(text, known);
    return known;
  }

  private rhythm(fields: Fields, path: string): Rhythm | undefined {
    const text = fields['rhythm'];
    const known = typeof text === 'string' ? this.rhythms.get(text) : undefined;
    if (known) return known;
    const rhythm = this.reader.parsedField(fields, 'rhythm', path, parseRhythm, MAX_RHYTHM_TEXT);
    if (rhythm && typeof text === 'string') this.rhythms.set(text, rhythm);
    return rhythm;
  }

  private partial(fields: Fields, path: string, meter: Meter): PartialBar | undefined {
    const kept = fields['pickup'] !== undefined ? 'pickup' : 'cutTo';
    if (fields['pickup'] !== undefined && fields['cutTo'] !== undefined) {
      this.reader.refuse(`${path}.cutTo`, fields['cutTo'], 'A bar is either a pickup or cut short, not both');
    }
    const lengthWholes = this.reader.parsedField(fields, kept, path, parseFraction);
    if (!lengthWholes) return undefined;
    if (compare(lengthWholes, ZERO) <= 0 || compare(lengthWholes, meterLength(meter)) >= 0) {
      const message = `This part of a bar must be longer than nothing and shorter than its ${formatMeter(meter)} bar`;
      this.reader.refuse(`${path}.${kept}`, fields[kept], message);
    }
    return { keeps: kept === 'pickup' ? 'end' : 'start', lengthWholes };
  }

  private tempoMark(
    value: unknown,
    path: string,
    length: Fraction,
    before: TempoMark | undefined,
  ): TempoMark | null {
    const { reader } = this;
    const fields = reader.fields(value, path, MARK_FIELDS);
    const atWholes = fields && this.position(fields, path, length, 'mark');
    if (!fields || !atWholes) return null;
    if (before && compare(before.atWholes, atWholes) >= 0) {
      reader.refuse(
        `${path}.at`,
        formatFraction(atWholes),
        'Tempo marks of a bar stand in order, one at a position',
      );
      return null;
    }
    const term = reader.text(fields, 'term', path);
    const stated = reader.parsedField(fields, 'tempo', path, parseStatedTempo);
    const equivalence = reader.parsedField(fields, 'equivalence', path, parseEquivalence);
    const ramp = reader.parsedField(fields, 'ramp', path, parseRamp);
    const returns = this.returns(fields, path);
    const endsRamp = reader.flag(fields, 'endsRamp', path);
    return {
      atWholes,
      ...(term !== undefined && { term }),
      ...(stated && { stated }),
      ...(equivalence && { equivalence }),
      ...(returns && { returns }),
      ...(ramp && { ramp }),
      ...(endsRamp && { endsRamp }),
    };
  }

  private returns(fields: Fields, path: string): TempoReturn | undefined {
    const text = this.reader.text(fields, 'returns', path);
    const known = TEMPO_RETURNS.find((name) => name === text);
    if (text !== undefined && !known) {
      this.reader.refuse(`${path}.returns`, text, `A return is one of: ${TEMPO_RETURNS.join(', ')}`);
    }
    return known;
  }

  private position(fields: Fields, path: string, length: Fraction, what: string): Fraction | null {
    const at = fields['at'] === undefined ? ZERO : this.reader.parsedField(fields, 'at', path, parseFraction);
    if (!at) return null;
    if (compare(at, ZERO) >= 0 && compare(at, length) < 0) return at;
    const message = `This ${what} stands outside its bar, which is ${formatFraction(length)} of a whole note long`;
    this.reader.refuse(`${path}.at`, fields['at'], message);
    return null;
  }

  private hold(value: unknown, path: string, length: Fraction): Hold | null {
    const { reader } = this;
    const fields = reader.fields(value, path, HOLD_FIELDS);
    const atWholes = fields && this.position(fields, path, length, 'hold');
    if (!fields || !atWholes) return null;
    const kind = reader.text(fields, 'kind', path) ?? 'hold';
    if (kind !== 'hold' && kind !== 'breath') {
      reader.refuse(`${path}.kind`, kind, 'This is either a hold or a breath');
      return null;
    }
    if (fields['length'] === undefined) {
      reader.refuse(`${path}.length`, '', 'Say how long: 2 beats, 1.5 seconds, or until cued');
      return null;
    }
    const holdLength = reader.parsedField(fields, 'length', path, parseHoldLength);
    const held = reader.parsedField(fields, 'value', path, parseNoteValue);
    if (!holdLength) return null;
    return { kind, atWholes, length: holdLength, ...(held && { value: held }) };
  }

  private endsRepeat(fields: Fields, path: string): Bar['endsRepeat'] {
    const value = fields['endsRepeat'];
    if (value === undefined || value === 'until cued') return value;
    if (typeof value === 'number' && Number.isInteger(value) && value >= 2 && value <= MAX_REPEAT_TIMES)
      return value;
    const message = `A repeat is played 2 to ${MAX_REPEAT_TIMES} times in all, or "until cued"`;
    this.reader.refuse(`${path}.endsRepeat`, value, message);
    return undefined;
  }

  private navigation(fields: Fields, path: string): Navigation | undefined {
    const { reader } = this;
    const signs = (['segno', 'coda', 'toCoda', 'fine'] as const).flatMap((name) =>
      reader.flag(fields, name, path) ? [[name, true] as const] : [],
    );
    const jump = reader.parsedField(fields, 'jump', path, parseJump);
    if (signs.length === 0 && !jump) return undefined;
    return { ...Object.fromEntries(signs), ...(jump && { jump }) };
  }

  private pulse(fields: Fields, path: string, bar: Bar): Bar['pulse'] {
    const choice = this.reader.parsedField(fields, 'pulse', path, parsePulseChoice);
    const problem = choice && pulseChoiceProblemMaybe(bar, choice);
    if (problem) this.reader.refuse(within(path, 'pulse'), fields['pulse'], problem);
    return problem ? undefined : choice;
  }

  private sectionMark(value: unknown, path: string, before: readonly SectionMark[]): SectionMark | null {
    const { reader } = this;
    const fields = reader.fields(value, path, ['section', 'does', 'says']);
    if (!fields) return null;
    const section = reader.text(fields, 'section', path);
    const does = SECTION_ACTS.find((act) => act === fields['does']);
    const says = reader.text(fields, 'says', path);
    if (!does) reader.refuse(within(path, 'does'), fields['does'], `A section ${SECTION_ACTS.join(', or ')}`);
    if (!section) reader.refuse(within(path, 'section'), fields['section'], 'Name the section');
    if (!section || !does) return null;
    if (before.some((mark) => mark.section === section)) {
      reader.refuse(within(path, 'section'), section, `${section} is told twice what to do in one bar`);
      return null;
    }
    return { section, does, ...(says !== undefined && { says }) };
  }

  private answer(value: unknown, path: string): Answer | null {
    const fields = this.reader.fields(value, path, ['check', 'reason', 'about']);
    if (!fields) return null;
    const [check, reason] = [
      this.reader.text(fields, 'check', path),
      this.reader.text(fields, 'reason', path),
    ];
    const about = fields['about'];
    if (check && reason !== undefined && typeof about === 'string' && about.length <= MAX_ABOUT_TEXT) {
      return { check, reason, about };
    }
    this.reader.refuse(path, value, 'An answer names its check, its reason and what it was about');
    return null;
  }
}

const PLAIN_FIELDS = new Set(['meter', 'label', 'pickup', 'cutTo', 'rehearsalMark', 'tempo']);
