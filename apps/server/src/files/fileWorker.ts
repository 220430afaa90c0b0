import { once } from 'node:events';
import { setPriority } from 'node:os';
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
import type { MessagePort } from 'node:worker_threads';
import { readArchive } from '../archive/readArchive.ts';
import { ArchiveError } from '../archive/unpackArchive.ts';
import { writeArchive } from '../archive/writeArchive.ts';
import type { FileWork, FileWorkResult, StreamMessage } from './fileWork.ts';

/** What a file may take besides the objects that the thread’s heap is capped for: its buffers. */
const MOST_BUFFER_BYTES = 200 * 1024 * 1024;

/** A thread works when nobody waits for an answer: on Linux each thread has a priority of its own. */
const LESS_THAN_ANSWERS = 4;
if (process.platform === 'linux') setPriority(LESS_THAN_ANSWERS);

/** Runs in a thread of its own with its memory capped: whatever a file does to it, the server goes on. */
// oxlint-disable-next-line no-restricted-exports -- the pool of threads takes a module's default
export default async function work(task: FileWork): Promise<FileWorkResult> {
  if (task.kind === 'read') return read(task);
  if (task.kind === 'render') return render(task);
  if (task.kind === 'readArchive') return readWholeArchive(task.bytes);
  if (task.kind === 'archive')
    return sent(task.port, {
      lengthBytes: null,
      parts: writeArchive(task.databaseFile, task.ensembleId, new Date()),
    });
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

async function render({
  piece,
  sound,
  port,
}: Extract<FileWork, { kind: 'render' }>): Promise<FileWorkResult> {
  const track = trackOf(piece, sound);
  if ('chunks' in track) return sent(port, await soundFile(track, sound));
  port.postMessage({ kind: 'refused', problems: track } satisfies StreamMessage);
  port.close();
  return { kind: 'refused', problems: track };
}

interface Streamed {
  readonly lengthBytes: number | null;
  readonly parts: Iterable<Uint8Array<ArrayBuffer>>;
}

/** Makes a part only when it is asked for, so that a slow reader holds up nobody's memory. */
async function sent(port: MessagePort, { lengthBytes, parts }: Streamed): Promise<FileWorkResult> {
  const send = (message: StreamMessage, moved: readonly ArrayBuffer[] = []) =>
    port.postMessage(message, [...moved]);
  try {
    send({ kind: 'length', lengthBytes });
    for (const bytes of parts) {
      await once(port, 'message');
      send({ kind: 'part', bytes }, [bytes.buffer]);
    }
    await once(port, 'message');
    send({ kind: 'end' });
    return { kind: 'sent' };
  } finally {
    port.close();
  }
}

function readWholeArchive(bytes: Uint8Array): FileWorkResult {
  try {
    return { kind: 'readArchive', archive: readArchive(bytes) };
  } catch (error) {
    if (!(error instanceof ArchiveError)) throw error;
    return { kind: 'refused', problems: [{ message: error.message, field: 'file' }] };
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
