import { noteNames, type NoteNames, type Piece } from '@anchorbeat/core';
import type { SheetDocument, SheetFonts } from '@anchorbeat/sheets';
import { fetchSheetFonts } from './fontFiles.ts';
import type { Task } from '../files/useTask.ts';
import type { SheetChoice } from './sheetChoice.ts';

/** What is to be made: a sheet of a piece, a picture of its line, or pages that are there already. */
export type SheetOrder =
  | { readonly kind: 'pdf' | 'picture'; readonly piece: Piece; readonly choice: SheetChoice }
  | { readonly kind: 'pages'; readonly document: SheetDocument };

/** What the worker for sheets is given. */
export interface SheetWork {
  readonly order: SheetOrder;
  readonly fonts: SheetFonts;
  readonly noteNames: NoteNames;
}

export type SheetAnswer =
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'made'; readonly bytes: Uint8Array<ArrayBuffer> }
  | { readonly kind: 'failed'; readonly message: string };

/** Starts making a sheet or a picture in a worker of its own. */
export function startSheetWork(
  order: SheetOrder,
  onProgress: (share: number) => void,
): Task<Uint8Array<ArrayBuffer>> {
  const worker = new Worker(new URL('./sheets.worker.ts', import.meta.url), { type: 'module' });
  const result = new Promise<Uint8Array<ArrayBuffer>>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<SheetAnswer>) => {
      if (data.kind === 'progress') return onProgress(data.share);
      worker.terminate();
      if (data.kind === 'made') resolve(data.bytes);
      else reject(new Error(data.message));
      return undefined;
    };
    worker.onerror = ({ message }) => {
      worker.terminate();
      reject(new Error(message));
    };
    fetchSheetFonts().then(
      (fonts) => worker.postMessage({ order, fonts, noteNames: noteNames() } satisfies SheetWork),
      reject,
    );
  });
  return { result, cancel: () => worker.terminate() };
}
