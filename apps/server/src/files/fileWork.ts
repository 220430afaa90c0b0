import type { SoundWishes } from '@anchorbeat/audio';
import type { PieceDocument, Problem } from '@anchorbeat/core';
import type { ReadingNotes } from '@anchorbeat/formats';
import type { MessagePort } from 'node:worker_threads';
import type { Archive } from '../archive/archiveRows.ts';

/** What a thread is given to do. */
export type FileWork =
  | { readonly kind: 'read'; readonly name: string; readonly bytes: Uint8Array }
  | { readonly kind: 'write'; readonly format: string; readonly piece: PieceDocument }
  /** Sound is made part by part: `port` asks for the next one each time it is sent a message. */
  | {
      readonly kind: 'render';
      readonly piece: PieceDocument;
      readonly sound: SoundWishes;
      readonly port: MessagePort;
    }
  /** A whole ensemble as a zip, likewise. */
  | {
      readonly kind: 'archive';
      readonly databaseFile: string;
      readonly ensembleId: string;
      readonly port: MessagePort;
    }
  | { readonly kind: 'readArchive'; readonly bytes: Uint8Array };

/** Work whose result comes in parts over a port. */
export type StreamedWork = Extract<FileWork, { readonly port: MessagePort }>;

/** What it gives back. */
export type FileWorkResult =
  | { readonly kind: 'piece'; readonly piece: PieceDocument; readonly notes: ReadingNotes | null }
  | { readonly kind: 'file'; readonly bytes: Uint8Array }
  | { readonly kind: 'readArchive'; readonly archive: Archive }
  /** All parts have been sent. */
  | { readonly kind: 'sent' }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] };

/** What comes over a port: its length first, where that is known, then the parts, then that it is over. */
export type StreamMessage =
  | { readonly kind: 'length'; readonly lengthBytes: number | null }
  | { readonly kind: 'part'; readonly bytes: Uint8Array }
  | { readonly kind: 'end' }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] };
