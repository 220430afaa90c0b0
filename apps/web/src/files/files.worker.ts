import { renderSamples } from '@anchorbeat/audio';
import { barCuesIn, compilePiece, paperRun, PLAIN_RUN } from '@anchorbeat/core';
import { FILE_FORMATS, formatOfFileMaybe, writeWav } from '@anchorbeat/formats';
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
    const reading = formatOfFileMaybe(work.name)?.read(work.bytes, progress);
    if (!reading)
      return {
        kind: 'refused',
        problems: [
          {
            message: `"${work.name}" has an ending that is not known: open .musicxml, .mxl, .mid, .json or .csv`,
          },
        ],
      };
    if (!reading.ok) return { kind: 'refused', problems: reading.problems };
    return { kind: 'piece', piece: reading.piece, notes: reading.notes ?? null };
  }
  if (work.kind === 'render') return { kind: 'file', bytes: rendered(work) };
  const format = FILE_FORMATS.find(({ id }) => id === work.format);
  if (!format) throw new RangeError(`there is no format "${work.format}"`);
  return { kind: 'file', bytes: Uint8Array.from(format.write(work.piece)) };
}

function rendered({ piece, sound, words }: Extract<FileWork, { kind: 'render' }>): Uint8Array<ArrayBuffer> {
  const { sampleRate, bits, percent, clickOn, spoken } = sound;
  const source = { piece, compiled: compilePiece(piece) };
  const plan = paperRun(source, { ...PLAIN_RUN, spoken, percent, clickOn });
  const samples = renderSamples(plan, sampleRate, { onProgress: progress, ...(words && { words }) });
  const cues = barCuesIn(source, plan, sampleRate);
  return Uint8Array.from(writeWav(samples, { sampleRate, bits, cues }));
}
