import { writtenBar, writtenIndex, type Proof } from '../proof/proof.ts';
import { pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { barStart, momentAt, secondsAt } from '../timeline/query.ts';
import { playedSeconds, stretchAtMaybe, type RunPlan, type RunStretch } from './runPlan.ts';

/** A beat of the count-off, and how far through it we are (0 to 1; below 0 before the first). */
interface CountOffMoment {
  readonly phase: 'countOff';
  readonly beatIndex: number;
  readonly share: number;
}

/** A beat of a performed bar, and how far through it we are. */
export interface BarMoment {
  readonly phase: 'bar';
  readonly performed: number;
  readonly barIndex: number;
  readonly beatIndex: number;
  readonly share: number;
  /** Seconds of the piece. */
  readonly seconds: number;
  /** The music stands still: until a cue, or for the beat of preparation after it. */
  readonly waits: 'for a cue' | 'a beat' | null;
}

export type RunMoment = CountOffMoment | BarMoment;

/** What is being beaten at a moment of a run; null when the run is over. */
export function runMomentMaybe(proof: Proof, plan: RunPlan, runSeconds: number): RunMoment | null {
  const stretch = stretchAtMaybe(plan, runSeconds);
  if (!stretch) return null;
  const seconds = playedSeconds(stretch, runSeconds);
  if (stretch.kind === 'countOff') return countOffMoment(stretch, seconds);
  const isStill = stretch.kind === 'waiting' || stretch.kind === 'cue';
  // A wait comes at the end of the held beat, which is what is still being shown.
  const shown = isStill ? Math.max(0, seconds - STILL_SECONDS) : seconds;
  const waits = stretch.kind === 'waiting' ? 'for a cue' : stretch.kind === 'cue' ? 'a beat' : null;
  return { ...barMomentAt(proof, shown), waits };
}

const STILL_SECONDS = 1e-6;

function countOffMoment({ countOff }: RunStretch, seconds: number): CountOffMoment {
  const beats = countOff?.beats ?? [];
  const beatIndex = Math.max(
    0,
    beats.findLastIndex((beat) => beat.timeSeconds <= seconds),
  );
  const beat = beats[beatIndex];
  const share = beat ? (seconds - beat.timeSeconds) / beat.lengthSeconds : 0;
  return { phase: 'countOff', beatIndex, share };
}

/** The beat at a time of the piece, and the share of it that has passed. */
function barMomentAt(proof: Proof, seconds: number): BarMoment {
  const { timeline } = proof.compiled;
  const { performed } = momentAt(timeline, seconds);
  const barIndex = writtenIndex(proof, performed);
  const beats = pulseOf(writtenBar(proof, performed));
  const startOf = (beat: PulseBeat) => secondsAt(timeline, { performed, atWholes: beat.atWholes });
  const beatIndex = Math.max(
    0,
    beats.findLastIndex((beat) => startOf(beat) <= seconds),
  );
  const beat = beats[beatIndex] as PulseBeat;
  const next = beats[beatIndex + 1];
  const start = startOf(beat);
  const end = next ? startOf(next) : barStart(timeline, performed + 1);
  const share = (seconds - start) / (end - start);
  return { phase: 'bar', performed, barIndex, beatIndex, share, seconds, waits: null };
}
