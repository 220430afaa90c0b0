import { join } from 'node:path';
import { LONGEST_PASSWORD, PASSWORD_WORDS, SHORTEST_PASSWORD } from '@anchorbeat/contract';
import SqliteDatabase from 'better-sqlite3';
import { DATABASE_NAME, DataFolderError, heldFolder, inspectDatabase } from '../database/dataFolder.ts';
import { MIGRATION_NAMES } from '../database/dataSource.ts';
import { nameKey } from './accounts.service.ts';
import { hashedPassword } from './passwords.ts';

/**
 * Gives an account of a data folder that no server holds another password, and signs it out everywhere: for who forgot theirs.
 * @throws DataFolderError where nobody signs in by that name, the password is too short, or a server is running.
 */
export async function setPasswordInFolder(dataFolder: string, name: string, password: string): Promise<void> {
  if (password.length < SHORTEST_PASSWORD || password.length > LONGEST_PASSWORD)
    throw new DataFolderError(`${PASSWORD_WORDS}. Nothing was changed`);
  const held = heldFolder(dataFolder);
  try {
    if (inspectDatabase(dataFolder, MIGRATION_NAMES).isNew)
      throw new DataFolderError(`There is no database in ${dataFolder}: name its folder with --data`);
    const passwordHash = await hashedPassword(password);
    const database = new SqliteDatabase(join(dataFolder, DATABASE_NAME));
    try {
      database.transaction(() => {
        const known = database
          .prepare('SELECT id, name FROM accounts WHERE password_hash IS NOT NULL ORDER BY name')
          .all() as ReadonlyArray<{ readonly id: string; readonly name: string }>;
        const account = known.find((one) => one.name === nameKey(name));
        if (!account) throw new DataFolderError(nobodyOf(name, known));
        database.prepare('UPDATE accounts SET password_hash = ? WHERE id = ?').run(passwordHash, account.id);
        database.prepare('DELETE FROM sign_ins WHERE account_id = ?').run(account.id);
      })();
    } finally {
      database.close();
    }
  } finally {
    held.release();
  }
}

function nobodyOf(name: string, known: ReadonlyArray<{ readonly name: string }>): string {
  if (known.length === 0)
    return 'Nobody has an account here yet: start the server and open it at this machine';
  return `Nobody signs in as "${name}" here, but ${known.map((one) => one.name).join(', ')}`;
}
