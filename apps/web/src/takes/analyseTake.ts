import type { Piece, RunPlan, Take, TakeRecord } from '@anchorbeat/core';

export interface TakeQuestion {
  readonly id: number;
  readonly piece: Piece;
  readonly plan: RunPlan;
  readonly take: Take;
}

export type TakeAnswer =
  | { readonly id: number; readonly record: TakeRecord }
  | { readonly id: number; readonly reason: string };

interface Waiting {
  readonly resolve: (record: TakeRecord) => void;
  readonly reject: (error: Error) => void;
}

let worker: Worker | null = null;
let lastId = 0;
const waiting = new Map<number, Waiting>();

/** Finds out what was played, off the page's thread. Rejects where that cannot be worked out. */
export function analyseInWorker(question: Omit<TakeQuestion, 'id'>): Promise<TakeRecord> {
  worker ??= started();
  const id = ++lastId;
  const record = new Promise<TakeRecord>((resolve, reject) => waiting.set(id, { resolve, reject }));
  worker.postMessage({ id, ...question } satisfies TakeQuestion);
  return record;
}

function started(): Worker {
  const made = new Worker(new URL('./take.worker.ts', import.meta.url), { type: 'module' });
  made.onmessage = ({ data }: MessageEvent<TakeAnswer>) => {
    const asked = waiting.get(data.id);
    waiting.delete(data.id);
    if ('record' in data) asked?.resolve(data.record);
    else asked?.reject(new Error(data.reason));
  };
  made.onerror = ({ message }) => {
    worker = null;
    for (const { reject } of waiting.values()) reject(new Error(message));
    waiting.clear();
  };
  return made;
}
