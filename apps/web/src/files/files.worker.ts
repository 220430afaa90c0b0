import { soundFile } from '@anchorbeat/audio';
import { proofOf } from '@anchorbeat/core';
import { readFileNamed, writeFileAs } from '@anchorbeat/formats';
import type { FileAnswer, FileResult, FileWork } from './fileWork.ts';

const PROGRESS_MS = 60;

self.onmessage = ({ data }: MessageEvent<FileWork>) => answer(done(data));

function answer(result: FileAnswer): void {
  self.postMessage(result);
}

let toldAt = 0;

/** Tells how far it has come, not too often. */
function progress(share: number): void {
  const now = performance.now();
  if (now - toldAt < PROGRESS_MS) return;
  toldAt = now;
  answer({ kind: 'progress', share });
}

function done(work: FileWork): FileResult {
  if (work.kind === 'read') {
    const reading = readFileNamed(work.name, work.bytes, progress);
    if (!reading.ok) return { kind: 'refused', problems: reading.problems };
    return { kind: 'piece', piece: reading.piece, notes: reading.notes ?? null };
  }
  if (work.kind === 'write')
    return { kind: 'file', parts: [Uint8Array.from(writeFileAs(work.format, work.piece))] };
  const options = { onProgress: progress, ...(work.words && { words: work.words }) };
  const sound = soundFile(proofOf(work.piece), work.sound, options);
  return sound.ok
    ? { kind: 'file', parts: [...sound.value.parts] }
    : { kind: 'refused', problems: [sound.problem] };
}
