import type { Problem } from '../problem/problem.ts';
import { PIECE_FORMAT, PIECE_FORMAT_VERSION } from './document.ts';
import { FieldReader, type Fields } from './fieldReader.ts';
import { barLabels, barName } from './labels.ts';
import { MAX_BARS, type Bar, type Piece } from './piece.ts';
import { BarReader } from './readBar.ts';

export type PieceReading =
  | { readonly ok: true; readonly piece: Piece }
  | { readonly ok: false; readonly problems: readonly Problem[] };

const FIELDS = ['format', 'version', 'title', 'subtitle', 'composer', 'key', 'takesRepeatsAfterJump', 'bars'];

/**
 * Reads a piece document of any origin. Everything wrong is reported (the first 50), each with its
 * field, its value and its bar; nothing is guessed and unknown fields are refused.
 */
export function readPiece(document: unknown): PieceReading {
  const reader = new FieldReader();
  const fields = reader.fields(document, '', FIELDS);
  if (!fields || !isOurFormat(reader, fields)) return { ok: false, problems: reader.problems };
  const key = reader.text(fields, 'key', '');
  const takesRepeatsAfterJump = reader.flag(fields, 'takesRepeatsAfterJump', '');
  const piece: Piece = {
    title: readTitle(reader, fields),
    subtitle: reader.text(fields, 'subtitle', '') ?? '',
    composer: reader.text(fields, 'composer', '') ?? '',
    ...(key !== undefined && { key }),
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

function readBars(reader: FieldReader, value: unknown): readonly Bar[] {
  if (!Array.isArray(value)) {
    reader.refuse('bars', value, 'A piece needs its list of bars');
    return [];
  }
  if (value.length === 0) reader.refuse('bars', '', 'A piece needs at least one bar');
  if (value.length > MAX_BARS) {
    const [most, here] = [MAX_BARS, value.length].map((count) => count.toLocaleString('en'));
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
