import type { RecordedWords, SoundWishes } from '@anchorbeat/audio';
import type { Piece, Problem, SoundExtent } from '@anchorbeat/core';
import type { ReadingNotes } from '@anchorbeat/formats';
import type { Task } from './useTask.ts';

/** One sound file: pieces, or parts of them, one after another. */
export interface SoundOrder {
  readonly fileName: string;
  readonly parts: ReadonlyArray<{ readonly piece: Piece; readonly extent: SoundExtent }>;
  readonly pauseSeconds: number;
  readonly wishes: SoundWishes;
}

/** What the worker for files is given to do. */
export type FileWork =
  | { readonly kind: 'read'; readonly name: string; readonly bytes: Uint8Array }
  | { readonly kind: 'write'; readonly format: string; readonly piece: Piece }
  | {
      readonly kind: 'render';
      /** Several files come in one zip. */
      readonly orders: readonly SoundOrder[];
      readonly words: RecordedWords | null;
    };

export type FileResult =
  | { readonly kind: 'piece'; readonly piece: Piece; readonly notes: ReadingNotes | null }
  | { readonly kind: 'file'; readonly parts: ReadonlyArray<Uint8Array<ArrayBuffer>> }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] };

export type FileAnswer = FileResult | { readonly kind: 'progress'; readonly share: number };

/** Starts some work in a worker of its own; called off it ends at once, whatever it is doing. */
export function startFileWork(work: FileWork, onProgress: (share: number) => void): Task<FileResult> {
  const worker = new Worker(new URL('./files.worker.ts', import.meta.url), { type: 'module' });
  const result = new Promise<FileResult>((resolve) => {
    worker.onmessage = ({ data }: MessageEvent<FileAnswer>) => {
      if (data.kind === 'progress') {
        onProgress(data.share);
        return;
      }
      resolve(data);
      worker.terminate();
    };
    worker.onerror = ({ message }) => {
      worker.terminate();
      resolve({ kind: 'refused', problems: [{ message: `This file could not be worked on (${message})` }] });
    };
  });
  worker.postMessage(work);
  return { result, cancel: () => worker.terminate() };
}
