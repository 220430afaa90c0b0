import type { CompiledPiece } from '../compile/compile.ts';
import type { Piece } from '../piece/piece.ts';
import { pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { barStart, momentAt, pieceSeconds, secondsAt } from '../timeline/query.ts';
import { pieceSecondsOfRun, type RunPlan } from './runPlan.ts';

/** A beat of the count-off, and how far through it we are (0 to 1; below 0 before the first). */
export interface CountOffMoment {
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
}

export type RunMoment = CountOffMoment | BarMoment;

/** What is being beaten at a moment of a run; null when the run is over. */
export function runMomentMaybe(
  piece: Piece,
  compiled: CompiledPiece,
  plan: RunPlan,
  runSeconds: number,
): RunMoment | null {
  const seconds = pieceSecondsOfRun(plan, runSeconds);
  if (seconds < plan.entrySeconds) return countOffMoment(plan, runSeconds);
  if (seconds >= pieceSeconds(compiled.timeline)) return null;
  return barMomentAt(piece, compiled, seconds);
}

function countOffMoment({ countOff }: RunPlan, runSeconds: number): CountOffMoment {
  const { beats } = countOff;
  const beatIndex = Math.max(
    0,
    beats.findLastIndex((beat) => beat.timeSeconds <= runSeconds),
  );
  const beat = beats[beatIndex];
  const share = beat ? (runSeconds - beat.timeSeconds) / beat.lengthSeconds : 0;
  return { phase: 'countOff', beatIndex, share };
}

/** The beat at a time of the piece, and the share of it that has passed. */
export function barMomentAt(piece: Piece, { timeline }: CompiledPiece, seconds: number): BarMoment {
  const { performed } = momentAt(timeline, seconds);
  const barIndex = timeline.route.barIndex[performed] ?? 0;
  const beats = beatsOf(piece, barIndex);
  const startOf = (beat: PulseBeat) => secondsAt(timeline, { performed, atWholes: beat.atWholes });
  const beatIndex = Math.max(
    0,
    beats.findLastIndex((beat) => startOf(beat) <= seconds),
  );
  const beat = beats[beatIndex] as PulseBeat;
  const next = beats[beatIndex + 1];
  const start = startOf(beat);
  const end = next ? startOf(next) : barStart(timeline, performed + 1);
  return { phase: 'bar', performed, barIndex, beatIndex, share: (seconds - start) / (end - start), seconds };
}

function beatsOf(piece: Piece, barIndex: number): readonly PulseBeat[] {
  const bar = piece.bars[barIndex];
  if (!bar) throw new RangeError(`bar ${barIndex} is not written`);
  return pulseOf(bar);
}
