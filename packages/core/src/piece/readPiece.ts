import { compare, type Fraction, ZERO } from '../fraction/fraction.ts';
import { formatFraction, parseFraction } from '../fraction/text.ts';
import { meterLength, type Meter } from '../meter/meter.ts';
import { formatMeter, parseMeter } from '../meter/text.ts';
import type { Problem, Result } from '../problem/problem.ts';
import { parseEquivalence, parseStatedTempo } from '../tempo/text.ts';
import type { TempoMark } from '../tempo/tempoMark.ts';
import { barLabels, barName } from './labels.ts';
import { PIECE_FORMAT, PIECE_FORMAT_VERSION } from './document.ts';
import { MAX_BARS, MAX_TEXT_LENGTH, type Bar, type PartialBar, type Piece } from './piece.ts';

const MAX_PROBLEMS = 50;
/** Only for reading on after a meter that was refused. */
const STAND_IN_METER: Meter = { parts: [{ groups: [4], unit: 4, prints: 'total' }] };

export type PieceReading =
  | { readonly ok: true; readonly piece: Piece }
  | { readonly ok: false; readonly problems: readonly Problem[] };

type Fields = Readonly<Record<string, unknown>>;

/**
 * Reads a piece document of any origin. Everything wrong is reported (the first 50), each with its
 * field, its value and its bar; nothing is guessed and unknown fields are refused.
 */
export function readPiece(document: unknown): PieceReading {
  return new PieceReader().read(document);
}

/** Collects problems while it reads: one reader, one document. */
class PieceReader {
  private readonly problems: Problem[] = [];
  /** Bars of the same meter share one object, which makes comparing and remembering cheap. */
  private readonly meters = new Map<string, Meter>();

  read(document: unknown): PieceReading {
    const fields = this.fields(document, '', ['format', 'version', 'title', 'subtitle', 'composer', 'bars']);
    if (!fields || !this.isOurFormat(fields)) return { ok: false, problems: this.problems };
    const piece: Piece = {
      title: this.title(fields),
      subtitle: this.text(fields, 'subtitle', '') ?? '',
      composer: this.text(fields, 'composer', '') ?? '',
      bars: this.bars(fields['bars']),
    };
    return this.problems.length === 0
      ? { ok: true, piece }
      : { ok: false, problems: withBarNames(this.problems, piece) };
  }

  private isOurFormat(fields: Fields): boolean {
    if (fields['format'] !== PIECE_FORMAT) {
      this.refuse('format', fields['format'], `This is not a piece: its format should be "${PIECE_FORMAT}"`);
      return false;
    }
    if (fields['version'] !== PIECE_FORMAT_VERSION) {
      this.refuse(
        'version',
        fields['version'],
        `This piece is of version ${shown(fields['version'])}; this program reads version ${PIECE_FORMAT_VERSION}`,
      );
      return false;
    }
    return true;
  }

  private title(fields: Fields): string {
    const title = this.text(fields, 'title', '');
    if (title === undefined || title.trim() === '') this.refuse('title', title, 'Give the piece a title');
    return title ?? '';
  }

  private bars(value: unknown): Bar[] {
    if (!Array.isArray(value)) {
      this.refuse('bars', value, 'A piece needs its list of bars');
      return [];
    }
    if (value.length === 0) this.refuse('bars', '', 'A piece needs at least one bar');
    if (value.length > MAX_BARS) {
      this.refuse(
        'bars',
        `${value.length} bars`,
        `A piece holds at most ${MAX_BARS.toLocaleString('en')} bars; this has ${value.length.toLocaleString('en')}. Split it into movements`,
      );
      return [];
    }
    const bars: Bar[] = [];
    for (let index = 0; index < value.length && this.problems.length < MAX_PROBLEMS; index++) {
      bars.push(this.bar(value[index], index, bars.at(-1)?.meter));
    }
    return bars;
  }

  /** Whatever is wrong with a bar, the rest of it is read too, so that everything wrong is reported at once. */
  private bar(value: unknown, index: number, meterBefore: Meter | undefined): Bar {
    const path = `bars[${index}]`;
    const fields = this.fields(value, path, ['meter', 'label', 'pickup', 'cutTo', 'rehearsalMark', 'tempo']);
    if (!fields) return { meter: meterBefore ?? STAND_IN_METER, tempoMarks: [] };
    const meter = this.meter(fields['meter'], path, meterBefore);
    const label = fields['label'] === null ? null : this.text(fields, 'label', path);
    const partial = this.partial(fields, path, meter);
    const rehearsalMark = this.text(fields, 'rehearsalMark', path);
    const length = partial?.lengthWholes ?? meterLength(meter);
    return {
      meter,
      ...(label !== undefined && { label }),
      ...(partial && { partial }),
      ...(rehearsalMark !== undefined && { rehearsalMark }),
      tempoMarks: this.tempoMarks(fields['tempo'], `${path}.tempo`, length),
    };
  }

  private meter(value: unknown, path: string, before: Meter | undefined): Meter {
    if (value === undefined) {
      if (!before) this.refuse(`${path}.meter`, '', 'The first bar needs a meter, such as 4/4');
      return before ?? STAND_IN_METER;
    }
    const meter = this.parsed(value, `${path}.meter`, parseMeter) ?? STAND_IN_METER;
    const text = formatMeter(meter);
    const known = this.meters.get(text) ?? meter;
    this.meters.set(text, known);
    return known;
  }

  private partial(fields: Fields, path: string, meter: Meter): PartialBar | undefined {
    const kept = fields['pickup'] !== undefined ? 'pickup' : 'cutTo';
    if (fields['pickup'] !== undefined && fields['cutTo'] !== undefined) {
      this.refuse(`${path}.cutTo`, fields['cutTo'], 'A bar is either a pickup or cut short, not both');
    }
    if (fields[kept] === undefined) return undefined;
    const lengthWholes = this.parsed(fields[kept], `${path}.${kept}`, parseFraction);
    if (!lengthWholes) return undefined;
    if (compare(lengthWholes, ZERO) <= 0 || compare(lengthWholes, meterLength(meter)) >= 0) {
      this.refuse(
        `${path}.${kept}`,
        fields[kept],
        `This part of a bar must be longer than nothing and shorter than its ${formatMeter(meter)} bar`,
      );
    }
    return { keeps: kept === 'pickup' ? 'end' : 'start', lengthWholes };
  }

  private tempoMarks(value: unknown, path: string, length: Fraction): TempoMark[] {
    if (value === undefined) return [];
    if (!Array.isArray(value)) {
      this.refuse(path, value, 'Tempo marks come as a list');
      return [];
    }
    const marks: TempoMark[] = [];
    for (const [index, item] of value.entries()) {
      if (this.problems.length >= MAX_PROBLEMS) break;
      const mark = this.tempoMark(item, `${path}[${index}]`, length);
      if (mark && this.comesAfter(marks.at(-1), mark, `${path}[${index}].at`)) marks.push(mark);
    }
    return marks;
  }

  private tempoMark(value: unknown, path: string, length: Fraction): TempoMark | null {
    const fields = this.fields(value, path, ['at', 'term', 'tempo', 'equivalence']);
    if (!fields) return null;
    const atWholes =
      fields['at'] === undefined ? ZERO : this.parsed(fields['at'], `${path}.at`, parseFraction);
    if (!atWholes) return null;
    if (compare(atWholes, ZERO) < 0 || compare(atWholes, length) >= 0) {
      this.refuse(
        `${path}.at`,
        fields['at'],
        `This mark stands outside its bar, which is ${formatFraction(length)} of a whole note long`,
      );
      return null;
    }
    const term = this.text(fields, 'term', path);
    const stated =
      fields['tempo'] === undefined ? null : this.parsed(fields['tempo'], `${path}.tempo`, parseStatedTempo);
    const equivalence =
      fields['equivalence'] === undefined
        ? null
        : this.parsed(fields['equivalence'], `${path}.equivalence`, parseEquivalence);
    return {
      atWholes,
      ...(term !== undefined && { term }),
      ...(stated && { stated }),
      ...(equivalence && { equivalence }),
    };
  }

  private comesAfter(before: TempoMark | undefined, mark: TempoMark, field: string): boolean {
    if (!before || compare(before.atWholes, mark.atWholes) < 0) return true;
    this.refuse(
      field,
      formatFraction(mark.atWholes),
      'Tempo marks of a bar stand in order, one at a position',
    );
    return false;
  }

  private fields(value: unknown, path: string, known: readonly string[]): Fields | null {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) {
      this.refuse(path || 'piece', value, 'Here a group of named fields is expected');
      return null;
    }
    for (const name of Object.keys(value)) {
      if (known.includes(name)) continue;
      const field = path ? `${path}.${name}` : name;
      this.refuse(
        field,
        (value as Fields)[name],
        `"${name.slice(0, 40)}" is not a field of a piece; known here: ${known.join(', ')}`,
      );
    }
    return value as Fields;
  }

  private text(fields: Fields, name: string, path: string): string | undefined {
    const value = fields[name];
    if (value === undefined) return undefined;
    if (typeof value === 'string' && value.length <= MAX_TEXT_LENGTH) return value;
    this.refuse(
      path ? `${path}.${name}` : name,
      value,
      `"${name}" must be a text of at most ${MAX_TEXT_LENGTH} characters`,
    );
    return undefined;
  }

  private parsed<T>(value: unknown, field: string, parse: (text: string) => Result<T>): T | null {
    if (typeof value !== 'string' || value.length > MAX_TEXT_LENGTH) {
      this.refuse(field, value, 'Here a short text is expected');
      return null;
    }
    const result = parse(value);
    if (result.ok) return result.value;
    this.refuse(field, value, result.problem.message);
    return null;
  }

  private refuse(field: string, value: unknown, message: string): void {
    if (this.problems.length >= MAX_PROBLEMS) return;
    this.problems.push({ message, field, value: shown(value) });
  }
}

/** Names the bar of each problem by its printed label, or by its place where it has none. */
function withBarNames(problems: readonly Problem[], piece: Piece): Problem[] {
  const labels = barLabels(piece);
  return problems.map((problem) => {
    const index = /^bars\[(\d+)\]/.exec(problem.field ?? '')?.[1];
    return index === undefined
      ? problem
      : { ...problem, bar: labels[Number(index)] ?? barName(labels, Number(index)) };
  });
}

function shown(value: unknown): string {
  const text = typeof value === 'string' ? value : (JSON.stringify(value) ?? 'nothing');
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}
