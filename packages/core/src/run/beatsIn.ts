import { clickKind } from '../click/clickPlan.ts';
import { writtenIndex, type Proof } from '../proof/proof.ts';
import type { CountOff } from '../countoff/countOff.ts';
import { firstAtOrAfter, pieceSeconds } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import {
  entryAfter,
  isPlayedIn,
  runSecondsOf,
  stretchesIn,
  type RunPlan,
  type RunStretch,
} from './runPlan.ts';
import type { RunWindow } from './clicksIn.ts';

interface TimedBeat {
  /** When it falls, and how long it lasts, in seconds of the run. A wait or a hold in it is not counted. */
  readonly runSeconds: number;
  readonly lengthSeconds: number;
}

/** A beat of a performed bar. */
interface MusicBeat extends TimedBeat {
  readonly kind: 'music';
  readonly performed: number;
  readonly barIndex: number;
  /** Its place in the pulse of its bar. */
  readonly beatIndex: number;
  /** Seconds of the piece. */
  readonly seconds: number;
}

/** A beat of a count-off, subdivisions left out, and the performed bar it leads to. */
export interface CountOffRunBeat extends TimedBeat {
  readonly kind: 'countOff';
  readonly countOff: CountOff;
  readonly beatIndex: number;
  readonly entryPerformed: number;
}

/** The beat of preparation after a cue. */
interface CueBeat extends TimedBeat {
  readonly kind: 'cue';
}

export type RunBeat = MusicBeat | CountOffRunBeat | CueBeat;

/**
 * The beats of a run that fall in a window, whether they click or not: the reference for the hand, for takes, stands and
 * captions. In order of time. The window of a run without end must have one.
 */
export function beatsIn(proof: Proof, plan: RunPlan, window: RunWindow): readonly RunBeat[] {
  const { fromSeconds, toSeconds } = window;
  const beats: RunBeat[] = [];
  for (const stretch of stretchesIn(
    plan,
    fromSeconds - SAME_MOMENT_SECONDS,
    toSeconds + SAME_MOMENT_SECONDS,
  )) {
    if (stretch.kind === 'countOff') beats.push(...countOffBeats(proof, plan, stretch));
    else if (stretch.kind === 'music') beats.push(...musicBeats(proof, stretch));
    else if (stretch.kind === 'cue')
      beats.push({ kind: 'cue', runSeconds: stretch.runSeconds, lengthSeconds: stretch.lengthSeconds });
  }
  return beats.filter(({ runSeconds }) => runSeconds >= fromSeconds && runSeconds < toSeconds);
}

function musicBeats({ compiled }: Proof, stretch: RunStretch): MusicBeat[] {
  const { clicks, timeline } = compiled;
  const end = stretch.fromSeconds + stretch.lengthSeconds * stretch.pace;
  const beats: MusicBeat[] = [];
  let index = firstAtOrAfter(clicks.timeSeconds, stretch.fromSeconds - SAME_MOMENT_SECONDS);
  while (
    index < clicks.timeSeconds.length &&
    (clicks.timeSeconds[index] as number) < end - SAME_MOMENT_SECONDS
  ) {
    const at = index++;
    if (clickKind(clicks, at) === 'subdivision') continue;
    while (index < clicks.timeSeconds.length && clickKind(clicks, index) === 'subdivision') index++;
    const seconds = clicks.timeSeconds[at] as number;
    const next = Math.min(end, clicks.timeSeconds[index] ?? pieceSeconds(timeline));
    const performed = clicks.performed[at] ?? 0;
    beats.push({
      kind: 'music',
      runSeconds: runSecondsOf(stretch, seconds),
      lengthSeconds: (next - seconds) / stretch.pace,
      performed,
      barIndex: writtenIndex({ compiled }, performed),
      beatIndex: clicks.beat[at] ?? 0,
      seconds,
    });
  }
  return beats;
}

function countOffBeats({ compiled }: Proof, plan: RunPlan, stretch: RunStretch): CountOffRunBeat[] {
  const { countOff } = stretch;
  if (!countOff) return [];
  const entryPerformed = firstAtOrAfter(
    compiled.timeline.barStartSeconds,
    entryAfter(plan, stretch) - SAME_MOMENT_SECONDS,
  );
  return countOff.beats.flatMap((beat, beatIndex) =>
    beat.sound === 'subdivision' || !isPlayedIn(stretch, beat.timeSeconds)
      ? []
      : [
          {
            kind: 'countOff' as const,
            runSeconds: runSecondsOf(stretch, beat.timeSeconds),
            lengthSeconds: beat.lengthSeconds / stretch.pace,
            countOff,
            beatIndex,
            entryPerformed,
          },
        ],
  );
}
