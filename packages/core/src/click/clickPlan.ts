import { add, multiply, fraction } from '../fraction/fraction.ts';
import type { Piece } from '../piece/piece.ts';
import { pulseOf, type PulseBeat, type Stress } from '../pulse/pulse.ts';
import { secondsAt } from '../timeline/query.ts';
import type { Timeline } from '../timeline/timeline.ts';

export const CLICK_KINDS = [
  'downbeat',
  'group',
  'beat',
  'subdivision',
  'countoff',
  'countoffDownbeat',
] as const;
export type ClickKind = (typeof CLICK_KINDS)[number];

const KIND_OF_STRESS: Readonly<Record<Stress, number>> = { downbeat: 0, group: 1, beat: 2 };
const SUBDIVISION = 3;

/**
 * Every click of the performance in order of time. Parallel arrays, one entry a click; `kind` indexes
 * CLICK_KINDS, `beat` is the beat's index in its bar, `part` the subdivision in the beat (0 is the beat itself).
 */
export interface ClickPlan {
  readonly timeSeconds: Float64Array;
  readonly performed: Int32Array;
  readonly beat: Int16Array;
  readonly part: Int16Array;
  readonly kind: Uint8Array;
}

/** The click on every beat of the pulse and on the subdivisions under it. */
export function clickPlanOf(piece: Piece, timeline: Timeline): ClickPlan {
  const { barIndex } = timeline.route;
  const plan = emptyPlan(countClicks(piece, barIndex));
  let next = 0;
  barIndex.forEach((written, performed) => {
    const beats = pulseAt(piece, written);
    beats.forEach((beat, beatIndex) => {
      for (let part = 0; part < beat.parts; part++) {
        plan.timeSeconds[next] = secondsAt(timeline, { performed, atWholes: partPosition(beat, part) });
        plan.performed[next] = performed;
        plan.beat[next] = beatIndex;
        plan.part[next] = part;
        plan.kind[next] = part === 0 ? KIND_OF_STRESS[beat.stress] : SUBDIVISION;
        next++;
      }
    });
  });
  return plan;
}

function partPosition(beat: PulseBeat, part: number) {
  return part === 0
    ? beat.atWholes
    : add(beat.atWholes, multiply(beat.lengthWholes, fraction(part, beat.parts)));
}

function pulseAt(piece: Piece, barIndex: number): readonly PulseBeat[] {
  const bar = piece.bars[barIndex];
  if (!bar) throw new RangeError(`bar ${barIndex} is not written`);
  return pulseOf(bar);
}

function countClicks(piece: Piece, barIndex: Int32Array): number {
  return barIndex.reduce(
    (total, written) => total + pulseAt(piece, written).reduce((parts, beat) => parts + beat.parts, 0),
    0,
  );
}

function emptyPlan(length: number): ClickPlan {
  return {
    timeSeconds: new Float64Array(length),
    performed: new Int32Array(length),
    beat: new Int16Array(length),
    part: new Int16Array(length),
    kind: new Uint8Array(length),
  };
}

export function clickKind(plan: ClickPlan, index: number): ClickKind {
  const kind = CLICK_KINDS[plan.kind[index] ?? -1];
  if (!kind) throw new RangeError(`there is no click ${index}`);
  return kind;
}
