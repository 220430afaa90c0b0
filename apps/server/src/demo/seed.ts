import { randomUUID } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { writePiece, type Habit } from '@anchorbeat/core';
import { readFileNamed } from '@anchorbeat/formats';
import type { LogRunRequest, SaveDrillRequest } from '@anchorbeat/contract';
import { DateEntity, DrillEntity, EnsembleEntity, PieceEntity, RevisionEntity, RunEntity } from '../database/entities.ts';
import type { SerialWriter } from '../database/connection.ts';
import { newRevision } from '../pieces/pieces.service.ts';
import { demoDates } from './demoSeason.ts';
import { demoTake } from './demoTake.ts';

interface EnsembleFile {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly sections: readonly string[];
  readonly pieces: ReadonlyArray<{ readonly id: string; readonly file: string }>;
}

/** Past rehearsals of the demo ensemble, and the drills it keeps. */
interface LogFile {
  readonly drills: ReadonlyArray<Kept & SaveDrillRequest>;
  /** Where somebody played along, what a simulated player with which habit did. */
  readonly runs: ReadonlyArray<Kept & LogRunRequest & { readonly played?: Habit }>;
}

interface Kept {
  readonly id: string;
  readonly pieceId: string;
}

/** What the demo's pieces are saved as, and its log is of. */
const REVISION = 1;

/** Puts the demo ensemble of `folder` into a database that has no ensemble yet; all of it or nothing. */
export async function seedDemo(writer: SerialWriter, folder: string): Promise<void> {
  const ensemble = await readEnsemble(folder);
  const files = await Promise.all(ensemble.pieces.map(({ file }) => readPieceFile(join(folder, file))));
  const log = JSON.parse(await readFile(join(folder, 'log.json'), 'utf8')) as LogFile;
  await writer.run(async (manager) => {
    if ((await manager.count(EnsembleEntity)) > 0) return;
    const { id, name, place, sections } = ensemble;
    await manager.insert(EnsembleEntity, { id, name, place, sections, noteNames: 'quarter' });
    for (const [shelfOrder, entry] of ensemble.pieces.entries()) {
      const piece = files[shelfOrder];
      if (!piece) throw new Error(`the demo lists ${entry.file}, which was not read`);
      await manager.insert(PieceEntity, { id: entry.id, ensembleId: id, shelfOrder });
      await manager.insert(RevisionEntity, newRevision(entry.id, entry.id, REVISION, writePiece(piece), ['Demo piece']));
    }
    for (const { id: drillId, pieceId, ...settings } of log.drills)
      await manager.insert(DrillEntity, { id: drillId, pieceId, settings: { ...settings, revision: REVISION }, savedAt: new Date().toISOString() });
    for (const [seed, { id: runId, pieceId, played, ...logged }] of log.runs.entries()) {
      const piece = files[ensemble.pieces.findIndex((entry) => entry.id === pieceId)];
      const take = played && piece ? demoTake(piece, { ...logged, habit: played, seed }) : null;
      const result = { ...logged, revision: REVISION, take };
      await manager.insert(RunEntity, { id: runId, pieceId, startedAt: logged.startedAt, result });
    }
    for (const details of demoDates(new Date()))
      await manager.insert(DateEntity, { id: randomUUID(), ensembleId: id, at: details.at, details });
  });
}

/** Gives an empty database an ensemble to put pieces in. */
export async function ensureEnsemble(writer: SerialWriter): Promise<void> {
  await writer.run(async (manager) => {
    if ((await manager.count(EnsembleEntity)) > 0) return;
    await manager.insert(EnsembleEntity, { id: randomUUID(), name: 'Our ensemble', place: '', sections: [], noteNames: 'quarter' });
  });
}

async function readEnsemble(folder: string): Promise<EnsembleFile> {
  const names = await readdir(folder);
  if (!names.includes('ensemble.json')) throw new Error(`the demo folder ${folder} has no ensemble.json`);
  return JSON.parse(await readFile(join(folder, 'ensemble.json'), 'utf8')) as EnsembleFile;
}

async function readPieceFile(file: string) {
  const reading = readFileNamed(file, await readFile(file));
  if (reading.ok) return reading.piece;
  throw new Error(`${file}: ${reading.problems[0]?.field ?? ''}: ${reading.problems[0]?.message ?? 'does not read'}`);
}
