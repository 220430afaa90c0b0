import type { SoundWishes } from '@anchorbeat/audio';
import type { PieceDocument, Problem } from '@anchorbeat/core';
import type { ReadingNotes } from '@anchorbeat/formats';

/** What a worker is given to do. */
export type FileWork =
  | { readonly kind: 'read'; readonly name: string; readonly bytes: Uint8Array }
  | { readonly kind: 'write'; readonly format: string; readonly piece: PieceDocument }
  | { readonly kind: 'render'; readonly piece: PieceDocument; readonly sound: SoundWishes };

/** What it gives back. */
export type FileWorkResult =
  | { readonly kind: 'piece'; readonly piece: PieceDocument; readonly notes: ReadingNotes | null }
  | { readonly kind: 'file'; readonly bytes: Uint8Array }
  | { readonly kind: 'refused'; readonly problems: readonly Problem[] };
