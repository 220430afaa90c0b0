import { useState } from 'react';
import { useStore } from 'react-redux';
import { toast } from '../ui/toast.ts';
import type { KeyPress } from '../acts/act.ts';
import { readPlace } from '../map/entries.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { barSelected } from '../store/mapSlice.ts';
import type { RootState } from '../store/store.ts';

/** Text being typed for a place: null while none is. Digits begin it. */
export function useTypedPlace() {
  const { piece } = useProof();
  const playback = usePlayback();
  const store = useStore<RootState>();
  const [typed, setTyped] = useState<string | null>(null);
  const enter = () => {
    const place = readPlace(typed ?? '', { piece });
    setTyped(null);
    if (!place.ok) toast(place.problem.message);
    else if (place.value.kind === 'go' && !playback.isRunning)
      store.dispatch(barSelected({ bar: place.value.bar }));
  };
  const onKey = ({ key, command }: KeyPress): boolean => {
    if (command) return false;
    if (typed === null && !/^\d$/.test(key)) return false;
    if (key === 'Enter') enter();
    else if (key === 'Escape') setTyped(null);
    else if (key === 'Backspace') setTyped((typed ?? '').slice(0, -1));
    else if (key.length === 1) setTyped(`${typed ?? ''}${key}`.slice(0, 24));
    else return false;
    return true;
  };
  return { typed, onKey, begin: () => setTyped('') };
}
