import { readPiece, writePiece, type Piece, type PieceDocument } from '@anchorbeat/core';
import type { OpenPiece } from './pieceSlice.ts';
import { v4 as uuid } from 'uuid';

const PREFIX = 'anchorbeat.draft.';
const WINDOW_KEY = 'anchorbeat.window';
/** A draft of another window counts as left behind after this long without a change. */
const LEFT_BEHIND_MS = 30_000;

interface StoredDraft {
  readonly revision: number;
  readonly changedAt: number;
  readonly edits: readonly string[];
  readonly piece: PieceDocument;
}

/** Work that was not saved yet when a window closed or failed. */
export interface Draft {
  readonly revision: number;
  readonly edits: readonly string[];
  readonly piece: Piece;
}

/** Keeps unsaved work in the browser until the server has acknowledged it; clears it after that. */
export function keepDraft(open: OpenPiece): void {
  const key = draftKey(open.id, windowId());
  if (open.unsavedEdits.length === 0) {
    localStorage.removeItem(key);
    return;
  }
  const draft: StoredDraft = {
    revision: open.revision,
    changedAt: Date.now(),
    edits: open.unsavedEdits,
    piece: writePiece(open.present),
  };
  try {
    localStorage.setItem(key, JSON.stringify(draft));
  } catch {
    // The browser's storage is full or closed: the piece is still in this window and on its way to the server.
  }
}

export function dropDraft(pieceId: string): void {
  localStorage.removeItem(draftKey(pieceId, windowId()));
}

/** This window's draft, or one left behind by a window that is gone, which then becomes this window's. */
export function takeDraftMaybe(pieceId: string): Draft | null {
  const own = draftKey(pieceId, windowId());
  const keys = [own, ...leftBehindKeys(pieceId).filter((key) => key !== own)];
  for (const key of keys) {
    const draft = readDraftMaybe(key);
    if (!draft) continue;
    if (key !== own) {
      localStorage.setItem(own, localStorage.getItem(key) ?? '');
      localStorage.removeItem(key);
    }
    return draft;
  }
  return null;
}

function leftBehindKeys(pieceId: string): string[] {
  const keys = Object.keys(localStorage).filter((key) => key.startsWith(draftKey(pieceId, '')));
  return keys.filter((key) => Date.now() - (storedMaybe(key)?.changedAt ?? 0) > LEFT_BEHIND_MS);
}

function readDraftMaybe(key: string): Draft | null {
  const stored = storedMaybe(key);
  const reading = stored && readPiece(stored.piece);
  return stored && reading?.ok
    ? { revision: stored.revision, edits: stored.edits, piece: reading.piece }
    : null;
}

function storedMaybe(key: string): StoredDraft | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as StoredDraft | null;
  } catch {
    return null;
  }
}

function draftKey(pieceId: string, window: string): string {
  return `${PREFIX}${pieceId}.${window}`;
}

/** One id a tab, kept over a reload, so that two tabs never overwrite each other's draft. */
function windowId(): string {
  const known = sessionStorage.getItem(WINDOW_KEY);
  if (known) return known;
  const id = uuid();
  sessionStorage.setItem(WINDOW_KEY, id);
  return id;
}
