import { once } from 'node:events';
import { soundFile, soundTrack, type SoundTrack, type SoundWishes } from '@anchorbeat/audio';
import {
  paperSounds,
  proofOf,
  readPiece,
  writePiece,
  type PieceDocument,
  type Problem,
} from '@anchorbeat/core';
import { readFileNamed, writeFileAs } from '@anchorbeat/formats';
import type { FileWork, FileWorkResult, SoundMessage } from './fileWork.ts';

/** What a file may take besides the objects that the thread’s heap is capped for: its buffers. */
const MOST_BUFFER_BYTES = 200 * 1024 * 1024;

/** Runs in a thread of its own with its memory capped: whatever a file does to it, the server goes on. */
// eslint-disable-next-line no-restricted-exports -- the pool of threads takes a module's default
export default async function work(task: FileWork): Promise<FileWorkResult> {
  if (task.kind === 'read') return read(task);
  if (task.kind === 'render') return render(task);
  const reading = readPiece(task.piece);
  if (!reading.ok) return { kind: 'refused', problems: reading.problems };
  return { kind: 'file', bytes: writeFileAs(task.format, reading.piece) };
}

function read({ name, bytes }: Extract<FileWork, { kind: 'read' }>): FileWorkResult {
  const before = process.memoryUsage().arrayBuffers;
  const reading = readFileNamed(name, bytes, () => {
    if (process.memoryUsage().arrayBuffers - before > MOST_BUFFER_BYTES)
      throw Object.assign(new Error('this file takes too much memory'), { code: 'ERR_WORKER_OUT_OF_MEMORY' });
  });
  if (!reading.ok) return { kind: 'refused', problems: reading.problems };
  return { kind: 'piece', piece: writePiece(reading.piece), notes: reading.notes ?? null };
}

/** Makes a part only when it is asked for, so that a slow reader holds up nobody's memory. */
async function render({
  piece,
  sound,
  port,
}: Extract<FileWork, { kind: 'render' }>): Promise<FileWorkResult> {
  const send = (message: SoundMessage) => port.postMessage(message);
  try {
    const track = trackOf(piece, sound);
    if (!('chunks' in track)) {
      send({ kind: 'refused', problems: track });
      return { kind: 'refused', problems: track };
    }
    const { lengthBytes, parts } = await soundFile(track, sound);
    send({ kind: 'length', lengthBytes });
    for (const bytes of parts) {
      await once(port, 'message');
      port.postMessage({ kind: 'part', bytes } satisfies SoundMessage, [bytes.buffer]);
    }
    await once(port, 'message');
    send({ kind: 'end' });
    return { kind: 'sent' };
  } finally {
    port.close();
  }
}

/** The sound of a whole piece that is yet to be made, or why it is refused. */
function trackOf(document: PieceDocument, sound: SoundWishes): SoundTrack | readonly Problem[] {
  const reading = readPiece(document);
  if (!reading.ok) return reading.problems;
  const sounds = paperSounds(proofOf(reading.piece), { kind: 'piece' }, sound);
  const track = sounds.ok ? soundTrack(sounds.value, sound) : sounds;
  return track.ok ? track.value : [track.problem];
}
