import { noteMilliseconds } from '../bench/triangle.ts';
import type { Equivalence, StatedTempo } from '../tempo/tempoMark.ts';
import { isSameMoment } from '../timeline/sameMoment.ts';
import type { RunClick } from './runPlan.ts';
import { listedSounds, type RunSounds } from './sounds.ts';

/** Two tempi that meet, and the note that lasts equally long on both sides, where there is one. */
export interface TempoJoin {
  readonly old: StatedTempo;
  readonly next: StatedTempo;
  readonly carry: Equivalence | null;
}

const BEATS_EACH_SIDE = 4;
const CARRIED_BEATS = 2;
const SHORTEST_CARRY_SECONDS = 0.04;

/**
 * Four beats of the old tempo, then four of the new; over the last two and the first two the carry sounds through, so
 * that one hears whether the join is the one that is meant. Seconds from the first beat.
 */
export function auditionOf({ old, next, carry }: TempoJoin): RunSounds {
  const oldBeat = noteMilliseconds(old, old.unit) / 1000;
  const newBeat = noteMilliseconds(next, next.unit) / 1000;
  const joinSeconds = BEATS_EACH_SIDE * oldBeat;
  const beats = Array.from({ length: BEATS_EACH_SIDE }, (_, beat): RunClick[] => [
    { timeSeconds: beat * oldBeat, kind: beat === 0 ? 'downbeat' : 'beat' },
    { timeSeconds: joinSeconds + beat * newBeat, kind: beat === 0 ? 'downbeat' : 'beat' },
  ]).flat();
  const carried = carry
    ? [
        ...carriedNotes(noteMilliseconds(old, carry.before) / -1000, CARRIED_BEATS * oldBeat),
        ...carriedNotes(noteMilliseconds(next, carry.after) / 1000, CARRIED_BEATS * newBeat),
      ].map((fromJoin): RunClick => ({ timeSeconds: joinSeconds + fromJoin, kind: 'subdivision' }))
    : [];
  const onBeat = (time: number) => beats.some((beat) => isSameMoment(beat.timeSeconds, time));
  const clicks = [...beats, ...carried.filter(({ timeSeconds }) => !onBeat(timeSeconds))];
  clicks.sort((a, b) => a.timeSeconds - b.timeSeconds);
  return listedSounds(clicks, joinSeconds + BEATS_EACH_SIDE * newBeat);
}

/** Seconds from the join at which the carry sounds, on one side of it, as far as `reachSeconds`. */
function carriedNotes(stepSeconds: number, reachSeconds: number): number[] {
  const step = Math.abs(stepSeconds);
  if (step < SHORTEST_CARRY_SECONDS) return [];
  const count = Math.floor(reachSeconds / step + 1e-9);
  return Array.from({ length: count }, (_, index) => (index + 1) * stepSeconds);
}
