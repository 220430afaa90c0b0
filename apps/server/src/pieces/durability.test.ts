import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import type { EnsembleResponse, PieceResponse } from '@anchorbeat/contract';
import Database from 'better-sqlite3';
import { documentOf } from '../test/documentOf.ts';
import { startTestServer, type TestServer } from '../test/testServer.ts';

test.each([20, 45, 90])(
  'a kill after %i saves of a burst, with others under way, loses nothing that was acknowledged',
  async (saves) => {
    const running = await startTestServer();
    const ids = await newPieces(running, 4);
    const acknowledged = new Map<string, number>();
    let left = saves;
    const kills: Promise<void>[] = [];
    const keep = (id: string, revision: number) => {
      acknowledged.set(id, revision);
      if (--left === 0) kills.push(running.kill());
    };
    await Promise.all(ids.map((id) => saveUntilRefused(running, id, keep)));
    await Promise.all(kills);
    expect(kills).toHaveLength(1);
    expect(Math.min(...ids.map((id) => acknowledged.get(id) ?? 0))).toBeGreaterThan(3);

    const database = new Database(join(running.dataFolder, 'anchorbeat.sqlite'));
    expect(database.pragma('integrity_check', { simple: true })).toBe('ok');
    expect(database.pragma('foreign_key_check')).toEqual([]);
    database.close();
    const again = await startTestServer({ dataFolder: running.dataFolder });
    for (const [id, revision] of acknowledged) {
      const { body } = await again.http.get(`/api/pieces/${id}/revisions/${revision}`).expect(200);
      expect((body as PieceResponse).piece.title).toBe(`Revision ${revision}`);
    }
    await again.close();
  },
);

async function newPieces({ http }: TestServer, count: number): Promise<string[]> {
  const [ensemble] = (await http.get('/api/ensembles')).body as EnsembleResponse[];
  const ids = Array.from({ length: count }, () => randomUUID());
  for (const id of ids) {
    await http
      .post('/api/pieces')
      .send({ id, ensembleId: ensemble!.id, piece: documentOf('Burst') })
      .expect(201);
  }
  return ids;
}

/** Saves one revision after another until the server no longer answers; tells each that it acknowledged. */
async function saveUntilRefused(
  { http }: TestServer,
  id: string,
  onAcknowledged: (id: string, revision: number) => void,
): Promise<void> {
  for (let revision = 1; ; revision++) {
    const save = {
      id: randomUUID(),
      basedOnRevision: revision,
      piece: documentOf(`Revision ${revision + 1}`),
    };
    const answer = await http
      .post(`/api/pieces/${id}/revisions`)
      .send(save)
      .catch(() => null);
    if (answer?.status !== 201) return;
    onAcknowledged(id, revision + 1);
  }
}
