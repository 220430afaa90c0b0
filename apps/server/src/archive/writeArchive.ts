import { createHash } from 'node:crypto';
import SqliteDatabase, { type Database } from 'better-sqlite3';
import { Zip, ZipDeflate } from 'fflate';
import {
  ARCHIVE_TABLES,
  CHECKSUMS_NAME,
  MANIFEST_NAME,
  SEAL_BYTES,
  sealText,
  tableFile,
  type ArchivedEnsemble,
  type ArchiveManifest,
} from './archiveRows.ts';

type Table = keyof typeof ARCHIVE_TABLES;

const ROWS_OF_PIECES: Readonly<Record<'drills' | 'runs', string>> = {
  drills: 'saved_at, id',
  runs: 'started_at, id',
};

/**
 * An ensemble of a database as one zip, part by part: a single state of it, also while a server writes. The same state
 * makes the same rows in the same order.
 * @throws Error where the database does not know the ensemble.
 */
export function writeArchive(
  databaseFile: string,
  ensembleId: string,
  madeAt: Date,
): Generator<Uint8Array<ArrayBuffer>> {
  return sealed(unsealed(databaseFile, ensembleId, madeAt));
}

/** The parts of a zip, with a comment at its end: the check sum of all that comes before the comment. */
function* sealed(parts: Iterable<Uint8Array<ArrayBuffer>>): Generator<Uint8Array<ArrayBuffer>> {
  const hash = createHash('sha256');
  let held: Uint8Array<ArrayBuffer> | null = null;
  for (const part of parts) {
    if (held) {
      hash.update(held);
      yield held;
    }
    held = part;
  }
  if (!held) return;
  // A zip ends with the length of its comment.
  new DataView(held.buffer).setUint16(held.length - 2, SEAL_BYTES, true);
  hash.update(held);
  yield held;
  yield new TextEncoder().encode(sealText(hash.digest('hex')));
}

function* unsealed(
  databaseFile: string,
  ensembleId: string,
  madeAt: Date,
): Generator<Uint8Array<ArrayBuffer>> {
  const database = new SqliteDatabase(databaseFile, { readonly: true, fileMustExist: true });
  try {
    database.exec('BEGIN');
    const zip = new ArchiveZip(madeAt);
    const ensemble = ensembleOf(database, ensembleId);
    const counted = { pieces: 0, revisions: 0, drills: 0, runs: 0, dates: 0 };
    const pieceIds: string[] = [];
    for (const [table, name, rows] of files(database, ensembleId, pieceIds)) {
      for (const row of rows) {
        counted[table]++;
        if (table === 'pieces') pieceIds.push((row as { id: string }).id);
        zip.add(name, `${JSON.stringify(row)}\n`);
        yield* zip.taken();
      }
      zip.end(name);
      yield* zip.taken();
    }
    const manifest: ArchiveManifest = {
      format: 'anchorbeat-archive',
      version: 1,
      madeAt: madeAt.toISOString(),
      ensemble,
      rows: counted,
    };
    zip.add(MANIFEST_NAME, `${JSON.stringify(manifest, null, 2)}\n`);
    zip.end(MANIFEST_NAME);
    zip.finish();
    yield* zip.taken();
  } finally {
    database.close();
  }
}

function ensembleOf(database: Database, id: string): ArchivedEnsemble {
  const row = database
    .prepare('SELECT id, name, place, sections, note_names AS noteNames FROM ensembles WHERE id = ?')
    .get(id) as (Omit<ArchivedEnsemble, 'sections'> & { readonly sections: string }) | undefined;
  if (!row) throw new Error('there is no such ensemble in this database');
  return { ...row, sections: JSON.parse(row.sections) as string[] };
}

/** Every file of rows. The pieces come first; who takes them tells their ids for those that follow. */
function* files(
  database: Database,
  ensembleId: string,
  pieceIds: readonly string[],
): Generator<readonly [Table, string, Iterable<unknown>]> {
  const select = (table: Table, where: string, order: string) =>
    database.prepare(
      `SELECT ${ARCHIVE_TABLES[table].join(', ')} FROM ${table} WHERE ${where} ORDER BY ${order}`,
    );
  yield [
    'pieces',
    tableFile('pieces'),
    select('pieces', 'ensemble_id = ?', 'shelf_order, id').iterate(ensembleId),
  ];
  const revisions = select('revisions', 'piece_id = ?', 'revision');
  for (const pieceId of pieceIds)
    yield ['revisions', tableFile('revisions', pieceId), revisions.iterate(pieceId)];
  const ofPieces = 'piece_id IN (SELECT id FROM pieces WHERE ensemble_id = ?)';
  for (const table of ['drills', 'runs'] as const)
    yield [table, tableFile(table), select(table, ofPieces, ROWS_OF_PIECES[table]).iterate(ensembleId)];
  yield ['dates', tableFile('dates'), select('dates', 'ensemble_id = ?', 'at, id').iterate(ensembleId)];
}

/** A zip that is written file after file, with the check sums of all of them as the last one. */
class ArchiveZip {
  private parts: Array<Uint8Array<ArrayBuffer>> = [];
  private readonly sums: string[] = [];
  private open: {
    readonly name: string;
    readonly entry: ZipDeflate;
    readonly hash: ReturnType<typeof createHash>;
  } | null = null;
  private readonly zip = new Zip((error, bytes) => {
    if (error) throw error;
    if (bytes.length > 0) this.parts.push(Uint8Array.from(bytes));
  });

  constructor(private readonly madeAt: Date) {}

  add(name: string, text: string): void {
    const bytes = new TextEncoder().encode(text);
    const { entry, hash } = this.opened(name);
    hash.update(bytes);
    entry.push(bytes);
  }

  /** Ends a file; one that nothing was added to is there, and empty. */
  end(name: string): void {
    const { entry, hash } = this.opened(name);
    entry.push(new Uint8Array(0), true);
    this.sums.push(`${hash.digest('hex')}  ${name}\n`);
    this.open = null;
  }

  finish(): void {
    this.add(CHECKSUMS_NAME, this.sums.join(''));
    this.end(CHECKSUMS_NAME);
    this.zip.end();
  }

  /** What has come out since it was asked last. */
  taken(): ReadonlyArray<Uint8Array<ArrayBuffer>> {
    const { parts } = this;
    this.parts = [];
    return parts;
  }

  private opened(name: string) {
    if (this.open?.name === name) return this.open;
    const entry = new ZipDeflate(name, { level: 6 });
    entry.mtime = this.madeAt;
    this.zip.add(entry);
    this.open = { name, entry, hash: createHash('sha256') };
    return this.open;
  }
}
