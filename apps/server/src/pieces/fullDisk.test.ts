import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { afterAll, expect, test } from '@jest/globals';
import type { EnsembleResponse, PieceResponse } from '@anchorbeat/contract';
import Database from 'better-sqlite3';
import { smallDiskMaybe, type SmallDisk } from '../test/smallDisk.ts';
import { startTestServer, type TestServer } from '../test/testServer.ts';

const ROUNDS = 200;
/** The rounds share a few disks, each started anew when it has grown full of revisions. */
const ROUNDS_A_DISK = 50;
const DISK_MB = 12;
const SAVES_A_ROUND = 5;

const documentOf = (title: string) => ({
  format: 'anchorbeat-piece',
  version: 1,
  title,
  bars: [
    { meter: '4/4', note: 'x'.repeat(150) },
    ...Array.from({ length: 20 }, () => ({ note: 'y'.repeat(150) })),
  ],
});

let seed = 20_261_128;
const below = (limit: number) => (seed = (seed * 48_271) % 2_147_483_647) % limit;
const disks: SmallDisk[] = [];
afterAll(() => disks.forEach((disk) => disk.remove()));

/** What a client was told is kept: revision and title of one piece. */
interface Told {
  readonly id: string;
  readonly acknowledged: Map<number, string>;
  newest: number;
}

async function newPiece({ http }: TestServer): Promise<Told> {
  const [ensemble] = (await http.get('/api/ensembles')).body as EnsembleResponse[];
  const id = randomUUID();
  await http
    .post('/api/pieces')
    .send({ id, ensembleId: ensemble!.id, piece: documentOf('One') })
    .expect(201);
  return { id, acknowledged: new Map([[1, 'One']]), newest: 1 };
}

/** Saves once; gives the status, 0 where the server did not answer. */
async function save({ http }: TestServer, told: Told): Promise<number> {
  const title = `Title ${randomUUID()}`;
  const request = { id: randomUUID(), basedOnRevision: told.newest, piece: documentOf(title) };
  const answer = await http
    .post(`/api/pieces/${told.id}/revisions`)
    .send(request)
    .catch(() => null);
  if (answer?.status !== 201) return answer?.status ?? 0;
  told.newest = (answer.body as { revision: number }).revision;
  told.acknowledged.set(told.newest, title);
  return 201;
}

/** What of it no longer lies in the database as it was told. */
function lost(dataFolder: string, { id, acknowledged }: Told): number[] {
  const database = new Database(join(dataFolder, 'anchorbeat.sqlite'), { readonly: true });
  const rows = database.prepare('SELECT revision, document FROM revisions WHERE piece_id = ?').all(id);
  database.close();
  const titles = new Map(
    (rows as { revision: number; document: string }[]).map(({ revision, document }) => [
      revision,
      (JSON.parse(document) as { title: string }).title,
    ]),
  );
  return [...acknowledged].flatMap(([revision, title]) => (titles.get(revision) === title ? [] : revision));
}

function integrityOf(dataFolder: string): unknown {
  const database = new Database(join(dataFolder, 'anchorbeat.sqlite'), { readonly: true });
  const found = [database.pragma('integrity_check', { simple: true }), database.pragma('foreign_key_check')];
  database.close();
  return found;
}

test('over two hundred rounds of full disk, kill and stop, mixed at random, nothing acknowledged is lost', async () => {
  const first = smallDiskMaybe(DISK_MB);
  if (!first) {
    console.warn(
      'skipped: this user may not mount a small disk; the writer is tested with a page limit beside',
    );
    return;
  }
  let [refused, acknowledged] = [0, 0];
  for (let round = 0; round < ROUNDS;) {
    const disk = round === 0 ? first : smallDiskMaybe(DISK_MB)!;
    disks.push(disk);
    let server = await startTestServer({ dataFolder: disk.folder });
    const told = await newPiece(server);
    for (let inDisk = 0; inDisk < ROUNDS_A_DISK; inDisk++, round++) {
      const isFull = below(2) === 0;
      if (isFull) disk.fill();
      for (let each = 0; each < SAVES_A_ROUND; each++) {
        const status = await save(server, told);
        expect([0, 201, 503, 507]).toContain(status);
        if (status === 201) acknowledged++;
        else refused++;
      }
      if (below(2) === 0) disk.giveRoom();
      // Starting again is what takes the time.
      switch (below(24)) {
        case 0: {
          const under = save(server, told);
          await server.kill();
          // A save that was under way may have been kept without being told of it.
          await under;
          break;
        }
        case 1:
          expect(await server.stop()).toBeLessThan(5000);
          break;
        default:
          disk.giveRoom();
          continue;
      }
      disk.giveRoom();
      expect(integrityOf(disk.folder)).toEqual(['ok', []]);
      server = await startTestServer({ dataFolder: disk.folder });
      told.newest = ((await server.http.get(`/api/pieces/${told.id}`)).body as PieceResponse).revision;
    }
    disk.giveRoom();
    expect(await save(server, told)).toBe(201);
    await server.kill();
    expect(lost(disk.folder, told)).toEqual([]);
    disk.remove();
    disks.pop();
  }
  expect(acknowledged).toBeGreaterThan(300);
  expect(refused).toBeGreaterThan(50);
}, 600_000);
