import { PLAYED_CHOICES, type PlayedChoice } from '@anchorbeat/core';
import { useEffect, type PointerEvent } from 'react';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { playsAlongSet } from '../store/transportSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { nextOf } from '../ui/nextOf.ts';

/** What is played along, in the order one key goes through it. */
const CHOICES: ReadonlyArray<PlayedChoice | null> = [null, ...PLAYED_CHOICES];

const PLAYED_NAMES: Readonly<Record<PlayedChoice, string>> = {
  pulse: 'every beat',
  groups: 'every group',
  carry: 'the carry',
  notes: 'the notes',
};

/** "play along: every beat", "nobody plays along". */
export function playedName(play: PlayedChoice | null): string {
  return play === null ? 'nobody plays along' : `play along: ${PLAYED_NAMES[play]}`;
}

export interface Tapping {
  readonly playsAlong: PlayedChoice | null;
  /** A run sounds and is tapped along with. */
  readonly isOn: boolean;
  /** Goes on to the next thing that may be played along. */
  readonly next: () => void;
  /** A finger or a pointer that comes down on a pad of the screen. */
  readonly onPointerDown: (event: PointerEvent) => void;
}

/** Taps along with a run: the Enter key, any pad that is plugged in, or the screen. Times are those of the events themselves. */
export function useTapping(): Tapping {
  const playback = usePlayback();
  const dispatch = useAppDispatch();
  const { playsAlong, status } = useAppSelector((state) => state.transport);
  const isOn = playsAlong !== null && status !== 'stopped';
  useEffect(() => {
    if (!isOn) return undefined;
    const tap = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' && !event.key.startsWith('pad ')) return;
      event.preventDefault();
      event.stopPropagation();
      if (!event.repeat) playback.tap(event.timeStamp);
    };
    // Before anything that has the focus: a tap is a tap wherever it is.
    window.addEventListener('keydown', tap, { capture: true });
    return () => window.removeEventListener('keydown', tap, { capture: true });
  }, [isOn, playback]);
  return {
    playsAlong,
    isOn,
    next: () => dispatch(playsAlongSet(nextOf(CHOICES, playsAlong))),
    onPointerDown: (event) => playback.tap(event.timeStamp),
  };
}
