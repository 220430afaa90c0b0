import { usePlayback } from '../sound/PlaybackContext.tsx';
import { redone, undone } from '../store/pieceSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';

/** A step back through what was done to the piece, and on again. What sounds is stopped, for it would no longer match. */
export function useSteps() {
  const dispatch = useAppDispatch();
  const playback = usePlayback();
  const canUndo = useAppSelector((state) => Boolean(state.piece.open?.past.length));
  const canRedo = useAppSelector((state) => Boolean(state.piece.open?.future.length));
  const stepped = (action: ReturnType<typeof undone | typeof redone>) => {
    playback.stop();
    dispatch(action);
  };
  return { canUndo, canRedo, undo: () => stepped(undone()), redo: () => stepped(redone()) };
}
