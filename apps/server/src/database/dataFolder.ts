import { existsSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import SqliteDatabase, { type Database } from 'better-sqlite3';
import { newestBackupMaybe } from '../backup/backupFiles.ts';

/** Why a data folder is not opened, in words for whoever starts the server. */
export class DataFolderError extends Error {}

export const DATABASE_NAME = 'anchorbeat.sqlite';
const LOCK_NAME = 'anchorbeat.lock';
const STARTING_NAME = 'anchorbeat.starting';
/** By which the folder of all data is handed to what needs it. */
export const DATA_FOLDER = Symbol('data folder');

/** Says that there has been a database here. */
const MARK_NAME = 'anchorbeat.json';

/**
 * Holds a data folder for one server, or for those that share it. The operating system lets go of it when the process ends,
 * however it ends.
 * @throws DataFolderError where another server holds it, and both do not share it.
 */
export function heldFolder(
  dataFolder: string,
  { isShared = false }: { readonly isShared?: boolean } = {},
): { readonly release: () => void } {
  const lock = new SqliteDatabase(join(dataFolder, LOCK_NAME), { timeout: 0 });
  try {
    // A transaction that has read keeps writers out and lets other readers in.
    lock.exec(isShared ? 'BEGIN; SELECT count(*) FROM sqlite_master' : 'BEGIN EXCLUSIVE');
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code === 'SQLITE_BUSY')
      throw new DataFolderError(
        `Another Anchorbeat is running on the data in ${dataFolder}: stop it, or give this one a folder of its own with npm start -- --data FOLDER`,
      );
    throw error;
  }
  return { release: () => lock.close() };
}

/**
 * Looks at a database before it is opened: that it is there where one was, sound, and not of a newer program.
 * @throws DataFolderError that says what is wrong, which backup is the newest, and what to do.
 */
export function inspectDatabase(dataFolder: string, knownMigrations: readonly string[]): DatabaseState {
  const file = join(dataFolder, DATABASE_NAME);
  const isThere = (statSync(file, { throwIfNoEntry: false })?.size ?? 0) > 0;
  if (!isThere) {
    if (existsSync(join(dataFolder, MARK_NAME)))
      throw new DataFolderError(
        `The database ${file} is empty or gone, and there was one here. ${wayBack(dataFolder)}`,
      );
    return { isNew: true, pendingMigrations: knownMigrations.length };
  }
  const database = new SqliteDatabase(file, { fileMustExist: true });
  try {
    mustBeSound(database, dataFolder);
    const applied = appliedMigrations(database);
    const unknown = applied.filter((name) => !knownMigrations.includes(name));
    if (unknown.length > 0)
      throw new DataFolderError(
        `The database in ${dataFolder} was made by a newer Anchorbeat (${unknown.at(-1)}): start that version, or give another folder with npm start -- --data FOLDER`,
      );
    return { isNew: false, pendingMigrations: knownMigrations.length - applied.length };
  } finally {
    database.close();
  }
}

const LONGEST_START_MS = 60_000;

/** The turn to look at a database and bring it up to date: of servers that share a folder, one after the other. */
export function startingTurn(dataFolder: string): { readonly end: () => void } {
  const lock = new SqliteDatabase(join(dataFolder, STARTING_NAME), { timeout: LONGEST_START_MS });
  lock.exec('BEGIN EXCLUSIVE');
  return { end: () => lock.close() };
}

export interface DatabaseState {
  readonly isNew: boolean;
  readonly pendingMigrations: number;
}

/** Notes that there is a database here from now on, so that an empty file is never taken for a new beginning. */
export function markFolder(dataFolder: string): void {
  const mark = join(dataFolder, MARK_NAME);
  if (!existsSync(mark)) writeFileSync(mark, `${JSON.stringify({ since: new Date().toISOString() })}\n`);
}

function mustBeSound(database: Database, dataFolder: string): void {
  let found: string;
  try {
    found = database.pragma('quick_check(1)', { simple: true }) as string;
  } catch (error) {
    if (!/^SQLITE_(CORRUPT|NOTADB)/.test((error as { code?: string }).code ?? '')) throw error;
    found = (error as Error).message;
  }
  if (found === 'ok') return;
  throw new DataFolderError(`The database in ${dataFolder} is damaged (${found}). ${wayBack(dataFolder)}`);
}

function appliedMigrations(database: Database): readonly string[] {
  const hasTable = database.prepare(`SELECT 1 FROM sqlite_master WHERE name = 'migrations'`).get();
  if (!hasTable) return [];
  return (database.prepare('SELECT name FROM migrations ORDER BY id').all() as Array<{ name: string }>).map(
    ({ name }) => name,
  );
}

/** What to do where the database cannot be read, with the newest copy that was whole. */
export function wayBack(dataFolder: string): string {
  const newest = newestBackupMaybe(dataFolder);
  return newest
    ? `The newest backup is ${newest}: bring it back, with no server running, by npm run -s anchorbeat -- restore "${newest}" --data "${dataFolder}"`
    : `There is no backup in ${join(dataFolder, 'backups')}. Put a copy back there, or begin anew by removing ${MARK_NAME} from the folder`;
}
