import { Injectable } from '@nestjs/common';

/** A revision that was saved just now: the newest of its piece. */
export interface SavedRevision {
  readonly pieceId: string;
  readonly revision: number;
}

/** Tells at once what was saved, so that whoever works on the piece goes on with it. */
@Injectable()
export class SavedRevisions {
  private readonly listeners: Array<(saved: SavedRevision) => void> = [];

  onSaved(listener: (saved: SavedRevision) => void): void {
    this.listeners.push(listener);
  }

  tell(saved: SavedRevision): void {
    for (const listener of this.listeners) listener(saved);
  }
}
