import { Suspense, useEffect, useRef } from 'react';
import { useLocation } from 'react-router';
import { useRoom, useRoomView } from '../room/RoomContext.tsx';
import { keepRehearsal } from '../store/rehearsalSlice.ts';
import { useAppSelector } from '../store/store.ts';
import { lazyNamed } from '../ui/lazyNamed.ts';

const StripShown = lazyNamed('StripShown', () => import('./StripShown.tsx'));

/** While a rehearsal is under way: what is worked on, how long yet, and what comes next; over every other screen. */
export function RehearsalStrip() {
  const rehearsal = useAppSelector((state) => state.rehearsal);
  const { pathname } = useLocation();
  useEffect(() => keepRehearsal(rehearsal), [rehearsal]);
  useToldStands(rehearsal.item?.title ?? '');
  if (rehearsal.dateId === null || !rehearsal.item || pathname === '/rehearse') return null;
  return (
    <Suspense fallback={null}>
      <StripShown />
    </Suspense>
  );
}

/** Stands of an open room show between runs what is worked on by the plan; nothing once the rehearsal is over. */
function useToldStands(title: string): void {
  const room = useRoom();
  const { view } = useRoomView();
  const isOpen = view?.connection === 'open';
  const shown = view?.room?.next;
  const hasTold = useRef(false);
  useEffect(() => {
    if (!isOpen || shown === undefined || shown === title || (title === '' && !hasTold.current)) return;
    hasTold.current = true;
    // A stand that is not told shows the piece.
    room.say('settings', { next: title }).catch(() => undefined);
  }, [room, isOpen, shown, title]);
}
