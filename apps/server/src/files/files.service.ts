import { on } from 'node:events';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { SoundWishes } from '@anchorbeat/audio';
import type { PieceDocument } from '@anchorbeat/core';
import { Piscina } from 'piscina';
import { invalid, ProblemException, unavailable } from '../problems/problemException.ts';
import type { FileWork, FileWorkResult, StreamedWork, StreamMessage } from './fileWork.ts';

const MOST_SECONDS = 60;
/** What is made in parts is given up when nobody has taken one for so long. */
const MOST_IDLE_SECONDS = 30;
const MOST_HEAP_MEGABYTES = 280;
/** What a thread has just made and mostly drops again: more of it takes memory and is no faster. */
const YOUNG_HEAP_MEGABYTES = 12;
const MOST_AT_ONCE = 2;
const MOST_WAITING = 8;
const COME_BACK_SECONDS = 5;
const TOO_MUCH = 'This file takes more time or memory than any piece does; it was let go';

type Done = Exclude<FileWorkResult, { kind: 'refused' }>;

/** A file that is being made: its parts come as they are taken. */
export interface FileStream {
  /** Null where it shows only at the end. */
  readonly lengthBytes: number | null;
  readonly parts: AsyncIterable<Uint8Array>;
}

/** Reads, writes and renders files in threads of their own, a few at a time. Who goes away ends his work, waiting or not. */
@Injectable()
export class FilesService implements OnApplicationShutdown {
  private readonly logger = new Logger('Files');
  private made: Piscina<FileWork, FileWorkResult> | null = null;

  /**
   * The threads begin with the first work: a server that is stopped at once, as where it refuses to open, must not end one
   * that is only just loading, which brings Node down.
   */
  private get pool(): Piscina<FileWork, FileWorkResult> {
    this.made ??= new Piscina<FileWork, FileWorkResult>({
      filename: new URL('./fileWorker.js', import.meta.url).href,
      // A thread that was ended with its task is only replaced up to this many; the queue must go on.
      minThreads: 1,
      maxThreads: MOST_AT_ONCE,
      maxQueue: MOST_WAITING,
      idleTimeout: 2000,
      resourceLimits: {
        maxOldGenerationSizeMb: MOST_HEAP_MEGABYTES,
        maxYoungGenerationSizeMb: YOUNG_HEAP_MEGABYTES,
      },
      execArgv: [],
    });
    return this.made;
  }

  async onApplicationShutdown(): Promise<void> {
    await this.made?.destroy();
  }

  /** The result of some work. Refused with the file's problems, when it takes too much, or when too much waits already. */
  async run(work: Exclude<FileWork, StreamedWork>, signal: AbortSignal): Promise<Done> {
    this.mustHaveRoom();
    const timeUp = AbortSignal.timeout(MOST_SECONDS * 1000);
    const transferList = 'bytes' in work ? [work.bytes.buffer as ArrayBuffer] : [];
    try {
      const result = await this.pool.run(work, { signal: AbortSignal.any([signal, timeUp]), transferList });
      if (result.kind === 'refused') throw invalid(result.problems);
      return result;
    } catch (error) {
      throw this.refusal(error);
    }
  }

  /** Begins to make a sound; refused where it would be too long, or too much waits already. */
  render(piece: PieceDocument, sound: SoundWishes, signal: AbortSignal): Promise<FileStream> {
    return this.stream((port) => ({ kind: 'render', piece, sound, port }), signal);
  }

  /** Begins to make the archive of an ensemble. */
  archive(databaseFile: string, ensembleId: string, signal: AbortSignal): Promise<FileStream> {
    return this.stream((port) => ({ kind: 'archive', databaseFile, ensembleId, port }), signal);
  }

  private async stream(
    workOver: (port: MessagePort) => StreamedWork,
    signal: AbortSignal,
  ): Promise<FileStream> {
    this.mustHaveRoom();
    const { port1, port2 } = new MessageChannel();
    const idle = new IdleWatch(MOST_IDLE_SECONDS * 1000);
    const ended = new AbortController();
    const both = AbortSignal.any([signal, ended.signal]);
    idle.onIdle = () => ended.abort();
    const done = this.pool.run(workOver(port2), { signal: both, transferList: [port2] });
    done.catch((error: unknown) => {
      if (!both.aborted) this.logger.error(error);
      ended.abort();
    });
    const messages = on(port1, 'message', { signal: both, close: ['close'] }) as AsyncIterableIterator<
      [StreamMessage]
    >;
    const next = async (): Promise<StreamMessage> => {
      const message = await messages.next();
      if (message.done) throw new Error('the thread ended before the file was whole');
      return message.value[0];
    };
    try {
      const first = await next();
      if (first.kind === 'refused') throw invalid(first.problems);
      if (first.kind !== 'length') throw new Error(`a file began with "${first.kind}"`);
      idle.start();
      const ask = () => port1.postMessage('next');
      return { lengthBytes: first.lengthBytes, parts: partsFrom(next, ask, idle, () => port1.close()) };
    } catch (error) {
      port1.close();
      throw this.refusal(error);
    }
  }

  private mustHaveRoom(): void {
    if ((this.made?.queueSize ?? 0) >= MOST_WAITING)
      throw unavailable('Too many files are being worked on; come back in a few seconds', COME_BACK_SECONDS);
  }

  private refusal(error: unknown): unknown {
    if (error instanceof ProblemException) return error;
    const { name, code, message } = error as Error & { code?: string };
    if (code === 'ERR_WORKER_OUT_OF_MEMORY' || name === 'TimeoutError' || name === 'AbortError')
      return invalid([{ message: TOO_MUCH, field: 'file' }]);
    if (/queue/i.test(message)) return unavailable('Too many files are being worked on', COME_BACK_SECONDS);
    this.logger.error(error);
    return error;
  }
}

async function* partsFrom(
  next: () => Promise<StreamMessage>,
  ask: () => void,
  idle: IdleWatch,
  close: () => void,
): AsyncGenerator<Uint8Array> {
  try {
    for (;;) {
      idle.start();
      ask();
      const message = await next();
      if (message.kind === 'end') return;
      if (message.kind !== 'part') throw new Error(`a part of a file came as "${message.kind}"`);
      yield message.bytes;
    }
  } finally {
    idle.stop();
    close();
  }
}

/** Tells when nothing has happened for a while. */
class IdleWatch {
  onIdle: () => void = () => undefined;
  private timer: NodeJS.Timeout | null = null;

  constructor(private readonly milliseconds: number) {}

  start(): void {
    this.stop();
    this.timer = setTimeout(() => this.onIdle(), this.milliseconds);
    this.timer.unref();
  }

  stop(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
  }
}
