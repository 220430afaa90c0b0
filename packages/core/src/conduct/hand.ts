import { firstAtOrAfter } from '../timeline/query.ts';
import type { BeatPoint } from './pattern.ts';

/** A beat as it is conducted: when the hand touches down, and where. */
export interface ConductedBeat extends BeatPoint {
  readonly seconds: number;
}

export interface HandStyle {
  /** From 0, struck, to 1, drawn. */
  readonly legato: number;
  /** As the ensemble sees it, or as the conductor does it. */
  readonly seenBy: 'conductor' | 'ensemble';
  readonly hand: 'right' | 'left';
}

export const PLAIN_HAND: HandStyle = { legato: 0.6, seenBy: 'conductor', hand: 'right' };

export interface HandPlace {
  readonly x: number;
  readonly y: number;
}

/**
 * Where the hand is at a time. It touches down on every beat at its very time with no vertical speed left, so that place
 * and velocity are continuous, also where meter or tempo change. Before a change of tempo the rise and fall that lead
 * to the beat already take the time of the new one. Beats ascend; before the first and after the last the hand rests.
 */
export function handAt(beats: readonly ConductedBeat[], seconds: number, style: HandStyle): HandPlace {
  const next = firstAfter(beats, seconds);
  const place = placeBetween(beats, next, seconds, style);
  const isMirrored = (style.seenBy === 'ensemble') !== (style.hand === 'left');
  return isMirrored ? { x: -place.x, y: place.y } : place;
}

function firstAfter(beats: readonly ConductedBeat[], seconds: number): number {
  const times = timesOf(beats);
  const index = firstAtOrAfter(times, seconds);
  return times[index] === seconds ? index + 1 : index;
}

const known = new WeakMap<readonly ConductedBeat[], Float64Array>();

function timesOf(beats: readonly ConductedBeat[]): Float64Array {
  const times = known.get(beats) ?? Float64Array.from(beats, ({ seconds }) => seconds);
  known.set(beats, times);
  return times;
}

function placeBetween(
  beats: readonly ConductedBeat[],
  next: number,
  seconds: number,
  { legato }: HandStyle,
): HandPlace {
  const [from, to] = [beats[next - 1], beats[next]];
  if (!from || !to) {
    const rest = from ?? to;
    return rest ? { x: rest.x, y: rest.y } : { x: 0, y: 0 };
  }
  const length = to.seconds - from.seconds;
  const share = (seconds - from.seconds) / length;
  const x = hermite(from.x, to.x, speedAt(beats, next - 1) * length, speedAt(beats, next) * length, share);
  const y = from.y + (to.y - from.y) * smooth(share);
  return { x, y: y + rise(from, length, lengthAfter(beats, next) ?? length, share, legato) };
}

/** Horizontal speed at a beat: what leads evenly from the one before it to the one after. */
function speedAt(beats: readonly ConductedBeat[], index: number): number {
  const [before, after] = [beats[index - 1], beats[index + 1]];
  if (!before || !after) return 0;
  return (after.x - before.x) / (after.seconds - before.seconds);
}

function lengthAfter(beats: readonly ConductedBeat[], index: number): number | null {
  const [beat, after] = [beats[index], beats[index + 1]];
  return beat && after ? after.seconds - beat.seconds : null;
}

/** The rise and fall between two beats, nothing at either end. It takes the time of the beat to come, where that is shorter. */
function rise(
  from: ConductedBeat,
  length: number,
  nextLength: number,
  share: number,
  legato: number,
): number {
  const taken = Math.min(1, nextLength / length);
  const inside = (share - (1 - taken)) / taken;
  if (inside <= 0) return 0;
  const height = from.reboundHeight * Math.min(1, length / nextLength);
  return height * (4 * inside * (1 - inside)) ** (1.15 + 0.85 * legato);
}

function smooth(share: number): number {
  return share * share * (3 - 2 * share);
}

function hermite(from: number, to: number, speedFrom: number, speedTo: number, t: number): number {
  const [t2, t3] = [t * t, t * t * t];
  return (
    (2 * t3 - 3 * t2 + 1) * from +
    (t3 - 2 * t2 + t) * speedFrom +
    (3 * t2 - 2 * t3) * to +
    (t3 - t2) * speedTo
  );
}
