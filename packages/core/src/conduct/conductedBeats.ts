import { clickKind } from '../click/clickPlan.ts';
import type { Bar } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import type { RunPlan, RunSource, RunStretch } from '../run/runPlan.ts';
import { firstAtOrAfter } from '../timeline/query.ts';
import type { ConductedBeat } from './hand.ts';
import { beatPattern, type BeatPoint } from './pattern.ts';

const SAME_MOMENT_SECONDS = 1e-7;

/** Every beat of a run as it is conducted, count-off and all, and where the hand comes to rest at its end. */
export function conductedBeats(source: RunSource, plan: RunPlan): readonly ConductedBeat[] {
  const beats: ConductedBeat[] = [];
  for (const stretch of plan.stretches) {
    if (stretch.kind === 'countOff') beats.push(...countOffBeats(source, plan, stretch));
    else if (stretch.kind === 'music') beats.push(...musicBeats(source, stretch));
    else if (stretch.kind === 'cue') beats.push({ ...UPBEAT, seconds: stretch.runSeconds });
  }
  const last = beats.at(-1);
  if (last && Number.isFinite(plan.lengthSeconds))
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

function musicBeats({ piece, compiled }: RunSource, stretch: RunStretch): readonly ConductedBeat[] {
  const { clicks, timeline } = compiled;
  const end = stretch.fromSeconds + stretch.lengthSeconds * stretch.pace - SAME_MOMENT_SECONDS;
  const beats: ConductedBeat[] = [];
  let index = firstAtOrAfter(clicks.timeSeconds, stretch.fromSeconds - SAME_MOMENT_SECONDS);
  for (; index < clicks.timeSeconds.length; index++) {
    const time = clicks.timeSeconds[index] as number;
    if (time > end) break;
    if (clickKind(clicks, index) === 'subdivision') continue;
    const bar = piece.bars[timeline.route.barIndex[clicks.performed[index] ?? 0] ?? 0] as Bar;
    const point = barPattern(bar)[clicks.beat[index] ?? 0] ?? UPBEAT;
    beats.push({ ...point, seconds: stretch.runSeconds + (time - stretch.fromSeconds) / stretch.pace });
  }
  return beats;
}

/** A bar of the count-off is conducted like the bar it leads to, where it has as many beats, else by its number of beats. */
function countOffBeats({ piece, compiled }: RunSource, plan: RunPlan, stretch: RunStretch): ConductedBeat[] {
  const next = plan.stretches.find(
    ({ runSeconds, kind }) => kind === 'music' && runSeconds > stretch.runSeconds,
  );
  const performed = firstAtOrAfter(
    compiled.timeline.barStartSeconds,
    (next?.fromSeconds ?? plan.entrySeconds) - SAME_MOMENT_SECONDS,
  );
  const entry = piece.bars[compiled.timeline.route.barIndex[performed] ?? 0];
  const beats = (stretch.countOff?.beats ?? []).filter(({ sound }) => sound !== 'subdivision');
  return beats.flatMap((beat, index) => {
    if (beat.timeSeconds < stretch.fromSeconds - SAME_MOMENT_SECONDS) return [];
    const bar = beats.filter((other) => other.bar === beat.bar);
    const inBar = index - beats.findIndex((other) => other.bar === beat.bar);
    const own = entry ? barPattern({ ...entry, tempoMarks: [] }) : [];
    const pattern =
      own.length === bar.length
        ? own
        : beatPattern(bar.map((_, place) => (place === 0 ? 'downbeat' : 'beat')));
    const seconds = stretch.runSeconds + (beat.timeSeconds - stretch.fromSeconds) / stretch.pace;
    return [{ ...(pattern[inBar] ?? UPBEAT), seconds }];
  });
}
