import { readPiece } from '@anchorbeat/core';
import {
  CreateEnsembleRequest,
  LogRunRequest,
  SaveDateRequest,
  SaveDrillRequest,
} from '@anchorbeat/contract';
import { parseBoundedJson } from '@anchorbeat/formats';
import { plainToInstance } from 'class-transformer';
import { isISO8601, isUUID, validateSync } from 'class-validator';
import {
  ARCHIVE_TABLES,
  CHECKSUMS_NAME,
  MANIFEST_NAME,
  tableFile,
  type Archive,
  type ArchivedEnsemble,
  type ArchiveManifest,
  type DateRow,
  type DrillRow,
  type PieceRow,
  type RevisionRow,
  type RunRow,
} from './archiveRows.ts';
import { ArchiveError, unpackArchive } from './unpackArchive.ts';

type Table = keyof typeof ARCHIVE_TABLES;
type Files = ReadonlyMap<string, Uint8Array>;
type Loose = Readonly<Record<string, unknown>>;

/**
 * Reads a whole ensemble out of an archive: every row is looked at as if it came over the API.
 * @throws ArchiveError that says what is wrong with it and where.
 */
export function readArchive(bytes: Uint8Array, mostBytes?: number): Archive {
  const files = unpackArchive(bytes, mostBytes);
  const manifest = readManifest(files);
  const pieces = rowsOf<PieceRow>(files, 'pieces', tableFile('pieces'), {
    shelf_order: isCount,
    is_set_aside: (value) => value === 0 || value === 1,
  });
  const pieceIds = new Set(pieces.map(({ id }) => id));
  const ofPiece = (value: unknown) => typeof value === 'string' && pieceIds.has(value);
  const archive: Archive = {
    madeAt: manifest.madeAt,
    ensemble: manifest.ensemble,
    pieces,
    revisions: new Map(pieces.map(({ id }) => [id, revisionsOf(files, id)])),
    drills: rowsOf<DrillRow>(files, 'drills', tableFile('drills'), {
      piece_id: ofPiece,
      settings: isRequest(SaveDrillRequest),
      saved_at: isMoment,
      deleted_at: isMomentOrNull,
    }),
    runs: rowsOf<RunRow>(files, 'runs', tableFile('runs'), {
      piece_id: ofPiece,
      started_at: isMoment,
      result: isRequest(LogRunRequest),
      deleted_at: isMomentOrNull,
    }),
    dates: rowsOf<DateRow>(files, 'dates', tableFile('dates'), {
      at: (value) => typeof value === 'string' && value.length < 40,
      details: isRequest(SaveDateRequest),
      deleted_at: isMomentOrNull,
    }),
  };
  mustCount(archive, manifest, files);
  return archive;
}

function readManifest(files: Files): ArchiveManifest {
  const file = files.get(MANIFEST_NAME);
  const document = file ? parseBoundedJson(new TextDecoder().decode(file)) : null;
  const said = (document?.ok ? document.value : null) as Loose | null;
  if (said?.['format'] !== 'anchorbeat-archive')
    throw new ArchiveError(`This is no archive of Anchorbeat: its ${MANIFEST_NAME} does not say so`);
  if (said['version'] !== 1)
    throw new ArchiveError('This archive was made by a newer Anchorbeat: bring it back with that version');
  const ensemble = (said['ensemble'] ?? {}) as ArchivedEnsemble;
  const isRight =
    validateSync(plainToInstance(CreateEnsembleRequest, ensemble), { whitelist: true }).length === 0 &&
    isMoment(said['madeAt']) &&
    typeof said['rows'] === 'object' &&
    said['rows'] !== null;
  if (!isRight) throw new ArchiveError(`${MANIFEST_NAME} in this archive says nothing of its ensemble`);
  return said as unknown as ArchiveManifest;
}

/** The revisions of a piece: 1, 2, 3 … without a gap, each a piece that reads. */
function revisionsOf(files: Files, pieceId: string): readonly RevisionRow[] {
  const name = tableFile('revisions', pieceId);
  const rows = rowsOf<RevisionRow>(files, 'revisions', name, {
    piece_id: (value) => value === pieceId,
    revision: isCount,
    saved_at: isMoment,
    document: (value) => typeof value === 'string',
    edits: isTexts,
  });
  if (rows.length === 0) throw new ArchiveError(`${name} in this archive has no state of its piece`);
  for (const [index, { revision, document }] of rows.entries()) {
    if (revision !== index + 1)
      throw new ArchiveError(`${name} in this archive: revision ${index + 1} is missing`);
    const parsed = parseBoundedJson(document);
    const reading = parsed.ok ? readPiece(parsed.value) : null;
    if (!reading?.ok)
      throw new ArchiveError(
        `${name} in this archive: revision ${revision} is no piece (${reading?.problems[0]?.message ?? 'it does not read'})`,
      );
  }
  return rows;
}

type Checks<Row> = Readonly<Record<Exclude<keyof Row, 'id'> & string, (value: unknown) => boolean>>;

/** The rows of a file, one a line; each has just the columns of its table, and every id comes once. */
function rowsOf<Row extends { readonly id: string }>(
  files: Files,
  table: Table,
  name: string,
  checks: Checks<Row>,
): readonly Row[] {
  const file = files.get(name);
  if (!file) throw new ArchiveError(`"${name}" is missing in this archive`);
  const seen = new Set<unknown>();
  const lines = new TextDecoder().decode(file).split('\n');
  return lines.slice(0, -1).map((line, index) => {
    const parsed = parseBoundedJson(line);
    const row = (parsed.ok ? parsed.value : null) as Loose | null;
    const wrong = row === null ? 'it' : wrongColumn(row, table, checks);
    if (row === null || wrong !== null || seen.has(row['id']))
      throw new ArchiveError(
        `${name} in this archive, line ${index + 1}: ${wrong === null ? 'the same id a second time' : `${wrong} is not right`}`,
      );
    seen.add(row['id']);
    return row as unknown as Row;
  });
}

function wrongColumn(
  row: Loose,
  table: Table,
  checks: Readonly<Record<string, (value: unknown) => boolean>>,
): string | null {
  const columns: readonly string[] = ARCHIVE_TABLES[table];
  const unknown = Object.keys(row).find((column) => !columns.includes(column));
  if (unknown !== undefined) return unknown;
  return (
    columns.find((column) => {
      const value = row[column];
      return column === 'id' ? !isUUID(value) : !checks[column]?.(value);
    }) ?? null
  );
}

function isCount(value: unknown): boolean {
  return Number.isSafeInteger(value) && (value as number) >= 0;
}

function isMoment(value: unknown): boolean {
  return typeof value === 'string' && value.length <= 40 && isISO8601(value, { strict: true });
}

function isMomentOrNull(value: unknown): boolean {
  return value === null || isMoment(value);
}

function isTexts(value: unknown): boolean {
  const parsed = typeof value === 'string' ? parseBoundedJson(value) : null;
  return (
    parsed?.ok === true &&
    Array.isArray(parsed.value) &&
    parsed.value.every((text) => typeof text === 'string')
  );
}

/** JSON that the API would take as such a request. */
function isRequest<Request extends object>(request: new () => Request): (value: unknown) => boolean {
  return (value) => {
    const parsed = typeof value === 'string' ? parseBoundedJson(value) : null;
    if (!parsed?.ok || typeof parsed.value !== 'object' || parsed.value === null) return false;
    return validateSync(plainToInstance(request, parsed.value), { forbidUnknownValues: true }).length === 0;
  };
}

/** What the manifest counted is there, and no file besides. */
function mustCount(archive: Archive, { rows }: ArchiveManifest, files: Files): void {
  const revisions = [...archive.revisions.values()].reduce((sum, { length }) => sum + length, 0);
  const counted: Readonly<Record<Table, number>> = {
    pieces: archive.pieces.length,
    revisions,
    drills: archive.drills.length,
    runs: archive.runs.length,
    dates: archive.dates.length,
  };
  for (const [table, count] of Object.entries(counted) as Array<[Table, number]>)
    if (rows[table] !== count)
      throw new ArchiveError(`This archive has ${count} ${table} and should have ${String(rows[table])}`);
  const known = new Set([
    MANIFEST_NAME,
    CHECKSUMS_NAME,
    ...(['pieces', 'drills', 'runs', 'dates'] as const).map((table) => tableFile(table)),
    ...archive.pieces.map(({ id }) => tableFile('revisions', id)),
  ]);
  for (const name of files.keys())
    if (!known.has(name)) throw new ArchiveError(`"${name.slice(0, 60)}" does not belong in an archive`);
}
