import { randomUUID } from 'node:crypto';
import {
  closeSync,
  copyFileSync,
  fstatSync,
  mkdtempSync,
  openSync,
  readdirSync,
  rmSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from '@jest/globals';
import type {
  BackupResponse,
  EnsembleResponse,
  PieceResponse,
  ProblemDocument,
  RevisionResponse,
} from '@anchorbeat/contract';
import Database from 'better-sqlite3';
import { documentOf } from '../test/documentOf.ts';
import { refusedStart, startTestServer, type TestServer } from '../test/testServer.ts';
import { backupName, outdatedBackups, type BackupFile, type BackupReason } from './backupFiles.ts';
import { backUp, copyDatabase } from './copyDatabase.ts';
import { restoreFolder } from './restoreDatabase.ts';

const DAY_MS = 86_400_000;
const START = Date.UTC(2026, 0, 5, 3);

function backupAt(daysAfter: number, reason: BackupReason = 'daily'): BackupFile {
  const madeAt = new Date(START + daysAfter * DAY_MS);
  return { name: backupName(madeAt, reason), madeAt, reason, bytes: 1 };
}

test('after two years of days, seven days, four weeks and twelve months are kept, letting go day by day', () => {
  let kept: readonly BackupFile[] = [];
  for (let day = 0; day < 730; day++) {
    const now = [...kept, backupAt(day)];
    const gone = new Set(outdatedBackups(now));
    kept = now.filter((backup) => !gone.has(backup));
  }
  const ages = kept.map(({ madeAt }) => 729 - (madeAt.getTime() - START) / DAY_MS).sort((a, b) => a - b);
  expect(ages.slice(0, 7)).toEqual([0, 1, 2, 3, 4, 5, 6]);
  expect(ages.length).toBeGreaterThanOrEqual(7 + 2 + 9);
  expect(ages.length).toBeLessThanOrEqual(7 + 4 + 12);
  expect(Math.max(...ages)).toBeGreaterThan(300);
  expect(Math.max(...ages)).toBeLessThan(400);
});

test('those made by hand or before a change do not push out the daily ones, and ten of them stay', () => {
  const others = Array.from({ length: 14 }, (_, at) =>
    backupAt(at / 10, at % 2 ? 'by-hand' : 'before-restore'),
  );
  const gone = outdatedBackups([backupAt(0), ...others]);
  expect(gone).toHaveLength(4);
  expect(gone.every(({ reason }) => reason !== 'daily')).toBe(true);
});

const detailOf = ({ text }: { text: string }) => (JSON.parse(text) as ProblemDocument).detail;

describe('a server and its data', () => {
  const servers: TestServer[] = [];
  const folders: string[] = [];
  const start = async (dataFolder?: string) => {
    const server = await startTestServer(dataFolder === undefined ? {} : { dataFolder });
    servers.push(server);
    return server;
  };
  const newFolder = () => {
    const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-backup-'));
    folders.push(folder);
    return folder;
  };
  afterEach(async () => {
    for (const server of servers.splice(0)) await server.close();
    for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
  });

  const makePiece = async ({ http }: TestServer, title: string) => {
    const [ensemble] = (await http.get('/api/ensembles')).body as EnsembleResponse[];
    const id = randomUUID();
    await http
      .post('/api/pieces')
      .send({ id, ensembleId: ensemble!.id, piece: documentOf(title) })
      .expect(201);
    return id;
  };
  const titles = async ({ http }: TestServer) =>
    ((await http.get('/api/pieces').expect(200)).body as PieceResponse[])
      .map(({ piece }) => piece.title)
      .sort();

  test('a copy made in the middle of a burst of saves is whole', async () => {
    const server = await start();
    const id = await makePiece(server, 'Burst');
    let isOver = false;
    const burst = (async () => {
      for (let revision = 1; !isOver; revision++)
        await server.http
          .post(`/api/pieces/${id}/revisions`)
          .send({ id: randomUUID(), basedOnRevision: revision, piece: documentOf(`Title ${revision}`) });
    })();
    const target = join(newFolder(), 'copy.sqlite');
    for (let round = 0; round < 5; round++) {
      await copyDatabase(join(server.dataFolder, 'anchorbeat.sqlite'), target);
      const copy = new Database(target, { readonly: true });
      expect(copy.pragma('integrity_check', { simple: true })).toBe('ok');
      const { most, count } = copy
        .prepare('SELECT max(revision) AS most, count(*) AS count FROM revisions WHERE piece_id = ?')
        .get(id) as { most: number; count: number };
      expect(most).toBe(count);
      copy.close();
    }
    isOver = true;
    await burst;
  });

  test('one is made by itself, more by hand; going back keeps what was there as a backup', async () => {
    const server = await start();
    await makePiece(server, 'Old');
    const made = (await server.http.post('/api/backups').expect(201)).body as BackupResponse[];
    expect(made.map(({ reason }) => reason).sort()).toEqual(['by-hand', 'daily']);
    await makePiece(server, 'New');
    const name = made.find(({ reason }) => reason === 'by-hand')!.name;
    const after = (await server.http.post(`/api/backups/${name}/restore`).expect(200))
      .body as BackupResponse[];
    expect(await titles(server)).toEqual(['Old']);
    const before = after.find(({ reason }) => reason === 'before-restore')!;
    await server.http.post(`/api/backups/${before.name}/restore`).expect(200);
    expect(await titles(server)).toEqual(['New', 'Old']);
    await makePiece(server, 'After');
    expect(await titles(server)).toEqual(['After', 'New', 'Old']);
    await server.http.post('/api/backups/..%2f..%2fanchorbeat.sqlite/restore').expect(404);
  });

  test('the oldest that is kept can be gone back to, and is still there afterwards', async () => {
    const server = await start();
    await makePiece(server, 'First');
    const oldest = await backUp(server.dataFolder, 'by-hand');
    await makePiece(server, 'Later');
    for (let each = 1; each < 10; each++) await backUp(server.dataFolder, 'by-hand');
    const { body } = await server.http.post(`/api/backups/${oldest}/restore`).expect(200);
    expect((body as BackupResponse[]).map(({ name }) => name)).toContain(oldest);
    expect(await titles(server)).toEqual(['First']);
  });

  test('what was acknowledged while a backup was gone back to is in it, or in what was kept', async () => {
    const server = await start();
    const name = await backUp(server.dataFolder, 'by-hand');
    const wanted = Array.from({ length: 40 }, (_, at) => `During ${at}`);
    const [{ body }] = await Promise.all([
      server.http.post(`/api/backups/${name}/restore`).expect(200),
      ...wanted.map((title) => makePiece(server, title)),
    ]);
    const now = await titles(server);
    const before = (body as BackupResponse[]).find(({ reason }) => reason === 'before-restore')!;
    await server.http.post(`/api/backups/${before.name}/restore`).expect(200);
    expect([...new Set([...now, ...(await titles(server))])].sort()).toEqual([...wanted].sort());
  });

  test('from the command line a backup comes back into the folder, also in place of a damaged database', async () => {
    const server = await start();
    await makePiece(server, 'Kept');
    const name = await backUp(server.dataFolder, 'by-hand');
    await expect(restoreFolder(server.dataFolder, join(server.dataFolder, 'backups', name))).rejects.toThrow(
      'Another Anchorbeat is running',
    );
    await server.kill();
    const database = join(server.dataFolder, 'anchorbeat.sqlite');
    for (const ending of ['-wal', '-shm']) rmSync(`${database}${ending}`, { force: true });
    writeFileSync(database, Buffer.alloc(20_000, 7));
    expect(await refusedStart(server.dataFolder)).toMatch(/damaged[\s\S]*newest backup is .*by-hand/);
    await restoreFolder(server.dataFolder, join(server.dataFolder, 'backups', name));
    const again = await start(server.dataFolder);
    expect(await titles(again)).toEqual(['Kept']);
  });

  test.each(['while it runs', 'from the command line'])(
    'brought back %s, a piece goes on with a number of its own: no window takes one revision for another',
    async (how) => {
      let server = await start();
      const id = await makePiece(server, 'One');
      const save = (basedOnRevision: number, title: string) =>
        server.http
          .post(`/api/pieces/${id}/revisions`)
          .send({ id: randomUUID(), basedOnRevision, piece: documentOf(title) });
      await save(1, 'Two').expect(201);
      const name = await backUp(server.dataFolder, 'by-hand');
      await save(2, 'Three').expect(201);
      if (how === 'while it runs') await server.http.post(`/api/backups/${name}/restore`).expect(200);
      else {
        await server.stop();
        await restoreFolder(server.dataFolder, join(server.dataFolder, 'backups', name));
        server = await start(server.dataFolder);
      }
      const read = async () => (await server.http.get(`/api/pieces/${id}`)).body as PieceResponse;
      expect(await read()).toMatchObject({ revision: 4, piece: { title: 'Two' } });
      const gone = await save(3, 'Grown from three').expect(409);
      expect(JSON.parse(gone.text)).toMatchObject({ currentRevision: 4, isBaseGone: true });
      const stale = await save(2, 'Grown from two').expect(409);
      expect(JSON.parse(stale.text)).toMatchObject({ currentRevision: 4, isBaseGone: false });
      await save(4, 'After').expect(201);
      const listed = (await server.http.get(`/api/pieces/${id}/revisions`)).body as RevisionResponse[];
      expect(listed.map(({ revision }) => revision)).toEqual([5, 4, 2, 1]);
      expect(listed[1]?.edits).toEqual(['Brought back from a backup, as it was at revision 2']);
    },
  );

  test('damage that comes while it runs is told with the way back, by what reads it and by health', async () => {
    const server = await start();
    for (let each = 0; each < 30; each++) await makePiece(server, `Piece ${each} ${'x'.repeat(100)}`);
    const name = await backUp(server.dataFolder, 'by-hand');
    await server.http.get('/api/health').expect(200);
    const database = new Database(join(server.dataFolder, 'anchorbeat.sqlite'));
    database.pragma('wal_checkpoint(TRUNCATE)');
    database.close();
    const file = openSync(join(server.dataFolder, 'anchorbeat.sqlite'), 'r+');
    const { size } = fstatSync(file);
    for (let page = 2; page * 4096 < size; page++)
      writeSync(file, Buffer.alloc(4000, 0xa5), 0, 4000, page * 4096);
    closeSync(file);
    const made = await server.http.post('/api/backups').expect(500);
    expect(detailOf(made)).toContain(name);
    const health = await server.stranger.get('/api/health').expect(503);
    expect(health.text).toContain(name);
    const read = await server.http.get('/api/pieces');
    if (read.status !== 200) expect(detailOf(read)).toContain(name);
    const files = readdirSync(join(server.dataFolder, 'backups'));
    expect(files.filter((each) => each.endsWith('.part'))).toEqual([]);
  });

  test('a second server on one folder is told, and the first goes on', async () => {
    const server = await start();
    expect(await refusedStart(server.dataFolder)).toContain('Another Anchorbeat is running');
    await server.http.get('/api/health').expect(200);
    await server.kill();
    await (await start(server.dataFolder)).http.get('/api/health').expect(200);
  });

  test('an empty file where a database was is not filled anew', async () => {
    const server = await start();
    await makePiece(server, 'Here');
    await server.stop();
    const database = join(server.dataFolder, 'anchorbeat.sqlite');
    truncateSync(database, 0);
    expect(await refusedStart(server.dataFolder)).toMatch(/empty or gone[\s\S]*newest backup/);
    rmSync(database);
    expect(await refusedStart(server.dataFolder)).toContain('there was one here');
  });

  test('a database of a newer program is left alone', async () => {
    const server = await start();
    await server.stop();
    const database = new Database(join(server.dataFolder, 'anchorbeat.sqlite'));
    database
      .prepare('INSERT INTO migrations (timestamp, name) VALUES (?, ?)')
      .run(2e12, 'Later2000000000000');
    database.close();
    expect(await refusedStart(server.dataFolder)).toContain('made by a newer Anchorbeat');
  });

  test('before an older database is brought up to date it is copied', async () => {
    const server = await start();
    await makePiece(server, 'Older');
    await server.stop();
    const database = new Database(join(server.dataFolder, 'anchorbeat.sqlite'));
    database.exec(`DROP TABLE health; DELETE FROM migrations WHERE name LIKE 'Health%'`);
    database.close();
    const again = await start(server.dataFolder);
    expect(await titles(again)).toEqual(['Older']);
    const backups = (await again.http.get('/api/backups')).body as BackupResponse[];
    expect(backups.map(({ reason }) => reason)).toContain('before-migration');
  });

  test('what is no database is not brought back', async () => {
    const folder = newFolder();
    const server = await start();
    await makePiece(server, 'Safe');
    await server.stop();
    const none = join(folder, 'none.sqlite');
    writeFileSync(none, 'not a database at all');
    await expect(restoreFolder(server.dataFolder, none)).rejects.toThrow(
      'no backup that can be brought back',
    );
    const bare = new Database(join(folder, 'bare.sqlite'));
    bare.exec('CREATE TABLE something (else_ TEXT)');
    bare.close();
    await expect(restoreFolder(server.dataFolder, join(folder, 'bare.sqlite'))).rejects.toThrow(
      'never kept anything',
    );
    copyFileSync(join(server.dataFolder, 'anchorbeat.sqlite'), join(folder, 'half.sqlite'));
    truncateSync(join(folder, 'half.sqlite'), 5000);
    await expect(restoreFolder(server.dataFolder, join(folder, 'half.sqlite'))).rejects.toThrow();
    expect(await titles(await start(server.dataFolder))).toEqual(['Safe']);
  });
});
