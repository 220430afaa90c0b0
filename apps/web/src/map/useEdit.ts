import { applyEdit, type Edit } from '@anchorbeat/core';
import { useCallback } from 'react';
import { useStore } from 'react-redux';
import { toast } from '../ui/toast.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { edited } from '../store/pieceSlice.ts';
import type { RootState } from '../store/store.ts';

/** Makes an edit of the open piece; a refusal is shown. A run that sounds is stopped, for it would no longer match. */
export function useEdit(): (edit: Edit) => boolean {
  const store = useStore<RootState>();
  const playback = usePlayback();
  return useCallback(
    (edit: Edit) => {
      const { open } = store.getState().piece;
      if (!open) return false;
      const result = applyEdit(open.present, edit);
      if (!result.ok) {
        toast(result.problem.message);
        return false;
      }
      if (playback.isRunning) playback.stop();
      store.dispatch(edited(result.value));
      return true;
    },
    [store, playback],
  );
}
