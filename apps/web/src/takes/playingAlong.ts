import { PLAYED_CHOICES, type PlayedChoice } from '@anchorbeat/core';
import { playsAlongSet } from '../store/transportSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { nextOf } from '../ui/nextOf.ts';

/** What is played along, in the order one key goes through it. */
const CHOICES: ReadonlyArray<PlayedChoice | null> = [null, ...PLAYED_CHOICES];

export const PLAYED_NAMES: Readonly<Record<PlayedChoice, string>> = {
  pulse: 'every beat',
  groups: 'every group',
  carry: 'the carry',
  notes: 'the notes',
};

/** "play along: every beat", "nobody plays along". */
export function playedName(play: PlayedChoice | null): string {
  return play === null ? 'nobody plays along' : `play along: ${PLAYED_NAMES[play]}`;
}

export interface PlayingAlong {
  readonly playsAlong: PlayedChoice | null;
  /** A run sounds and is tapped along with. */
  readonly isOn: boolean;
  /** Goes on to the next thing that may be played along; not while a run sounds. */
  readonly next: () => void;
}

/** What is played along with the next run, or with the one that sounds. */
export function usePlayingAlong(): PlayingAlong {
  const dispatch = useAppDispatch();
  const playsAlong = useAppSelector((state) => state.transport.playsAlong);
  const isStopped = useAppSelector((state) => state.transport.status === 'stopped');
  return {
    playsAlong,
    isOn: playsAlong !== null && !isStopped,
    next: () => {
      if (isStopped) dispatch(playsAlongSet(nextOf(CHOICES, playsAlong)));
    },
  };
}
