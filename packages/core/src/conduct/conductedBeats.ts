import { writtenBar, type Proof } from '../proof/proof.ts';
import type { Bar } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { beatsIn, type CountOffRunBeat, type RunBeat } from '../run/beatsIn.ts';
import type { RunWindow } from '../run/clicksIn.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import type { ConductedBeat } from './hand.ts';
import { beatPattern, type BeatPoint } from './pattern.ts';

const WHOLE_RUN: RunWindow = { fromSeconds: -Infinity, toSeconds: Infinity };

/**
 * The beats of a run as they are conducted, count-off and all, and where the hand comes to rest at its end: all, or those
 * in a window. Of a run without end a window must be given.
 */
export function conductedBeats(
  proof: Proof,
  plan: RunPlan,
  window: RunWindow = WHOLE_RUN,
): readonly ConductedBeat[] {
  const beats = beatsIn(proof, plan, window).map((beat) => ({
    ...pointOf(proof, beat),
    seconds: beat.runSeconds,
  }));
  const last = beats.at(-1);
  if (last && plan.lengthSeconds < window.toSeconds)
    beats.push({ ...last, reboundHeight: 0, seconds: plan.lengthSeconds });
  return beats.filter(
    ({ seconds }, index) => index === 0 || seconds > (beats[index - 1]?.seconds ?? 0) + SAME_MOMENT_SECONDS,
  );
}

const UPBEAT: BeatPoint = { x: 0.14, y: 0.3, reboundHeight: 0.78 };

/** The points of a bar, as its pulse and its groups are. */
export function barPattern(bar: Bar): readonly BeatPoint[] {
  const pulse = pulseOf(bar);
  const known = patterns.get(pulse) ?? beatPattern(pulse.map(({ stress }) => stress));
  patterns.set(pulse, known);
  return known;
}

const patterns = new WeakMap<ReturnType<typeof pulseOf>, readonly BeatPoint[]>();

function pointOf(proof: Proof, beat: RunBeat): BeatPoint {
  switch (beat.kind) {
    case 'music':
      return barPattern(writtenBar(proof, beat.performed))[beat.beatIndex] ?? UPBEAT;
    case 'countOff':
      return countOffPoint(proof, beat);
    case 'cue':
      return UPBEAT;
  }
}

/** A bar of the count-off is conducted like the bar it leads to, where it has as many beats, else by its number of beats. */
function countOffPoint(proof: Proof, { countOff, beatIndex, entryPerformed }: CountOffRunBeat): BeatPoint {
  const counted = countOff.beats[beatIndex];
  const bar = countOff.beats.filter(({ bar: at, sound }) => at === counted?.bar && sound !== 'subdivision');
  const own = barPattern({ ...writtenBar(proof, entryPerformed), tempoMarks: [] });
  const pattern =
    own.length === bar.length ? own : beatPattern(bar.map((_, place) => (place === 0 ? 'downbeat' : 'beat')));
  return pattern[counted ? bar.indexOf(counted) : 0] ?? UPBEAT;
}
