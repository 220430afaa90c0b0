import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { DataSource, EntityManager } from 'typeorm';

/**
 * Runs transactions one after another. SQLite's driver has a single connection, on which two
 * transactions started at once would end up inside each other.
 */
@Injectable()
export class SerialWriter {
  private last: Promise<unknown> = Promise.resolve();

  constructor(@InjectDataSource() private readonly dataSource: DataSource) {}

  /** The result of `work`, once everything it wrote is on the disk; on an error nothing of it is. */
  run<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const result = this.last.then(() => this.dataSource.transaction(work));
    this.last = result.catch(() => undefined);
    return result;
  }
}
