import { isLocked } from '@anchorbeat/core';
import type { RoomView } from '../room/roomLink.ts';
import type { StandSnapshot } from './standSession.ts';

/** "locked, within 1 ms", "finding the beat", "alone since 12 s": how well this device goes with the others. */
export function lockWords({ connection, lostSinceMs, clock }: RoomView): string {
  if (connection === 'lost') {
    const seconds = lostSinceMs === null ? 0 : Math.round((performance.now() - lostSinceMs) / 1000);
    return `no network for ${seconds} s, going on`;
  }
  if (!Number.isFinite(clock.standardErrorMs)) return 'finding the beat';
  const within = Math.max(1, Math.ceil(clock.standardErrorMs));
  return `${isLocked(clock) ? 'locked' : 'poor lock'}, within ${within} ms`;
}

/** What a stand is doing, for its player. */
export function stateWords({ state, failure, view }: StandSnapshot): string {
  if (failure !== null) return failure;
  switch (state) {
    case 'joining':
      return 'Coming into the rehearsal …';
    case 'loading':
      return 'Getting the piece …';
    case 'locking':
      return 'Finding the common beat …';
    case 'muted by the director':
      return 'Muted by the director';
    case 'muted here':
      return 'Muted here';
    case 'silent: poor lock':
      return 'Silent: this device is not sure of the beat';
    case 'lost':
      return 'No network: it goes on by itself';
    case 'ready':
      return 'Ready';
    case 'waiting for a cue':
    case 'counting off':
    case 'playing':
      return view.room?.run ? `now ${view.room.run.title}` : '';
  }
}
