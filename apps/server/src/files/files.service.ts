import { Worker } from 'node:worker_threads';
import { Injectable, Logger } from '@nestjs/common';
import { invalid } from '../problems/problemException.ts';
import type { FileWork, FileWorkResult } from './fileWork.ts';

const MOST_SECONDS = 60;
const MOST_MEGABYTES = 280;
const MOST_AT_ONCE = 2;
const TOO_MUCH = 'This file takes more time or memory than any piece does; it was let go';

/** Reads, writes and renders files in threads of their own, a few at a time. Who goes away ends his thread. */
@Injectable()
export class FilesService {
  private readonly logger = new Logger('Files');
  private atWork = 0;
  private readonly queue: Array<() => void> = [];

  /** The result of some work. Refused with the file's problems, or when it takes too much; rejects when called off. */
  async run(work: FileWork, signal: AbortSignal): Promise<Exclude<FileWorkResult, { kind: 'refused' }>> {
    await this.turn();
    try {
      const result = await this.inThread(work, signal);
      if (result.kind === 'refused') throw invalid(result.problems);
      return result;
    } finally {
      this.atWork--;
      this.queue.shift()?.();
    }
  }

  private async turn(): Promise<void> {
    if (this.atWork >= MOST_AT_ONCE) await new Promise<void>((resolve) => this.queue.push(resolve));
    this.atWork++;
  }

  private inThread(work: FileWork, signal: AbortSignal): Promise<FileWorkResult> {
    return new Promise((resolve, reject) => {
      const worker = new Worker(new URL('./fileWorker.js', import.meta.url), {
        workerData: work,
        execArgv: [],
        resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
      });
      const end = () => void worker.terminate();
      const timer = setTimeout(() => {
        reject(invalid([{ message: TOO_MUCH, field: 'file' }]));
        end();
      }, MOST_SECONDS * 1000);
      signal.addEventListener('abort', end, { once: true });
      worker.once('message', resolve);
      worker.once('error', (error: Error & { code?: string }) => {
        const isTooMuch = error.code === 'ERR_WORKER_OUT_OF_MEMORY';
        if (!isTooMuch) this.logger.error(error);
        reject(isTooMuch ? invalid([{ message: TOO_MUCH, field: 'file' }]) : error);
      });
      worker.once('exit', () => {
        clearTimeout(timer);
        signal.removeEventListener('abort', end);
        reject(new Error('the thread ended without a result'));
      });
    });
  }
}
