import { parentPort, workerData } from 'node:worker_threads';
import { joined, soundFile } from '@anchorbeat/audio';
import { proofOf, readPiece, writePiece } from '@anchorbeat/core';
import { readFileNamed, writeFileAs } from '@anchorbeat/formats';
import type { FileWork, FileWorkResult } from './fileWork.ts';

/** Runs in a thread of its own with its memory capped: whatever a file does to it, the server goes on. */
parentPort?.postMessage(done(workerData as FileWork));

function done(work: FileWork): FileWorkResult {
  if (work.kind === 'read') {
    const reading = readFileNamed(work.name, work.bytes);
    if (!reading.ok) return { kind: 'refused', problems: reading.problems };
    return { kind: 'piece', piece: writePiece(reading.piece), notes: reading.notes ?? null };
  }
  const reading = readPiece(work.piece);
  if (!reading.ok) return { kind: 'refused', problems: reading.problems };
  if (work.kind === 'write') return { kind: 'file', bytes: writeFileAs(work.format, reading.piece) };
  const sound = soundFile(proofOf(reading.piece), work.sound);
  if (!sound.ok) return { kind: 'refused', problems: [sound.problem] };
  return { kind: 'file', bytes: joined(sound.value.parts) };
}
