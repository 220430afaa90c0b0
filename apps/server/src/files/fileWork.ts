import type { SoundWishes } from '@anchorbeat/audio';
import type { PieceDocument, Problem } from '@anchorbeat/core';
import type { ReadingNotes } from '@anchorbeat/formats';
import type { MessagePort } from 'node:worker_threads';

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
    };

/** What it gives back. */
export type FileWorkResult =
  | { readonly kind: 'piece'; readonly piece: PieceDocument; readonly notes: ReadingNotes | null }
  | { readonly kind: 'file'; readonly bytes: Uint8Array }
  /** All parts of a sound have been sent. */
  | { readonly kind: 'sent' }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] };

/** What comes over the port of a sound: its length first, then its parts, then that it is over. */
export type SoundMessage =
  | { readonly kind: 'length'; readonly lengthBytes: number }
  | { readonly kind: 'part'; readonly bytes: Uint8Array }
  | { readonly kind: 'end' }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] };
