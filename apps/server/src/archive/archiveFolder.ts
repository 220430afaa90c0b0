import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import type { ArchivePreview } from '@anchorbeat/contract';
import SqliteDatabase from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { backUp } from '../backup/copyDatabase.ts';
import {
  DATABASE_NAME,
  DataFolderError,
  heldFolder,
  inspectDatabase,
  markFolder,
} from '../database/dataFolder.ts';
import { dataSourceOptions, MIGRATION_NAMES } from '../database/dataSource.ts';
import { planRestore } from './planRestore.ts';
import { readArchive } from './readArchive.ts';
import { restoreArchive } from './restoreArchive.ts';
import { ArchiveError } from './unpackArchive.ts';
import { writeArchive } from './writeArchive.ts';

/** On the command line an archive may be as large as memory takes. */
const MOST_UNPACKED_BYTES = 2 * 1024 * 1024 * 1024;

/**
 * The archive of an ensemble of a data folder, part by part, also while a server runs on it.
 * @param name of the ensemble; null for the only one there is.
 * @throws DataFolderError where there is no such ensemble, or it has to be said which.
 */
export function archiveOfFolder(dataFolder: string, name: string | null): Iterable<Uint8Array<ArrayBuffer>> {
  const file = join(dataFolder, DATABASE_NAME);
  if (!existsSync(file))
    throw new DataFolderError(`There is no database in ${dataFolder}: name its folder with --data`);
  const database = new SqliteDatabase(file, { readonly: true });
  const ensembles = database.prepare('SELECT id, name FROM ensembles ORDER BY name').all() as ReadonlyArray<{
    readonly id: string;
    readonly name: string;
  }>;
  database.close();
  const found = ensembles.filter((one) => name === null || one.name.toLowerCase() === name.toLowerCase());
  const [only] = found;
  if (only && found.length === 1) return writeArchive(file, only.id, new Date());
  const names = ensembles.map((one) => one.name).join(', ');
  throw new DataFolderError(
    name === null
      ? `There are several ensembles here (${names}): say which with --ensemble NAME`
      : `There is no ensemble "${name}" here, but ${names}`,
  );
}

/** Whether a file is an archive rather than a backup. */
export function isArchiveFile(file: string): boolean {
  return (
    (statSync(file, { throwIfNoEntry: false })?.size ?? 0) > 1 &&
    /^PK/.test(readFileSync(file, 'latin1').slice(0, 2))
  );
}

/**
 * Brings an archive back into a data folder that no server holds, which may be new; or only says what would change.
 * @throws DataFolderError where the archive is refused, or a server is running.
 */
export async function restoreArchiveFolder(
  dataFolder: string,
  file: string,
  { isForReal }: { readonly isForReal: boolean },
): Promise<ArchivePreview> {
  const archive = read(file);
  const isNew = !existsSync(join(dataFolder, DATABASE_NAME));
  // What would change in a new folder is tried in one that goes again.
  const folder = isForReal || !isNew ? dataFolder : mkdtempSync(join(tmpdir(), 'anchorbeat-archive-'));
  mkdirSync(folder, { recursive: true });
  const held = heldFolder(folder);
  try {
    const { isNew: isEmpty, pendingMigrations } = inspectDatabase(folder, MIGRATION_NAMES);
    if (!isEmpty && pendingMigrations > 0 && !isForReal)
      throw new DataFolderError(
        `The data in ${folder} is of an older Anchorbeat: start this one on it first`,
      );
    if (!isEmpty && isForReal) await backUp(folder, 'before-restore', basename(file));
    const source = await new DataSource(dataSourceOptions(join(folder, DATABASE_NAME))).initialize();
    await source.destroy();
    const database = new SqliteDatabase(join(folder, DATABASE_NAME));
    try {
      database.pragma('foreign_keys = ON');
      if (!isForReal) return planRestore(database, archive).preview;
      const done = restoreArchive(database, archive, { digest: null, leaderId: null });
      markFolder(folder);
      return done;
    } finally {
      database.close();
    }
  } finally {
    held.release();
    if (folder !== dataFolder) rmSync(folder, { recursive: true, force: true });
  }
}

function read(file: string) {
  if (!existsSync(file)) throw new DataFolderError(`There is no file ${file}`);
  try {
    return readArchive(readFileSync(file), MOST_UNPACKED_BYTES);
  } catch (error) {
    if (error instanceof ArchiveError) throw new DataFolderError(`${basename(file)}: ${error.message}`);
    throw error;
  }
}
