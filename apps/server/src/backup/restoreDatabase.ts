import { randomUUID } from 'node:crypto';
import { copyFileSync, existsSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import SqliteDatabase, { type Database } from 'better-sqlite3';
import { DataSource } from 'typeorm';
import {
  DATABASE_NAME,
  DataFolderError,
  heldFolder,
  inspectDatabase,
  markFolder,
} from '../database/dataFolder.ts';
import { dataSourceOptions, MIGRATION_NAMES } from '../database/dataSource.ts';
import { backUp, copyDatabase } from './copyDatabase.ts';

/** Tables in an order in which none needs one that comes after it. */
const TABLES = ['ensembles', 'pieces', 'revisions', 'drills', 'runs', 'dates'] as const;

/**
 * Who may sign in is as it was before the restore: nobody is locked out by it. Rooms and members of an ensemble that is not in
 * the backup go; an ensemble that comes back without anybody is led by who directs another.
 */
const AFTERWARDS = [
  `DELETE FROM main.rooms WHERE ensemble_id NOT IN (SELECT id FROM main.ensembles)`,
  `INSERT INTO main.members SELECT e.id, m.account_id, 'director'
    FROM main.ensembles e, (SELECT DISTINCT account_id FROM main.members WHERE role = 'director') m
    WHERE e.id NOT IN (SELECT ensemble_id FROM main.members)`,
  `DELETE FROM main.members WHERE ensemble_id NOT IN (SELECT id FROM main.ensembles)`,
] as const;

/**
 * Puts the rows of a backup in the place of those of a live database, in the caller's transaction: all of them or, where
 * anything fails or the power goes, none. An older backup is first brought to the present form, in a copy.
 */
export async function restoreRows(live: Database, backupFile: string): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-restore-'));
  try {
    const copy = join(folder, DATABASE_NAME);
    copyFileSync(backupFile, copy);
    await bringUpToDate(folder, copy);
    live.prepare('ATTACH DATABASE ? AS backup').run(copy);
  } catch (error) {
    rmSync(folder, { recursive: true, force: true });
    throw error;
  }
  try {
    live.exec('BEGIN IMMEDIATE');
    try {
      const reached = reachedIn(live);
      live.pragma('defer_foreign_keys = ON');
      for (const table of [...TABLES].reverse()) live.exec(`DELETE FROM main.${table}`);
      // With a condition: a whole table copied at once would not count as bringing back what other tables refer to.
      for (const table of TABLES)
        live.exec(`INSERT INTO main.${table} SELECT * FROM backup.${table} WHERE true`);
      for (const statement of AFTERWARDS) live.exec(statement);
      goOnAfter(live, reached);
      live.exec('COMMIT');
    } catch (error) {
      if (live.inTransaction) live.exec('ROLLBACK');
      throw error;
    }
  } finally {
    live.exec('DETACH DATABASE backup');
    rmSync(folder, { recursive: true, force: true });
  }
}

async function bringUpToDate(folder: string, copy: string): Promise<void> {
  const { isNew, pendingMigrations } = inspectDatabase(folder, MIGRATION_NAMES);
  if (isNew || pendingMigrations === MIGRATION_NAMES.length)
    throw new DataFolderError('it is a database in which Anchorbeat never kept anything');
  const dataSource = new DataSource(dataSourceOptions(copy));
  await dataSource.initialize();
  await dataSource.destroy();
  const settled = new SqliteDatabase(copy);
  settled.pragma('journal_mode = DELETE');
  settled.close();
}

/**
 * Brings a backup back into a data folder that no server holds. What is there now is kept: as a backup where it can be read,
 * else under another name.
 * @throws DataFolderError where the backup is not one, or a server is running.
 */
export async function restoreFolder(dataFolder: string, backupFile: string): Promise<void> {
  if (!existsSync(backupFile)) throw new DataFolderError(`There is no file ${backupFile}`);
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-restore-'));
  const held = heldFolder(dataFolder);
  try {
    const copy = join(folder, DATABASE_NAME);
    copyFileSync(backupFile, copy);
    await bringUpToDate(folder, copy).catch((error: unknown) => {
      throw new DataFolderError(
        `${backupFile} is no backup that can be brought back: ${(error as Error).message}`,
      );
    });
    const database = join(dataFolder, DATABASE_NAME);
    const reached = reachedInFile(database);
    if (existsSync(database)) await setAside(dataFolder, database, basename(backupFile));
    const restored = new SqliteDatabase(copy);
    goOnAfter(restored, reached);
    restored.close();
    await copyDatabase(copy, database);
    markFolder(dataFolder);
  } finally {
    held.release();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Of each piece, by its id, the newest revision. */
type Reached = ReadonlyMap<string, number>;

function reachedIn(database: Database): Reached {
  const rows = database.prepare('SELECT piece_id, max(revision) FROM revisions GROUP BY piece_id');
  return new Map(rows.raw().all() as Array<[string, number]>);
}

/** The same of a file; of one that is not there, or cannot be read, nothing. */
function reachedInFile(file: string): Reached {
  try {
    const database = new SqliteDatabase(file, { readonly: true, fileMustExist: true });
    try {
      return reachedIn(database);
    } finally {
      database.close();
    }
  } catch {
    return new Map();
  }
}

/**
 * A piece that had come farther than what is brought back of it goes on with a number of its own: a window that still has it open
 * never takes for the revision it grew from another one that came by the same number.
 */
function goOnAfter(database: Database, reached: Reached): void {
  const newest = database.prepare(
    'SELECT document, revision FROM revisions WHERE piece_id = ? ORDER BY revision DESC LIMIT 1',
  );
  const add = database.prepare(
    'INSERT INTO revisions (id, piece_id, revision, saved_at, document, edits) VALUES (?, ?, ?, ?, ?, ?)',
  );
  const now = new Date().toISOString();
  for (const [pieceId, revision] of reached) {
    const restored = newest.get(pieceId) as
      | { readonly document: string; readonly revision: number }
      | undefined;
    if (!restored || restored.revision >= revision) continue;
    const says = JSON.stringify([`Brought back from a backup, as it was at revision ${restored.revision}`]);
    add.run(randomUUID(), pieceId, revision + 1, now, restored.document, says);
  }
}

async function setAside(dataFolder: string, database: string, spared: string): Promise<void> {
  const stamp = new Date().toISOString().replaceAll(/[:.]/g, '-');
  await backUp(dataFolder, 'before-restore', spared).catch(() => undefined);
  for (const ending of ['', '-wal', '-shm'])
    if (existsSync(`${database}${ending}`))
      renameSync(`${database}${ending}`, `${database}.${stamp}${ending}`);
}
