import type { SaveState } from '../store/pieceSlice.ts';
import { useAppSelector } from '../store/store.ts';

/** Whether what is on the screen is kept. */
export function SaveLine() {
  const open = useAppSelector((state) => state.piece.open);
  if (!open) return null;
  const { save, isKeptHere } = open;
  const isTrouble = save.kind === 'retrying' || save.kind === 'refused' || save.kind === 'stale';
  return (
    <p
      role="status"
      data-testid="save-state"
      className={isTrouble ? 'font-semibold text-problem' : 'truncate text-quiet'}
    >
      {saveWords(save, isKeptHere)}
    </p>
  );
}

function saveWords(save: SaveState, isKeptHere: boolean): string {
  switch (save.kind) {
    case 'saved':
      return 'saved';
    case 'waiting':
    case 'saving':
      return 'saving …';
    case 'retrying':
      return isKeptHere
        ? `Not saved yet, kept in this window. ${save.reason}`
        : `Not saved, and this browser has no room to keep it: leave this window open. ${save.reason}`;
    case 'refused':
      return `Not saved: ${save.reason}`;
    case 'stale':
      return 'Changed in another window too';
  }
}
