import { readPiece, writePiece, type Piece, type PieceDocument } from '@anchorbeat/core';
import { openDB } from 'idb';
import type { OpenPiece } from './pieceSlice.ts';
import { pageWindows, type Windows } from './windows.ts';

/** What has been sent and not yet acknowledged. */
export interface InFlight {
  readonly piece: Piece;
  /** So many of the draft's edits it covers. */
  readonly editCount: number;
}

/** Work that was not saved yet when a window closed or failed. */
export interface Draft {
  /** The saved revision it grew from. */
  readonly revision: number;
  readonly edits: readonly string[];
  readonly piece: Piece;
  /** May have become a revision without anybody here knowing. */
  readonly inFlight: InFlight | null;
}

/** A draft of a window that is gone, with where it is kept. */
export interface KeptDraft extends Draft {
  readonly key: string;
}

/** A draft as it is kept: one a window and piece. */
export interface StoredDraft {
  readonly key: string;
  readonly pieceId: string;
  readonly window: string;
  readonly revision: number;
  readonly edits: readonly string[];
  readonly piece: PieceDocument;
  readonly inFlight: { readonly piece: PieceDocument; readonly editCount: number } | null;
}

/** Where drafts are kept. What fails rejects. */
export interface DraftRows {
  readonly put: (draft: StoredDraft) => Promise<unknown>;
  readonly remove: (key: string) => Promise<unknown>;
  readonly ofPiece: (pieceId: string) => Promise<readonly StoredDraft[]>;
}

/** Keeps unsaved work in the browser until the server has acknowledged it. Steps are taken in the order they are asked for. */
export class DraftStore {
  private last: Promise<unknown> = Promise.resolve();
  private found: Windows | null = null;

  /** The windows are looked for when they are first needed: a browser that cannot tell keeps no drafts, and nothing stops. */
  constructor(
    private readonly rows: DraftRows,
    private readonly findWindows: () => Windows,
  ) {}

  private get windows(): Windows {
    return (this.found ??= this.findWindows());
  }

  /** Whether the unsaved work of this window is kept now; where there is none, any draft of it is gone. */
  keep(open: OpenPiece, inFlight: InFlight | null): Promise<boolean> {
    return this.inTurn(async () => {
      const window = await this.windows.own;
      const key = keyOf(open.id, window);
      if (open.unsavedEdits.length === 0) await this.rows.remove(key);
      else {
        const { revision, unsavedEdits: edits, present: piece } = open;
        await this.put(open.id, window, { revision, edits, piece, inFlight });
      }
      return true;
    }, false);
  }

  drop(pieceId: string): Promise<boolean> {
    return this.inTurn(async () => {
      await this.rows.remove(keyOf(pieceId, await this.windows.own));
      return true;
    }, false);
  }

  /** This window's draft of a piece, or one of a window that is gone, which then becomes this window's. */
  takeMaybe(pieceId: string): Promise<Draft | null> {
    return this.inTurn(async () => {
      const own = await this.windows.own;
      const stored = await this.rows.ofPiece(pieceId);
      const present = await this.windows.present(stored.map(({ window }) => window));
      const free = stored.filter(({ window }) => window === own || !present.has(window));
      for (const row of [...free].sort((a) => (a.window === own ? -1 : 1))) {
        const draft = readDraftMaybe(row);
        if (!draft) continue;
        if (row.window !== own) {
          await this.rows.put({ ...row, key: keyOf(pieceId, own), window: own });
          await this.rows.remove(row.key);
        }
        return draft;
      }
      return null;
    }, null);
  }

  /** The drafts of other windows that are gone, oldest ground first. They stay where they are until `absorbed`. */
  othersOf(pieceId: string): Promise<readonly KeptDraft[]> {
    return this.inTurn(async () => {
      const own = await this.windows.own;
      const others = (await this.rows.ofPiece(pieceId)).filter(({ window }) => window !== own);
      const present = await this.windows.present(others.map(({ window }) => window));
      return others
        .filter(({ window }) => !present.has(window))
        .flatMap((row) => {
          const draft = readDraftMaybe(row);
          return draft ? [{ ...draft, key: row.key }] : [];
        })
        .sort((a, b) => a.revision - b.revision);
    }, []);
  }

  /** What was in some other windows' drafts is in this one's from now on, which is kept before they go. */
  absorbed(pieceId: string, merged: Draft, keys: readonly string[]): Promise<boolean> {
    return this.inTurn(async () => {
      if (merged.edits.length > 0) await this.put(pieceId, await this.windows.own, merged);
      for (const key of keys) await this.rows.remove(key);
      return true;
    }, false);
  }

  private put(pieceId: string, window: string, { piece, inFlight, ...rest }: Draft): Promise<unknown> {
    return this.rows.put({
      ...rest,
      key: keyOf(pieceId, window),
      pieceId,
      window,
      piece: writePiece(piece),
      inFlight: inFlight && { ...inFlight, piece: writePiece(inFlight.piece) },
    });
  }

  /** Storage that is full, closed or forbidden stops nobody: it is answered with what holds without it. */
  private inTurn<T>(step: () => Promise<T>, otherwise: T): Promise<T> {
    const result = this.last.then(step).catch(() => otherwise);
    this.last = result;
    return result;
  }
}

function keyOf(pieceId: string, window: string): string {
  return `${pieceId}.${window}`;
}

function readDraftMaybe({ revision, edits, piece, inFlight }: StoredDraft): Draft | null {
  const reading = readPiece(piece);
  if (!reading.ok) return null;
  const sent = inFlight && readPiece(inFlight.piece);
  return {
    revision,
    edits,
    piece: reading.piece,
    inFlight: sent?.ok && inFlight ? { piece: sent.piece, editCount: inFlight.editCount } : null,
  };
}

const DATABASE = 'anchorbeat';
const DRAFTS = 'drafts';
const BY_PIECE = 'byPiece';

/** Rows in the browser's database, which is opened when it is first needed. */
function databaseRows(): DraftRows {
  let opened: ReturnType<typeof openDB> | null = null;
  const database = () =>
    (opened ??= openDB(DATABASE, 1, {
      upgrade: (fresh) =>
        void fresh.createObjectStore(DRAFTS, { keyPath: 'key' }).createIndex(BY_PIECE, 'pieceId'),
    }));
  return {
    put: async (draft) => (await database()).put(DRAFTS, draft),
    remove: async (key) => (await database()).delete(DRAFTS, key),
    ofPiece: async (pieceId) =>
      (await (await database()).getAllFromIndex(DRAFTS, BY_PIECE, pieceId)) as StoredDraft[],
  };
}

let page: DraftStore | null = null;

/** The drafts of this browser. */
export function pageDrafts(): DraftStore {
  return (page ??= new DraftStore(databaseRows(), pageWindows));
}
