import { createHash, randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ArchivePreview, EnsembleResponse, PieceResponse } from '@anchorbeat/contract';
import { seededRandom } from '@anchorbeat/core';
import Database from 'better-sqlite3';
import { unzipSync, zipSync } from 'fflate';
import request from 'supertest';
import { ledServer, newEnsemble, signedInAs, PASSWORD } from '../test/people.ts';
import { startTestServer, type TestServer } from '../test/testServer.ts';
import { restoreArchiveFolder } from './archiveFolder.ts';
import { ARCHIVE_TABLES, CHECKSUMS_NAME, MANIFEST_NAME, type Archive } from './archiveRows.ts';
import { planRestore } from './planRestore.ts';
import { readArchive } from './readArchive.ts';
import { restoreArchive } from './restoreArchive.ts';
import { ArchiveError } from './unpackArchive.ts';
import { writeArchive } from './writeArchive.ts';

const folders: string[] = [];
const newFolder = () => {
  const folder = mkdtempSync(join(tmpdir(), 'anchorbeat-archive-test-'));
  folders.push(folder);
  return folder;
};
afterAll(() => {
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

const databaseIn = (folder: string) => join(folder, 'anchorbeat.sqlite');

/** Every row of the tables that an archive has, of all ensembles, as they lie there. */
function rowsIn(folder: string): Record<string, unknown[]> {
  const database = new Database(databaseIn(folder), { readonly: true });
  const tables = ['ensembles', ...Object.keys(ARCHIVE_TABLES)];
  const rows = tables.map((table) => [table, database.prepare(`SELECT * FROM ${table} ORDER BY id`).all()]);
  database.close();
  return Object.fromEntries(rows) as Record<string, unknown[]>;
}

function archiveOf(folder: string, ensembleId: string): Buffer {
  return Buffer.concat([...writeArchive(databaseIn(folder), ensembleId, new Date('2026-03-01T10:00:00Z'))]);
}

/**
 * The demo with five hundred saved states of its first piece, a drill and a date that were taken away; `small` is its archive
 * before that.
 */
async function demoFolder(): Promise<{ folder: string; ensembleId: string; pieceId: string; small: Buffer }> {
  const folder = newFolder();
  const server = await startTestServer({ demo: true, dataFolder: folder });
  await server.stop();
  const database = new Database(databaseIn(folder));
  const piece = database.prepare('SELECT * FROM pieces ORDER BY shelf_order').get() as {
    id: string;
    ensemble_id: string;
  };
  const small = archiveOf(folder, piece.ensemble_id);
  const first = database.prepare('SELECT document FROM revisions WHERE piece_id = ?').get(piece.id) as {
    document: string;
  };
  const insert = database.prepare('INSERT INTO revisions VALUES (?, ?, ?, ?, ?, ?)');
  for (let revision = 2; revision <= 500; revision++) {
    const document = { ...(JSON.parse(first.document) as object), title: `Slack Water ${revision}` };
    const edits = JSON.stringify([`Title: „${revision}“`]);
    const at = new Date(1_790_000_000_000 + revision * 1000).toISOString();
    insert.run(randomUUID(), piece.id, revision, at, JSON.stringify(document), edits);
  }
  database.exec(`UPDATE ensembles SET note_names = 'crotchet'`);
  database.exec(`UPDATE drills SET deleted_at = '2026-01-02T03:04:05.000Z' WHERE rowid = 1`);
  database.exec(`UPDATE dates SET deleted_at = '2026-01-02T03:04:05.000Z' WHERE rowid = 1`);
  database.close();
  return { folder, ensembleId: piece.ensemble_id, pieceId: piece.id, small };
}

let demo: Awaited<ReturnType<typeof demoFolder>>;
let archive: Buffer;
beforeAll(async () => {
  demo = await demoFolder();
  archive = archiveOf(demo.folder, demo.ensembleId);
});

/** The files of an archive changed and packed anew, with the check sums that belong to them. */
function repacked(change: (files: Record<string, string>) => void): Buffer {
  const files = Object.fromEntries(
    Object.entries(unzipSync(archive)).map(([name, bytes]) => [name, Buffer.from(bytes).toString()]),
  );
  change(files);
  delete files[CHECKSUMS_NAME];
  files[CHECKSUMS_NAME] = Object.entries(files)
    .map(([name, text]) => `${createHash('sha256').update(text).digest('hex')}  ${name}\n`)
    .join('');
  return Buffer.from(
    zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, Buffer.from(text)]))),
  );
}

describe('an archive of the demo with five hundred saved states', () => {
  test('brought back into a new folder every row is as it was', async () => {
    const file = join(newFolder(), 'a.zip');
    writeFileSync(file, archive);
    const folder = newFolder();
    const looked = await restoreArchiveFolder(folder, file, { isForReal: false });
    expect(readdirSync(folder)).toEqual([]);
    const done = await restoreArchiveFolder(folder, file, { isForReal: true });
    expect(done).toEqual(looked);
    expect(rowsIn(folder)).toEqual(rowsIn(demo.folder));
    expect(rowsIn(folder)['revisions']).toHaveLength(504);
    const again = await restoreArchiveFolder(folder, file, { isForReal: true });
    expect(again.pieces.every(({ does }) => does === 'same')).toBe(true);
    expect(rowsIn(folder)).toEqual(rowsIn(demo.folder));
    expect(archiveOf(folder, demo.ensembleId).equals(archive)).toBe(true);
  });

  test('another program reads it, and its check sums hold', () => {
    const files = unzipSync(archive);
    const sums = Buffer.from(files[CHECKSUMS_NAME]!).toString().trim().split('\n');
    expect(sums).toHaveLength(Object.keys(files).length - 1);
    for (const line of sums) {
      const [sum, name] = line.split('  ');
      expect(createHash('sha256').update(files[name!]!).digest('hex')).toBe(sum);
    }
  });

  test.each<[string, (files: Record<string, string>) => void, RegExp]>([
    [
      'a newer one',
      (files) => (files[MANIFEST_NAME] = files[MANIFEST_NAME]!.replace('"version": 1', '"version": 2')),
      /newer Anchorbeat/,
    ],
    ['a foreign one', (files) => (files[MANIFEST_NAME] = '{"format":"other"}'), /no archive of Anchorbeat/],
    [
      'one that is nested too deep',
      (files) => (files[MANIFEST_NAME] = '['.repeat(9999)),
      /no archive of Anchorbeat/,
    ],
    [
      'a row too few',
      (files) => (files['runs.jsonl'] = files['runs.jsonl']!.split('\n').slice(1).join('\n')),
      /41 runs and should have 42/,
    ],
    ['a file too many', (files) => (files['../evil'] = 'x'), /does not belong/],
    [
      'a run that no request would be',
      (files) =>
        (files['runs.jsonl'] = files['runs.jsonl']!.replace(/\\"percent\\":\d+/, '\\"percent\\":9000')),
      /runs\.jsonl.*line 1: result is not right/,
    ],
    [
      'a drill of another piece',
      (files) =>
        (files['drills.jsonl'] = files['drills.jsonl']!.replace(
          /"piece_id":"[^"]+"/,
          `"piece_id":"${randomUUID()}"`,
        )),
      /line 1: piece_id/,
    ],
    ['the same piece twice', (files) => (files['pieces.jsonl'] += files['pieces.jsonl']!), /a second time/],
    [
      'a state that is no piece',
      (files) =>
        (files[`revisions/${demo.pieceId}.jsonl`] = files[`revisions/${demo.pieceId}.jsonl`]!.replace(
          '\\"meter\\":\\"',
          '\\"meter\\":\\"x',
        )),
      /revision 1 is no piece/,
    ],
    [
      'a state that is missing',
      (files) =>
        (files[`revisions/${demo.pieceId}.jsonl`] = files[`revisions/${demo.pieceId}.jsonl`]!.replace(
          '"revision":7,',
          '"revision":8,',
        )),
      /revision 7 is missing/,
    ],
  ])('%s is refused, saying what is wrong', (_name, change, reason) => {
    expect(() => readArchive(repacked(change))).toThrow(reason);
  });

  test('packed anew by another program it is still the same', () => {
    expect(readArchive(repacked(() => undefined))).toEqual(readArchive(archive));
  });
});

describe('an archive that is damaged', () => {
  test('two hundred times damaged it is refused, with nothing of it taken', () => {
    const random = seededRandom(20_261_128);
    const at = (length: number) => Math.floor(random() * length);
    const damages: ReadonlyArray<(bytes: Buffer) => Buffer> = [
      (bytes) => {
        const damaged = Buffer.from(bytes);
        damaged[at(bytes.length)]! ^= 1 << at(8);
        return damaged;
      },
      (bytes) => bytes.subarray(0, at(bytes.length)),
      (bytes) => {
        const from = at(bytes.length - 400);
        return Buffer.concat([bytes.subarray(0, from), bytes.subarray(from + 1 + at(300))]);
      },
      (bytes) => {
        const from = at(bytes.length - 600);
        const damaged = Buffer.from(bytes);
        damaged.fill(0, from, from + 2 + at(500));
        return damaged;
      },
      (bytes) => Buffer.concat([bytes, Buffer.alloc(1 + at(40))]),
    ];
    for (let round = 0; round < 200; round++) {
      const damaged = damages[round % damages.length]!(demo.small);
      // What was zero already is no damage.
      if (damaged.equals(demo.small)) continue;
      expect(() => readArchive(damaged)).toThrow(ArchiveError);
    }
  });

  test('whatever bit of it is turned, it is called damaged, not something that nobody made', () => {
    const random = seededRandom(29);
    // Behind the mark of every zip, before what closes it.
    const [from, to] = [4, demo.small.length - 100];
    for (let round = 0; round < 60; round++) {
      const damaged = Buffer.from(demo.small);
      damaged[from + Math.floor(random() * (to - from))]! ^= 1 << Math.floor(random() * 8);
      expect(() => readArchive(damaged)).toThrow(/^This archive is damaged: /);
    }
  });
});

describe('an archive where the ensemble is already', () => {
  /** The demo once more, in a folder of its own, and its archive read. */
  async function twin(): Promise<{ database: Database.Database; archive: Archive }> {
    const file = join(newFolder(), 'a.zip');
    writeFileSync(file, archive);
    const folder = newFolder();
    await restoreArchiveFolder(folder, file, { isForReal: true });
    const database = new Database(databaseIn(folder));
    database.pragma('foreign_keys = ON');
    return { database, archive: readArchive(archive) };
  }

  test('a piece with fewer states here goes on, a run that is missing comes in, and what is here stays', async () => {
    const { database, archive: read } = await twin();
    database.prepare('DELETE FROM revisions WHERE piece_id = ? AND revision > 490').run(demo.pieceId);
    database.exec('DELETE FROM runs WHERE rowid = 5');
    database.exec(`UPDATE drills SET settings = json_set(settings, '$.name', 'Ours') WHERE rowid = 2`);
    const { preview } = planRestore(database, read);
    expect(preview.pieces[0]).toEqual({ title: 'Slack Water 500', does: 'goes on', revisions: 10 });
    expect([preview.runs, preview.drills]).toEqual([
      { new: 1, same: 41, kept: 0 },
      { new: 0, same: 2, kept: 1 },
    ]);
    restoreArchive(database, read, { digest: preview.digest, leaderId: null });
    const count = database.prepare('SELECT MAX(revision) FROM revisions WHERE piece_id = ?').pluck();
    expect(count.get(demo.pieceId)).toBe(500);
    expect(database.prepare(`SELECT settings FROM drills WHERE rowid = 2`).pluck().get()).toContain('Ours');
    database.close();
  });

  test('a piece that went on otherwise comes in beside, with its log, once', async () => {
    const { database, archive: read } = await twin();
    database.prepare('DELETE FROM revisions WHERE piece_id = ? AND revision > 490').run(demo.pieceId);
    database
      .prepare(
        'INSERT INTO revisions SELECT ?, piece_id, 491, saved_at, document, edits FROM revisions WHERE piece_id = ? AND revision = 490',
      )
      .run(randomUUID(), demo.pieceId);
    const here = database.prepare('SELECT * FROM revisions WHERE piece_id = ?').all(demo.pieceId);
    const { preview } = planRestore(database, read);
    expect(preview.pieces[0]).toEqual({ title: 'Slack Water 500', does: 'beside', revisions: 500 });
    restoreArchive(database, read, { digest: null, leaderId: null });
    expect(database.prepare('SELECT * FROM revisions WHERE piece_id = ?').all(demo.pieceId)).toEqual(here);
    expect(database.prepare('SELECT COUNT(*) FROM pieces').pluck().get()).toBe(6);
    expect(database.prepare('SELECT COUNT(*) FROM runs').pluck().get()).toBe(42 + preview.runs.new);
    expect(preview.runs.new).toBeGreaterThan(0);
    const again = restoreArchive(database, read, { digest: null, leaderId: null });
    expect(again.pieces.every(({ does }) => does === 'same')).toBe(true);
    expect(again.runs.new).toBe(0);
    database.close();
  });

  test('where something changed since it was looked at, nothing is done', async () => {
    const { database, archive: read } = await twin();
    database.exec('DELETE FROM runs WHERE rowid = 5');
    const { preview } = planRestore(database, read);
    database.exec('DELETE FROM runs WHERE rowid = 6');
    expect(() => restoreArchive(database, read, { digest: preview.digest, leaderId: null })).toThrow(
      /look at it again/,
    );
    expect(database.prepare('SELECT COUNT(*) FROM runs').pluck().get()).toBe(40);
    database.close();
  });
});

describe('over the API', () => {
  const servers: TestServer[] = [];
  afterAll(() => Promise.all(servers.map((server) => server.close())));
  const upload = (http: request.Agent, path: string, bytes: Buffer) =>
    http.post(path).set('Content-Type', 'application/octet-stream').send(bytes);

  test('an archive is saved, looked at on another server, and brought back there', async () => {
    const from = await startTestServer({ dataFolder: demo.folder });
    const to = await startTestServer();
    servers.push(to);
    const saved = await from.http
      .get(`/api/ensembles/${demo.ensembleId}/archive`)
      .buffer()
      .expect(200)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => done(null, Buffer.concat(parts)));
      });
    await from.stop();
    expect(saved.headers['content-disposition']).toContain('anchorbeat.zip');
    const bytes = saved.body as Buffer;
    const looked = (await upload(to.http, '/api/archives/look', bytes).expect(200)).body as ArchivePreview;
    expect(looked.isNewEnsemble).toBe(true);
    expect((await to.http.get('/api/pieces')).body).toEqual([]);
    await upload(to.http, `/api/archives/restore?digest=${'0'.repeat(64)}`, bytes).expect(422);
    await upload(to.http, `/api/archives/restore?digest=${looked.digest}`, bytes).expect(200);
    const pieces = (await to.http.get('/api/pieces')).body as PieceResponse[];
    expect(pieces.map(({ revision }) => revision)).toContain(500);
    expect(readdirSync(join(to.dataFolder, 'backups')).join()).toContain('before-restore');
    const broken = Buffer.from(bytes);
    broken[bytes.length >> 1]! ^= 4;
    const refused = await upload(to.http, '/api/archives/look', broken).expect(422);
    expect(refused.text).toContain('damaged');
  });

  test('killed while it brings one back a server is as before, or has all of it', async () => {
    const server = await startTestServer();
    const before = rowsIn(server.dataFolder);
    const looked = (await upload(server.http, '/api/archives/look', archive).expect(200))
      .body as ArchivePreview;
    const under = upload(server.http, `/api/archives/restore?digest=${looked.digest}`, archive).catch(
      () => null,
    );
    const backups = join(server.dataFolder, 'backups');
    // The copy that is made first stands there: from now on it is being brought back.
    while (!readdirSync(backups).join().includes('before-restore'))
      await new Promise((resolve) => setImmediate(resolve));
    await server.kill();
    await under;
    const again = await startTestServer({ dataFolder: server.dataFolder });
    servers.push(again);
    const after = rowsIn(again.dataFolder);
    const isAll = after['revisions']!.length === 504;
    if (isAll) expect(after['runs']).toHaveLength(42);
    else expect(after).toEqual(before);
  });

  test('only a director of the ensemble saves its archive or brings it back', async () => {
    const { server, first, ensembleId } = await ledServer();
    servers.push(server);
    const add = (role: string, name: string) =>
      first.http
        .post(`/api/ensembles/${ensembleId}/members`)
        .send({ name, displayName: name, password: PASSWORD, role });
    await add('coDirector', 'co').expect(201);
    const co = await signedInAs(server, 'co');
    await co.http.get(`/api/ensembles/${ensembleId}/archive`).expect(403);
    await upload(co.http, '/api/archives/look', archive).expect(403);
    // Who directs another ensemble only.
    const otherId = await newEnsemble(first.http, 'Others');
    await first.http
      .post(`/api/ensembles/${otherId}/members`)
      .send({ name: 'other', displayName: 'other', password: PASSWORD, role: 'director' });
    const other = await signedInAs(server, 'other');
    await other.http.get(`/api/ensembles/${ensembleId}/archive`).expect(404);
    const ours = archiveOf(server.dataFolder, ensembleId);
    await upload(other.http, '/api/archives/look', ours).expect(403);
    await upload(first.http, '/api/archives/look', ours).expect(200);
    await request(server.url).post('/api/archives/look').expect(401);
    await first.http.post('/api/archives/look').send({}).expect(422);
    expect(((await other.http.get('/api/ensembles')).body as EnsembleResponse[]).length).toBe(1);
  });
});
