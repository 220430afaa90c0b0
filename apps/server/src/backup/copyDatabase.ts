import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import SqliteDatabase from 'better-sqlite3';
import { DATABASE_NAME } from '../database/dataFolder.ts';
import { sqliteCodeMaybe } from '../problems/sqliteProblem.ts';
import { BACKUP_FOLDER, backupName, listBackups, outdatedBackups, type BackupReason } from './backupFiles.ts';

/** The database that was to be copied is not whole itself. */
export class DamagedError extends Error {
  readonly code = 'SQLITE_CORRUPT';
}

/**
 * Copies a database as one whole state of it, also while it is written, by SQLite's own backup. The copy stands under its
 * name only when it is complete and sound. Throws a DamagedError where the database is not.
 */
export async function copyDatabase(databaseFile: string, target: string): Promise<void> {
  mkdirSync(dirname(target), { recursive: true });
  const unfinished = `${target}.part`;
  const source = new SqliteDatabase(databaseFile, { readonly: true, fileMustExist: true });
  try {
    await source.backup(unfinished);
    mustBeWhole(unfinished);
    renameSync(unfinished, target);
  } catch (error) {
    rmSync(unfinished, { force: true });
    if (!(error instanceof DamagedError) && /^SQLITE_(CORRUPT|NOTADB)/.test(sqliteCodeMaybe(error) ?? ''))
      throw new DamagedError(`The database is damaged (${(error as Error).message})`, { cause: error });
    throw error;
  } finally {
    source.close();
  }
}

function mustBeWhole(file: string): void {
  const copy = new SqliteDatabase(file, { fileMustExist: true });
  try {
    copy.pragma('journal_mode = DELETE');
    const found = copy.pragma('quick_check(1)', { simple: true });
    if (found !== 'ok') throw new DamagedError(`The database is damaged (${String(found)})`);
  } finally {
    copy.close();
  }
}

/**
 * Makes a backup of a data folder in it, lets go of those that are outdated, and gives the new one's name. One that is about
 * to be gone back to, by its name, is spared.
 */
export async function backUp(dataFolder: string, reason: BackupReason, spared?: string): Promise<string> {
  const name = freeName(dataFolder, new Date(), reason);
  await copyDatabase(join(dataFolder, DATABASE_NAME), join(dataFolder, BACKUP_FOLDER, name));
  for (const outdated of outdatedBackups(listBackups(dataFolder)))
    if (outdated.name !== spared) rmSync(join(dataFolder, BACKUP_FOLDER, outdated.name), { force: true });
  return name;
}

/** A backup never takes the place of another. */
function freeName(dataFolder: string, now: Date, reason: BackupReason): string {
  for (let at = now.getTime(); ; at++) {
    const name = backupName(new Date(at), reason);
    if (!existsSync(join(dataFolder, BACKUP_FOLDER, name))) return name;
  }
}
