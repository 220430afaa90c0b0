import type { Piece } from '@anchorbeat/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A step of the history of this sitting: the piece as it was before, and what was done to it. */
export interface Step {
  readonly piece: Piece;
  readonly says: string;
}

export type SaveState =
  | { readonly kind: 'saved' }
  | { readonly kind: 'waiting' }
  | { readonly kind: 'saving' }
  | { readonly kind: 'retrying'; readonly reason: string }
  | { readonly kind: 'refused'; readonly reason: string }
  | {
      readonly kind: 'stale';
      readonly currentRevision: number;
      readonly differences: readonly string[];
      /** What this grew from is not there any more: one of the two is gone on with as a whole. */
      readonly isBaseGone: boolean;
    };

export interface OpenPiece {
  readonly id: string;
  readonly ensembleId: string;
  /** The saved revision the present piece grew from. */
  readonly revision: number;
  readonly present: Piece;
  readonly past: readonly Step[];
  readonly future: readonly Step[];
  /** What was done since that revision, in words. */
  readonly unsavedEdits: readonly string[];
  readonly save: SaveState;
  /** Whether this browser keeps what is unsaved; false where its storage is full or closed. */
  readonly isKeptHere: boolean;
}

/** The revision that an open piece is, bar for bar; null where something of it is not saved. */
export function savedRevisionMaybe(open: OpenPiece | null): number | null {
  return open && open.unsavedEdits.length === 0 && open.revision > 0 ? open.revision : null;
}

export interface PieceState {
  readonly open: OpenPiece | null;
}

export interface Opened {
  readonly id: string;
  readonly ensembleId: string;
  readonly revision: number;
  readonly piece: Piece;
  /** Work that had not been saved when the window closed. */
  readonly unsavedEdits?: readonly string[];
  /** What can be undone and done again from before a reload. */
  readonly past?: readonly Step[];
  readonly future?: readonly Step[];
}

interface Merged {
  readonly piece: Piece;
  /** The saved revision that is gone on from. */
  readonly revision: number;
  /** Which of the two was taken as a whole; nothing where they were put together. */
  readonly taken?: 'mine' | 'theirs';
}

const initialState: PieceState = { open: null };

/** The piece being worked on, its undo history and whether it is saved. Reducers replace; they never reach inside a piece. */
export const pieceSlice = createSlice({
  name: 'piece',
  initialState: initialState,
  reducers: {
    opened: (_state, { payload }: PayloadAction<Opened>): PieceState => {
      const unsavedEdits = payload.unsavedEdits ?? [];
      return {
        open: {
          id: payload.id,
          ensembleId: payload.ensembleId,
          revision: payload.revision,
          present: payload.piece,
          past: payload.past ?? [],
          future: payload.future ?? [],
          unsavedEdits,
          save: { kind: unsavedEdits.length > 0 ? 'waiting' : 'saved' },
          isKeptHere: true,
        },
      };
    },
    closed: (): PieceState => ({ open: null }),
    edited: (state, { payload }: PayloadAction<Step>): PieceState => {
      const { open } = state as PieceState;
      if (!open) return state;
      const past = [...open.past, { piece: open.present, says: payload.says }];
      return { open: { ...changed(open, payload.piece, payload.says), past, future: [] } };
    },
    undone: (state): PieceState => {
      const { open } = state as PieceState;
      const step = open?.past.at(-1);
      if (!open || !step) return state;
      const future = [{ piece: open.present, says: step.says }, ...open.future];
      return {
        open: { ...changed(open, step.piece, `Undone: ${step.says}`), past: open.past.slice(0, -1), future },
      };
    },
    redone: (state): PieceState => {
      const { open } = state as PieceState;
      const [step, ...future] = open?.future ?? [];
      if (!open || !step) return state;
      const past = [...open.past, { piece: open.present, says: step.says }];
      return { open: { ...changed(open, step.piece, `Done again: ${step.says}`), past, future } };
    },
    saveStateChanged: (state, { payload }: PayloadAction<SaveState>): PieceState => {
      const { open } = state as PieceState;
      return open ? { open: { ...open, save: payload } } : state;
    },
    /** A save was acknowledged: it covered the first `editCount` unsaved edits. */
    saved: (
      state,
      { payload }: PayloadAction<{ readonly revision: number; readonly editCount: number }>,
    ): PieceState => {
      const { open } = state as PieceState;
      if (!open) return state;
      const unsavedEdits = open.unsavedEdits.slice(payload.editCount);
      const save: SaveState = { kind: unsavedEdits.length > 0 ? 'waiting' : 'saved' };
      return { open: { ...open, revision: payload.revision, unsavedEdits, save } };
    },
    /** What another window saved is put together with what is here, or one of the two taken; it can be undone like any step. */
    merged: (state, { payload }: PayloadAction<Merged>): PieceState => {
      const { open } = state as PieceState;
      if (!open) return state;
      const { taken } = payload;
      const says = taken
        ? `Gone on with ${taken === 'theirs' ? 'the backup' : 'what was here'} after a backup was brought back as revision ${payload.revision}`
        : `Put together with revision ${payload.revision}, saved in another window`;
      const past = [...open.past, { piece: open.present, says }];
      const unsavedEdits = taken === 'theirs' ? [says] : [...open.unsavedEdits, says];
      const save: SaveState = { kind: 'waiting' };
      return {
        open: {
          ...open,
          present: payload.piece,
          revision: payload.revision,
          past,
          future: [],
          unsavedEdits,
          save,
        },
      };
    },
    /** The same piece as it was saved elsewhere, where nothing was done here since; it can be undone like any step. */
    renewed: (
      state,
      { payload }: PayloadAction<{ readonly revision: number; readonly piece: Piece }>,
    ): PieceState => {
      const { open } = state as PieceState;
      const { revision, piece } = payload;
      if (!open || revision <= open.revision) return state;
      const past = [...open.past, { piece: open.present, says: `Revision ${revision}, saved elsewhere` }];
      return { open: { ...open, present: piece, revision, past, future: [] } };
    },
    draftKept: (state, { payload }: PayloadAction<boolean>): PieceState => {
      const { open } = state as PieceState;
      return open ? { open: { ...open, isKeptHere: payload } } : state;
    },
  },
});

function changed(open: OpenPiece, present: Piece, says: string): OpenPiece {
  const save: SaveState = open.save.kind === 'stale' ? open.save : { kind: 'waiting' };
  return { ...open, present, unsavedEdits: [...open.unsavedEdits, says], save };
}

export const { opened, closed, edited, undone, redone, saveStateChanged, saved, merged, renewed, draftKept } =
  pieceSlice.actions;
