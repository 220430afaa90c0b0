import { createContext, useContext, useSyncExternalStore } from 'react';
import type { DirectorRoom, DirectorView } from './directorRoom.ts';

export const RoomContext = createContext<DirectorRoom | null>(null);

export function useRoom(): DirectorRoom {
  const room = useContext(RoomContext);
  if (!room) throw new Error('useRoom is used outside RoomContext');
  return room;
}

export function useRoomView(): DirectorView {
  const room = useRoom();
  return useSyncExternalStore(room.subscribe, room.get);
}
