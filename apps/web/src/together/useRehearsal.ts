import type { Proof } from '@anchorbeat/core';
import { useEffect, useRef } from 'react';
import { useRoom, useRoomView } from '../room/RoomContext.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { useDirects, useListRoomsQuery } from '../store/peopleApi.ts';
import { useSavedElsewhere } from '../piece/useSavedElsewhere.ts';
import type { OpenPiece } from '../store/pieceSlice.ts';
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
  const enteredId = response?.id;
  useEffect(() => {
    // Its code may have been changed on another device.
    const isKnown = first?.id === enteredId && first?.code === room.get().response?.code;
    if (first && !isKnown) void room.enter(first);
  }, [first, enteredId, room]);
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
  useEnteredRoom(open?.ensembleId ?? null);
  usePutOnStands(open);
  useNewestRevision();
  useEffect(() => {
    playback.join(proof);
    return room.subscribe(() => playback.join(proof));
  }, [room, playback, proof]);
}

/** Goes on with the newest revision of the open piece that the rehearsal has, where nothing waits to be saved or sounds here. */
export function useNewestRevision(): void {
  const { view } = useRoomView();
  const id = useAppSelector((state) => state.piece.open?.id);
  const known = [view?.room?.open, view?.room?.run].filter((one) => one?.pieceId === id);
  useSavedElsewhere(Math.max(0, ...known.map((one) => one?.revision ?? 0)));
}

/**
 * Puts a piece on the stands as a page that leads comes to its podium, and its newer revisions. Where another page has put
 * another piece there since, that stays.
 */
export function usePutOnStands(piece: Pick<OpenPiece, 'id' | 'ensembleId' | 'revision'> | null): void {
  const room = useRoom();
  const { view } = useRoomView();
  const directs = useDirects(piece?.ensembleId);
  const put = useRef('');
  const { id = '', revision = 0 } = piece ?? {};
  const mayPut = view?.connection === 'open' && (directs || view.room?.coDirectorsLead === true);
  const known = view?.room ? view.room.open : undefined;
  useEffect(() => {
    if (known === undefined || revision < 1) return;
    const isThere = known?.pieceId === id;
    const isFirst = put.current !== id;
    const wasReplaced = known !== null && !isThere && !isFirst;
    put.current = id;
    // Who is let lead later takes nothing from the stands by that.
    if (!mayPut || wasReplaced) return;
    if (isThere && (isFirst ? known.revision === revision : known.revision >= revision)) return;
    room.say('open', { pieceId: id, revision }).catch(() => (put.current = ''));
  }, [mayPut, known, id, revision, room]);
}
