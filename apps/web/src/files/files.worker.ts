import { soundFile, soundTrack } from '@anchorbeat/audio';
import { accepted, inARow, paperSounds, proofOf, type PlacedSounds, type Result } from '@anchorbeat/core';
import { readFileNamed, writeFileAs } from '@anchorbeat/formats';
import type { FileAnswer, FileResult, FileWork, SoundOrder } from './fileWork.ts';
import { zipped } from './zipped.ts';

const PROGRESS_MS = 60;

self.onmessage = ({ data }: MessageEvent<FileWork>) =>
  void done(data).then(answer, (error: unknown) =>
    answer({
      kind: 'refused',
      problems: [{ message: `This file could not be worked on (${(error as Error).message})` }],
    }),
  );

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

async function done(work: FileWork): Promise<FileResult> {
  if (work.kind === 'read') {
    const reading = readFileNamed(work.name, work.bytes, progress);
    if (!reading.ok) return { kind: 'refused', problems: reading.problems };
    return { kind: 'piece', piece: reading.piece, notes: reading.notes ?? null };
  }
  if (work.kind === 'write')
    return { kind: 'file', parts: [Uint8Array.from(writeFileAs(work.format, work.piece))] };
  return render(work);
}

async function render({ orders, words }: Extract<FileWork, { kind: 'render' }>): Promise<FileResult> {
  const files: Array<{ readonly name: string; readonly parts: Iterable<Uint8Array<ArrayBuffer>> }> = [];
  for (const [index, order] of orders.entries()) {
    const onProgress = (share: number) => progress((index + share) / orders.length);
    const sounds = soundsOfOrder(order);
    const track = sounds.ok
      ? soundTrack(sounds.value, order.wishes, { onProgress, ...(words && { words }) })
      : sounds;
    if (!track.ok) return { kind: 'refused', problems: [track.problem] };
    const { parts } = await soundFile(track.value, order.wishes);
    files.push({ name: order.fileName, parts: [...parts] });
  }
  const [only] = files;
  return { kind: 'file', parts: files.length === 1 && only ? [...only.parts] : zipped(files) };
}

function soundsOfOrder({ parts, pauseSeconds, wishes }: SoundOrder): Result<PlacedSounds> {
  const placed: PlacedSounds[] = [];
  for (const { piece, extent } of parts) {
    const sounds = paperSounds(proofOf(piece), extent, wishes);
    if (!sounds.ok) return sounds;
    placed.push(sounds.value);
  }
  return accepted(inARow(placed, pauseSeconds));
}
