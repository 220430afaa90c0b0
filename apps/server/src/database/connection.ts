import { Mutex } from 'async-mutex';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import SqliteDatabase, { type Database } from 'better-sqlite3';
import type { DataSource, EntityManager } from 'typeorm';
import { unavailable } from '../problems/problemException.ts';

/** The driver's own handle of the one connection that writes. */
function writingHandle(dataSource: DataSource): Database {
  return (dataSource.driver as unknown as { databaseConnection: Database }).databaseConnection;
}

/**
 * Writes one transaction after another. SQLite's driver has a single connection, on which two transactions started at once
 * would end up inside each other; and after a failed write SQLite may have rolled back by itself, so that what state the
 * connection is in is asked of the driver, never assumed.
 */
@Injectable()
export class SerialWriter implements OnApplicationShutdown {
  private readonly logger = new Logger('Writer');
  private readonly turn = new Mutex();
  private reader: Database | null = null;

  constructor(@InjectDataSource() private readonly dataSource: DataSource) {}

  /**
   * The result of `work`, once everything it wrote is on the disk and another connection sees it; on an error nothing of it
   * is. `work` must not begin a transaction of its own.
   */
  run<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.turn.runExclusive(() => this.inTransaction(work));
  }

  /** Work on the driver's own handle while nobody else writes; it sees to its own transaction. */
  alone<T>(work: (handle: Database) => Promise<T>): Promise<T> {
    return this.turn.runExclusive(() => {
      const handle = writingHandle(this.dataSource);
      this.rollBackWhatIsOpen(handle);
      return work(handle);
    });
  }

  onApplicationShutdown(): void {
    this.reader?.close();
  }

  private async inTransaction<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const handle = writingHandle(this.dataSource);
    this.rollBackWhatIsOpen(handle);
    const changes = totalChanges(handle);
    handle.exec('BEGIN IMMEDIATE');
    try {
      const result = await work(this.dataSource.manager);
      if (!handle.inTransaction) throw new Error('the transaction was over before it was committed');
      const mark = totalChanges(handle) > changes ? nextMark(handle) : null;
      handle.exec('COMMIT');
      if (mark !== null && this.markSeenByOthers(handle) !== mark)
        throw new Error('a commit was reported that no other connection sees');
      return result;
    } catch (error) {
      this.rollBackWhatIsOpen(handle);
      throw error;
    }
  }

  /** Brings the connection back to where nothing is open; where that fails nothing may be written any more. */
  private rollBackWhatIsOpen(handle: Database): void {
    if (!handle.inTransaction) return;
    try {
      handle.exec('ROLLBACK');
    } catch (error) {
      this.logger.error(error);
    }
    if (handle.inTransaction)
      throw unavailable(
        'The database is in a state it does not come out of; stop the server and start it again',
      );
  }

  private markSeenByOthers(handle: Database): number {
    this.reader ??= new SqliteDatabase(handle.name, { readonly: true, fileMustExist: true });
    return markOf(this.reader);
  }
}

const MOST_MARKS = 2 ** 31;

/**
 * Marks the open transaction by counting SQLite's `user_version`, which is committed and rolled back with it. Its
 * `data_version` would not do: rows written as they already were change no page, and others see nothing new.
 */
function nextMark(handle: Database): number {
  const mark = (markOf(handle) + 1) % MOST_MARKS;
  handle.pragma(`user_version = ${mark}`);
  return mark;
}

function markOf(handle: Database): number {
  return handle.pragma('user_version', { simple: true }) as number;
}

function totalChanges(handle: Database): number {
  return (handle.prepare('SELECT total_changes() AS changes').get() as { changes: number }).changes;
}
