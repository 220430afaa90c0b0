import type { Proof } from '@anchorbeat/core';
import { useEffect } from 'react';
import { useRoom, useRoomView } from '../room/RoomContext.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useListRoomsQuery } from '../store/peopleApi.ts';
import { useAppSelector } from '../store/store.ts';

/** How often a page that is in none looks for a rehearsal that was opened on another device. */
const LOOK_MS = 15_000;

/** Comes into the rehearsal that an ensemble has open, wherever it was opened; true while it is connected with it. */
export function useEnteredRoom(ensembleId: string | null): boolean {
  const room = useRoom();
  const { response, view, over } = useRoomView();
  const { rooms, askedAtMs, isLoading, refetch } = useListRoomsQuery(ensembleId ?? '', {
    skip: ensembleId === null,
    pollingInterval: response ? 0 : LOOK_MS,
    selectFromResult: ({ data, startedTimeStamp = 0, isLoading: isFirst }) => ({
      rooms: data,
      askedAtMs: startedTimeStamp,
      isLoading: isFirst,
    }),
  });
  // What a list from before says of a rehearsal that is over is not so any more; and who was sent away does not knock at once.
  const isGone = (id: string) => id === over?.roomId && askedAtMs < over.atMs + LOOK_MS;
  const first = rooms?.find(({ id }) => !isGone(id));
  useEffect(() => {
    if (first && first.id !== response?.id) void room.enter(first);
  }, [first, response, room]);
  useEffect(() => {
    if (over && ensembleId !== null) void refetch();
  }, [over, ensembleId, refetch]);
  useEffect(() => {
    room.setAsked(isLoading);
    return () => room.setAsked(false);
  }, [isLoading, room]);
  return view?.connection === 'open';
}

/**
 * Comes into the rehearsal that is open, tells it which piece is on the desk, and takes a run in hand that goes on there:
 * a page that was loaded again is where it was.
 */
export function useRehearsal(proof: Proof): void {
  const open = useAppSelector((state) => state.piece.open);
  const room = useRoom();
  const playback = usePlayback();
  const isOpen = useEnteredRoom(open?.ensembleId ?? null);
  const { view } = useRoomView();
  const known = view?.room?.open;
  const pieceId = open?.id;
  const revision = open?.revision;
  useEffect(() => {
    if (!isOpen || pieceId === undefined || revision === undefined || revision < 1) return;
    if (known?.pieceId === pieceId && known.revision === revision) return;
    room.say('open', { pieceId, revision }).catch(() => undefined);
  }, [isOpen, known, pieceId, revision, room]);
  useEffect(() => room.subscribe(() => playback.join(proof)), [room, playback, proof]);
}
