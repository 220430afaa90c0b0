import type { NoteNames } from '@anchorbeat/core';

/** The tables of an archive with their columns, as they are kept; in an order in which none needs one after it. */
export const ARCHIVE_TABLES = {
  pieces: ['id', 'shelf_order', 'is_set_aside'],
  revisions: ['id', 'piece_id', 'revision', 'saved_at', 'document', 'edits'],
  drills: ['id', 'piece_id', 'settings', 'saved_at', 'deleted_at'],
  runs: ['id', 'piece_id', 'started_at', 'result', 'deleted_at'],
  dates: ['id', 'at', 'details', 'deleted_at'],
} as const;

export interface PieceRow {
  readonly id: string;
  readonly shelf_order: number;
  readonly is_set_aside: number;
}

export interface RevisionRow {
  readonly id: string;
  readonly piece_id: string;
  readonly revision: number;
  readonly saved_at: string;
  /** The piece document, and what was done: JSON, just as it was saved. */
  readonly document: string;
  readonly edits: string;
}

export interface DrillRow {
  readonly id: string;
  readonly piece_id: string;
  readonly settings: string;
  readonly saved_at: string;
  readonly deleted_at: string | null;
}

export interface RunRow {
  readonly id: string;
  readonly piece_id: string;
  readonly started_at: string;
  readonly result: string;
  readonly deleted_at: string | null;
}

export interface DateRow {
  readonly id: string;
  readonly at: string;
  readonly details: string;
  readonly deleted_at: string | null;
}

export interface ArchivedEnsemble {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly sections: readonly string[];
  /** Not in archives from before ensembles had it. */
  readonly noteNames?: NoteNames;
}

/** What an archive says of itself. */
export interface ArchiveManifest {
  readonly format: 'anchorbeat-archive';
  readonly version: 1;
  /** ISO 8601, UTC. */
  readonly madeAt: string;
  readonly ensemble: ArchivedEnsemble;
  readonly rows: Readonly<Record<keyof typeof ARCHIVE_TABLES, number>>;
}

/** A whole ensemble, read from an archive that is sound. */
export interface Archive {
  readonly madeAt: string;
  readonly ensemble: ArchivedEnsemble;
  readonly pieces: readonly PieceRow[];
  /** Of each piece, from the first to the newest. */
  readonly revisions: ReadonlyMap<string, readonly RevisionRow[]>;
  readonly drills: readonly DrillRow[];
  readonly runs: readonly RunRow[];
  readonly dates: readonly DateRow[];
}

export const MANIFEST_NAME = 'manifest.json';
/** In the form that `sha256sum -c` takes; every other file stands in it. */
export const CHECKSUMS_NAME = 'checksums.sha256';

/** The file of a table; revisions have one a piece. */
export function tableFile(table: keyof typeof ARCHIVE_TABLES, pieceId = ''): string {
  return table === 'revisions' ? `revisions/${pieceId}.jsonl` : `${table}.jsonl`;
}

/** The zip's comment: the check sum of the whole file up to it, in 64 letters. */
export function sealText(sha256: string): string {
  return `sha256 ${sha256}`;
}

export const SEAL_BYTES = sealText('').length + 64;
