import type { NoteNames, PieceDocument } from '@anchorbeat/core';

export interface EnsembleResponse {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly sections: readonly string[];
  /** In whose English it names notes. */
  readonly noteNames: NoteNames;
}

/** A piece as the Shelf lists it, with its newest revision. */
export interface PieceResponse {
  readonly id: string;
  readonly ensembleId: string;
  readonly revision: number;
  readonly savedAt: string;
  /** Off the shelf, with all it has; it can be brought back. */
  readonly isSetAside: boolean;
  readonly piece: PieceDocument;
}

/** One saved revision, without its piece. */
export interface RevisionResponse {
  readonly revision: number;
  readonly savedAt: string;
  readonly edits: readonly string[];
}

export interface SavedResponse {
  readonly revision: number;
  readonly savedAt: string;
}
