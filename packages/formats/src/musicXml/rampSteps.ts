import { formatStatedTempo, noteValueLength, toNumber, type StatedTempo } from '@anchorbeat/core';
import type { NoteTaker } from '../notes.ts';
import { soundedTempo } from './direction.ts';
import type { ScoreMark } from './scoreWords.ts';

/** A mark with its bar and its distance from the beginning in whole notes; of a ramp, where it arrives. */
export interface PlacedMark {
  readonly bar: number;
  readonly wholes: number;
  readonly mark: ScoreMark;
  readonly target?: StatedTempo;
  readonly endsRamp?: true;
}

const SLOWS = /rit|rall|allarg|slent|calando|cédez|ralentir|langsamer|slow/i;
/** Said of a ramp that takes its time. */
const LONG = /poco a poco|sempre|gradual|getting/i;
const MOST_BARS = 8;
const SAME_TEMPO = 0.001;

/**
 * Finds where a rit. or accel. leads. Programs play one as a stair of tempi that nobody sees: these are the ramp, and their last
 * one is its target. Else it leads to the next tempo that is printed, where that is slower after a rit. or faster after an
 * accel.
 */
export function withRampTargets(
  marks: readonly PlacedMark[],
  endWholes: number,
  names: readonly string[],
  notes: NoteTaker,
): readonly PlacedMark[] {
  const resolved: PlacedMark[] = [];
  let quarters: number | null = null;
  for (let index = 0; index < marks.length; index++) {
    const placed = marks[index] as PlacedMark;
    if (!placed.mark.isRamp) {
      resolved.push(placed);
      quarters = quartersAfter(placed.mark, quarters);
      continue;
    }
    const { stated } = placed.mark;
    if (stated) quarters = quartersOf(stated);
    const steps = stepsOf(placed, hiddenAfter(marks, index), quarters);
    const taken = steps.filter((step) => step !== placed);
    const last = taken.at(-1);
    const after = marks[index + 1 + taken.length];
    // What stays at the last step for longer than the steps took is no longer the ramp.
    const isOver = last && (after?.wholes ?? endWholes) - last.wholes > last.wholes - placed.wholes;
    const next = isOver ? undefined : after;
    const isSure = last !== undefined || isNear(placed, next?.bar ?? names.length);
    const target: StatedTempo | null = isSure ? targetMaybe(placed, steps, next, quarters) : null;
    if (target)
      notes.guessed(
        `${placed.mark.term ?? 'a ramp'} was taken to arrive at ${formatStatedTempo(target)}, which ${target === next?.mark.stated ? 'comes next' : 'is what the file would play'}`,
        names[placed.bar],
      );
    resolved.push(target ? { ...placed, target } : placed);
    if (isOver) resolved.push({ ...last, mark: { at: last.mark.at }, endsRamp: true });
    quarters = target ? quartersOf(target) : null;
    index += taken.length;
  }
  return resolved;
}

/** What only sounds, up to the next mark that is printed. */
function hiddenAfter(marks: readonly PlacedMark[], index: number): readonly PlacedMark[] {
  let to = index + 1;
  for (let next = marks[to]; next && saysOnlySound(next.mark); next = marks[to]) to++;
  return marks.slice(index + 1, to);
}

/** -1 for a rit., 1 for an accel. */
function directionOf({ mark }: PlacedMark): number {
  return SLOWS.test(mark.term ?? '') ? -1 : 1;
}

/** The steps by which a program plays a ramp: each one farther than the one before, away from the tempo that was. */
function stepsOf(
  ramp: PlacedMark,
  hidden: readonly PlacedMark[],
  quarters: number | null,
): readonly PlacedMark[] {
  const sign = directionOf(ramp);
  const steps: PlacedMark[] = [];
  let before = quarters;
  for (const step of ramp.mark.sounds ? [ramp, ...hidden] : hidden) {
    const sounds = toNumber(step.mark.sounds ?? { n: 0, d: 1 });
    const change = before === null ? sign : sounds / before - 1;
    // The tempo that was may be said once more where the ramp begins.
    const isBeginning = step === ramp && Math.abs(change) <= SAME_TEMPO;
    if (!isBeginning && change * sign <= SAME_TEMPO) break;
    if (!isBeginning) steps.push(step);
    before = sounds;
  }
  return steps;
}

/** Whether a rit. without steps may last up to a bar. */
function isNear({ bar, mark: { term = '' } }: PlacedMark, to: number): boolean {
  return to - bar <= MOST_BARS || LONG.test(term);
}

function targetMaybe(
  ramp: PlacedMark,
  steps: readonly PlacedMark[],
  next: PlacedMark | undefined,
  quarters: number | null,
): StatedTempo | null {
  const last = steps.at(-1)?.mark.sounds ?? null;
  const stated = next?.mark.stated;
  const from = last ? toNumber(last) : quarters;
  if (stated && from !== null) {
    const way = (quartersOf(stated) - from) * directionOf(ramp);
    // Not farther from the last step than that is from where the ramp began.
    const most = last && quarters !== null ? Math.abs(from - quarters) : Infinity;
    if (way > from * SAME_TEMPO && way <= most) return stated;
  }
  return last && soundedTempo(last);
}

/** Quarters a minute after a mark that is no ramp; null where they are not known. */
function quartersAfter(
  { stated, sounds, equivalence, returns }: ScoreMark,
  quarters: number | null,
): number | null {
  if (stated) return quartersOf(stated);
  if (equivalence)
    return quarters && (quarters * noteWholes(equivalence.after)) / noteWholes(equivalence.before);
  if (sounds) return toNumber(sounds);
  return returns ? null : quarters;
}

function quartersOf({ unit, bpm }: StatedTempo): number {
  return toNumber(bpm) * noteWholes(unit) * 4;
}

function noteWholes(unit: StatedTempo['unit']): number {
  return toNumber(noteValueLength(unit));
}

/** A tempo that nobody sees. */
export function saysOnlySound({ at: _at, sounds, ...said }: ScoreMark): boolean {
  return sounds !== undefined && Object.keys(said).length === 0;
}
