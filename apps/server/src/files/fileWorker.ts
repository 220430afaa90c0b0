import { parentPort, workerData } from 'node:worker_threads';
import { renderSamples } from '@anchorbeat/audio';
import {
  barCuesIn,
  compilePiece,
  paperRun,
  PLAIN_RUN,
  readPiece,
  writePiece,
  type Piece,
} from '@anchorbeat/core';
import { FILE_FORMATS, formatOfFileMaybe, writeWav } from '@anchorbeat/formats';
import type { FileWork, FileWorkResult, SoundWishes } from './fileWork.ts';

/** Runs in a thread of its own with its memory capped: whatever a file does to it, the server goes on. */
parentPort?.postMessage(done(workerData as FileWork));

function done(work: FileWork): FileWorkResult {
  if (work.kind === 'read') return read(work.name, work.bytes);
  const reading = readPiece(work.piece);
  if (!reading.ok) return { kind: 'refused', problems: reading.problems };
  if (work.kind === 'render') return { kind: 'file', bytes: rendered(reading.piece, work.sound) };
  const format = FILE_FORMATS.find(({ id }) => id === work.format);
  if (!format) throw new RangeError(`there is no format "${work.format}"`);
  return { kind: 'file', bytes: format.write(reading.piece) };
}

function read(name: string, bytes: Uint8Array): FileWorkResult {
  const reading = formatOfFileMaybe(name)?.read(bytes);
  if (!reading)
    return { kind: 'refused', problems: [{ message: `"${name}" has an ending that no format is known by` }] };
  if (!reading.ok) return { kind: 'refused', problems: reading.problems };
  return { kind: 'piece', piece: writePiece(reading.piece), notes: reading.notes ?? null };
}

function rendered(piece: Piece, { sampleRate, bits, percent, clickOn }: SoundWishes): Uint8Array {
  const source = { piece, compiled: compilePiece(piece) };
  const plan = paperRun(source, { ...PLAIN_RUN, spoken: 'nothing', percent, clickOn });
  const cues = barCuesIn(source, plan, sampleRate);
  return writeWav(renderSamples(plan, sampleRate), { sampleRate, bits, cues });
}
