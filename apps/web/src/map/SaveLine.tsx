import type { SaveState } from '../store/pieceSlice.ts';
import { useAppSelector } from '../store/store.ts';

/** Whether what is on the screen is kept. */
export function SaveLine() {
  const save = useAppSelector((state) => state.piece.open?.save);
  if (!save) return null;
  const isTrouble = save.kind === 'retrying' || save.kind === 'refused' || save.kind === 'stale';
  return (
    <p
      role="status"
      data-testid="save-state"
      className={isTrouble ? 'font-semibold text-problem' : 'whitespace-nowrap text-quiet'}
    >
      {saveWords(save)}
    </p>
  );
}

function saveWords(save: SaveState): string {
  switch (save.kind) {
    case 'saved':
      return 'saved';
    case 'waiting':
    case 'saving':
      return 'saving …';
    case 'retrying':
      return `Not saved yet, kept in this window. ${save.reason}`;
    case 'refused':
      return `Not saved: ${save.reason}`;
    case 'stale':
      return 'Changed in another window too';
  }
}
