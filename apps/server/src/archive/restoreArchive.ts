import type { ArchivePreview } from '@anchorbeat/contract';
import type { Database } from 'better-sqlite3';
import { ARCHIVE_TABLES, type Archive } from './archiveRows.ts';
import { planRestore, type RestorePlan } from './planRestore.ts';
import { ArchiveError } from './unpackArchive.ts';

export interface RestoreOrder {
  /** Of the preview that was looked at; refused where it would be another by now. Null takes it as it is. */
  readonly digest: string | null;
  /** Who directs an ensemble that was not here; null for whoever directs one here already. */
  readonly leaderId: string | null;
}

/**
 * Brings an archive back in one transaction of its own: all of it or, where anything fails or the power goes, nothing.
 * @throws ArchiveError where it would do something else than was looked at.
 */
export function restoreArchive(database: Database, archive: Archive, order: RestoreOrder): ArchivePreview {
  database.exec('BEGIN IMMEDIATE');
  try {
    const plan = planRestore(database, archive);
    if (order.digest !== null && plan.preview.digest !== order.digest)
      throw new ArchiveError('Something has changed here since this archive was looked at: look at it again');
    putIn(database, archive, plan, order.leaderId);
    database.exec('COMMIT');
    return plan.preview;
  } catch (error) {
    if (database.inTransaction) database.exec('ROLLBACK');
    throw error;
  }
}

function putIn(
  database: Database,
  { ensemble }: Archive,
  { isNewEnsemble, sections, rows }: RestorePlan,
  leaderId: string | null,
): void {
  const { id, name, place, noteNames = 'quarter' } = ensemble;
  if (isNewEnsemble) {
    database
      .prepare('INSERT INTO ensembles (id, name, place, sections, note_names) VALUES (?, ?, ?, ?, ?)')
      .run(id, name, place, JSON.stringify(sections), noteNames);
    const leaders = leaderId === null ? directors(database) : [leaderId];
    const join = database.prepare(
      `INSERT INTO members (ensemble_id, account_id, role) VALUES (?, ?, 'director')`,
    );
    for (const leader of leaders) join.run(id, leader);
  } else
    database
      .prepare('UPDATE ensembles SET sections = ? WHERE id = ? AND sections <> ?')
      .run(JSON.stringify(sections), id, JSON.stringify(sections));
  const inserts = new Map(
    (Object.keys(ARCHIVE_TABLES) as Array<keyof typeof ARCHIVE_TABLES>).map((table) => [
      table,
      insertInto(database, table, id),
    ]),
  );
  for (const { table, row } of rows) inserts.get(table)?.(row);
}

/** Puts a row into a table; what belongs to the ensemble itself is given to it. */
function insertInto(
  database: Database,
  table: keyof typeof ARCHIVE_TABLES,
  ensembleId: string,
): (row: RestorePlan['rows'][number]['row']) => void {
  const isOwned = table === 'pieces' || table === 'dates';
  const columns: readonly string[] = [...ARCHIVE_TABLES[table], ...(isOwned ? ['ensemble_id'] : [])];
  const statement = database.prepare(
    `INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
  );
  return (row) => {
    statement.run(
      ...columns.map((column) => (column === 'ensemble_id' ? ensembleId : (row[column] ?? null))),
    );
  };
}

function directors(database: Database): readonly string[] {
  const rows = database.prepare(`SELECT DISTINCT account_id FROM members WHERE role = 'director'`).all();
  return (rows as Array<{ account_id: string }>).map(({ account_id }) => account_id);
}
