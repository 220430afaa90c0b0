import type { Problem } from '../problem/problem.ts';
import { PIECE_FORMAT, PIECE_FORMAT_VERSION } from './document.ts';
import { FieldReader, type Fields } from './fieldReader.ts';
import { barLabels, barName } from '../piece/labels.ts';
import {
  MAX_BARS,
  MAX_CORRECTIONS,
  MAX_SECTIONS,
  MAX_TEXT_LENGTH,
  type Bar,
  type LoggedCorrection,
  type Piece,
} from '../piece/piece.ts';
import { BarReader } from './readBar.ts';
import { inThousands } from '../words/inThousands.ts';

export type PieceReading =
  | { readonly ok: true; readonly piece: Piece }
  | { readonly ok: false; readonly problems: readonly Problem[] };

const FIELDS = [
  'format',
  'version',
  'title',
  'subtitle',
  'composer',
  'key',
  'style',
  'sections',
  'corrections',
  'takesRepeatsAfterJump',
  'bars',
];
const CORRECTION_FIELDS = ['place', 'was', 'is', 'why', 'spottedBy', 'on'] as const;

/**
 * Reads a piece document of any origin. Everything wrong is reported (the first 50), each with its
 * field, its value and its bar; nothing is guessed and unknown fields are refused.
 */
export function readPiece(document: unknown): PieceReading {
  const reader = new FieldReader();
  const fields = reader.fields(document, '', FIELDS);
  if (!fields || !isOurFormat(reader, fields)) return { ok: false, problems: reader.problems };
  const key = reader.text(fields, 'key', '');
  const style = reader.text(fields, 'style', '');
  const sections = readSections(reader, fields);
  const corrections = readCorrections(reader, fields);
  const takesRepeatsAfterJump = reader.flag(fields, 'takesRepeatsAfterJump', '');
  const piece: Piece = {
    title: readTitle(reader, fields),
    subtitle: reader.text(fields, 'subtitle', '') ?? '',
    composer: reader.text(fields, 'composer', '') ?? '',
    ...(key !== undefined && { key }),
    ...(style !== undefined && { style }),
    ...(sections.length > 0 && { sections }),
    ...(corrections.length > 0 && { corrections }),
    ...(takesRepeatsAfterJump && { takesRepeatsAfterJump }),
    bars: readBars(reader, fields['bars']),
  };
  if (reader.problems.length === 0) return { ok: true, piece };
  return { ok: false, problems: withBarNames(reader.problems, piece) };
}

function isOurFormat(reader: FieldReader, { format, version }: Fields): boolean {
  if (format !== PIECE_FORMAT) {
    reader.refuse('format', format, `This is not a piece: its format should be "${PIECE_FORMAT}"`);
    return false;
  }
  if (version === PIECE_FORMAT_VERSION) return true;
  const message = `This piece is of version ${JSON.stringify(version)?.slice(0, 20)}; this program reads version ${PIECE_FORMAT_VERSION}`;
  reader.refuse('version', version, message);
  return false;
}

function readTitle(reader: FieldReader, fields: Fields): string {
  const title = reader.text(fields, 'title', '');
  if (title === undefined || title.trim() === '') reader.refuse('title', title, 'Give the piece a title');
  return title ?? '';
}

function readSections(reader: FieldReader, fields: Fields): readonly string[] {
  const sections = reader.list<string>(
    fields['sections'],
    'sections',
    'Sections come as a list of names',
    (name, path, before) => {
      const isNew = typeof name === 'string' && name.trim() !== '' && !before.includes(name);
      if (isNew && name.length <= MAX_TEXT_LENGTH) return name;
      reader.refuse(path, name, 'A section has a short name of its own');
      return null;
    },
  );
  if (sections.length > MAX_SECTIONS)
    reader.refuse('sections', `${sections.length} sections`, `A piece has at most ${MAX_SECTIONS} sections`);
  return sections;
}

function readCorrections(reader: FieldReader, fields: Fields): readonly LoggedCorrection[] {
  const value = fields['corrections'];
  if (Array.isArray(value) && value.length > MAX_CORRECTIONS) {
    reader.refuse('corrections', `${value.length}`, `A piece keeps at most ${MAX_CORRECTIONS} corrections`);
    return [];
  }
  return reader.list<LoggedCorrection>(value, 'corrections', 'Corrections come as a list', (item, path) => {
    const entry = reader.fields(item, path, CORRECTION_FIELDS);
    if (!entry) return null;
    const text = (name: (typeof CORRECTION_FIELDS)[number]) => reader.text(entry, name, path) ?? '';
    const on = text('on');
    if (!/^\d{4}-\d\d-\d\d$/.test(on)) reader.refuse(`${path}.on`, on, 'A day is written 2026-03-28');
    return {
      place: text('place'),
      was: text('was'),
      is: text('is'),
      why: text('why'),
      spottedBy: text('spottedBy'),
      on,
    };
  });
}

function readBars(reader: FieldReader, value: unknown): readonly Bar[] {
  if (!Array.isArray(value)) {
    reader.refuse('bars', value, 'A piece needs its list of bars');
    return [];
  }
  if (value.length === 0) reader.refuse('bars', '', 'A piece needs at least one bar');
  if (value.length > MAX_BARS) {
    const [most, here] = [inThousands(MAX_BARS), inThousands(value.length)];
    const message = `A piece holds at most ${most} bars; this has ${here}. Split it into movements`;
    reader.refuse('bars', `${value.length} bars`, message);
    return [];
  }
  const bars = new BarReader(reader);
  return reader.list<Bar>(value, 'bars', '', (item, path, before) =>
    bars.read(item, path, before.at(-1)?.meter),
  );
}

/** Names the bar of each problem by its printed label, or by its place where it has none. */
function withBarNames(problems: readonly Problem[], piece: Piece): Problem[] {
  const labels = barLabels(piece);
  return problems.map((problem) => {
    const index = /^bars\[(\d+)\]/.exec(problem.field ?? '')?.[1];
    if (index === undefined) return problem;
    return { ...problem, bar: labels[Number(index)] ?? barName(labels, Number(index)) };
  });
}
