import { useEffect, useRef } from 'react';
import { useRoom, useRoomView } from '../room/RoomContext.tsx';

/**
 * Stands show between runs what is worked on by the plan of this page, from when it begins; nothing once the rehearsal is over.
 * What somebody has them show meanwhile stays.
 */
export function useToldStands(title: string): void {
  const room = useRoom();
  const { response, view } = useRoomView();
  const isOpen = view?.connection === 'open';
  const roomId = response?.id ?? '';
  const shown = view?.room?.next;
  const told = useRef({ roomId: '', title: '' });
  useEffect(() => {
    if (!isOpen || shown === undefined) return;
    const before = told.current.roomId === roomId ? told.current.title : '';
    if (before === title) return;
    told.current = { roomId, title };
    // A stand that is not told shows the piece.
    if (shown !== title)
      room.say('settings', { next: title }).catch(() => (told.current = { roomId, title: before }));
  }, [room, isOpen, roomId, shown, title]);
}
