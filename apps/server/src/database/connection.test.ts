import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import SqliteDatabase, { type Database } from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { sqliteCodeMaybe, sqliteProblemMaybe } from '../problems/sqliteProblem.ts';
import { SerialWriter } from './connection.ts';
import { dataSourceOptions } from './dataSource.ts';
import { EnsembleEntity } from './entities.ts';

const ensemble = (id: string, name = id) => ({ id, name, place: 'x'.repeat(3000), sections: [] });

describe('the writer', () => {
  let folder: string;
  let dataSource: DataSource;
  let handle: Database;
  let writer: SerialWriter;

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'anchorbeat-writer-'));
    dataSource = new DataSource(dataSourceOptions(join(folder, 'anchorbeat.sqlite')));
    await dataSource.initialize();
    writer = new SerialWriter(dataSource);
    handle = await writer.alone((own) => Promise.resolve(own));
  });
  afterEach(async () => {
    writer.onApplicationShutdown();
    await dataSource.destroy();
    rmSync(folder, { recursive: true, force: true });
  });

  const keep = (id: string) => writer.run((manager) => manager.insert(EnsembleEntity, ensemble(id)));
  /** What another program sees. */
  const seen = () => {
    const other = new SqliteDatabase(join(folder, 'anchorbeat.sqlite'), { readonly: true });
    const ids = other.prepare('SELECT id FROM ensembles ORDER BY id').pluck().all();
    other.close();
    return ids;
  };

  test('a full database refuses, and what is kept after there is room again is kept', async () => {
    const pages = handle.pragma('page_count', { simple: true }) as number;
    handle.pragma(`max_page_count = ${pages + 6}`);
    const kept: string[] = [];
    let code: string | null = null;
    for (let at = 0; at < 40; at++) {
      const id = `e${String(at).padStart(2, '0')}`;
      if (at === 20) handle.pragma('max_page_count = 100000');
      await keep(id).then(
        () => kept.push(id),
        (error: unknown) => (code = sqliteCodeMaybe(error)),
      );
      expect(handle.inTransaction).toBe(false);
    }
    expect(code).toBe('SQLITE_FULL');
    expect(kept.length).toBeGreaterThan(20);
    expect(kept.length).toBeLessThan(40);
    expect(seen()).toEqual(kept);
  });

  test('of work that fails half-way nothing is kept, and the next is', async () => {
    const half = writer.run(async (manager) => {
      await manager.insert(EnsembleEntity, ensemble('half'));
      throw new Error('half-way');
    });
    await expect(half).rejects.toThrow('half-way');
    await keep('next');
    expect(seen()).toEqual(['next']);
  });

  test('what is written again just as it was is acknowledged too', async () => {
    await keep('same');
    const again = () =>
      writer.run((manager) => manager.update(EnsembleEntity, { id: 'same' }, ensemble('same')));
    expect(await again()).toMatchObject({ affected: 1 });
    expect(await again()).toMatchObject({ affected: 1 });
    expect(seen()).toEqual(['same']);
  });

  test('a transaction that somebody left open is rolled back before the next', async () => {
    handle.exec('BEGIN');
    handle.prepare('INSERT INTO ensembles VALUES (?, ?, ?, ?, ?)').run('left', 'left', '', '[]', 'quarter');
    await keep('next');
    expect(seen()).toEqual(['next']);
  });

  test('work that closes the transaction under itself is told, not acknowledged', async () => {
    const closed = writer.run(async (manager) => {
      await manager.insert(EnsembleEntity, ensemble('closed'));
      handle.exec('ROLLBACK');
    });
    await expect(closed).rejects.toThrow('over before it was committed');
    expect(seen()).toEqual([]);
  });

  test('a hundred at once follow one another', async () => {
    await Promise.all(Array.from({ length: 100 }, (_, at) => keep(String(at).padStart(3, '0'))));
    expect(seen()).toHaveLength(100);
  });

  test('a database that another program holds is busy, not broken', async () => {
    handle.pragma('busy_timeout = 20');
    const other = new SqliteDatabase(join(folder, 'anchorbeat.sqlite'));
    other.exec('BEGIN IMMEDIATE');
    const error: unknown = await keep('held').then(
      () => null,
      (reason: unknown) => reason,
    );
    expect(sqliteProblemMaybe(error)).toMatchObject({ status: 503, retryAfterSeconds: 2 });
    other.exec('ROLLBACK');
    other.close();
    await keep('free');
    expect(seen()).toEqual(['free']);
  });
});

test.each([
  ['SQLITE_FULL', 507],
  ['SQLITE_IOERR_WRITE', 507],
  ['SQLITE_BUSY_SNAPSHOT', 503],
  ['SQLITE_READONLY', 503],
  ['SQLITE_CORRUPT_INDEX', 500],
  ['SQLITE_NOTADB', 500],
])('%s is told as %i, also inside an error of the database layer', (code, status) => {
  expect(sqliteProblemMaybe({ code })?.status).toBe(status);
  expect(sqliteProblemMaybe({ driverError: { code } })?.status).toBe(status);
});

test('what is no error of the database is not told as one', () => {
  expect([sqliteProblemMaybe(new Error('x')), sqliteProblemMaybe({ code: 'SQLITE_CONSTRAINT' })]).toEqual([
    null,
    null,
  ]);
});
