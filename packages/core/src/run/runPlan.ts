import type { CompiledPiece } from '../compile/compile.ts';
import type { CountOff } from '../countoff/countOff.ts';
import { countOffFor } from '../countoff/countOff.ts';
import { clickKind, type ClickKind } from '../click/clickPlan.ts';
import type { Piece } from '../piece/piece.ts';
import { barStart, firstAtOrAfter, lastAtOrBefore, performedCount, pieceSeconds } from '../timeline/query.ts';
import type { PerformedHold } from '../timeline/timeline.ts';
import { audibleClicks, type AudibleClicks } from './audibleClicks.ts';
import { openRepeats, wayOut, type OpenRepeat } from './openRepeats.ts';
import { PLAIN_RUN, type RunSettings } from './settings.ts';

/** One sound of a run. Times count from the run's own start, which is the first count-off beat. */
export interface RunClick {
  readonly timeSeconds: number;
  readonly kind: ClickKind;
}

/**
 * A stretch of a run in which time runs evenly against what it plays: from `fromSeconds` of the piece (or of its
 * count-off) on, `pace` seconds of it in every second. While it waits or holds, the piece stands still.
 */
export interface RunStretch {
  readonly kind: 'countOff' | 'music' | 'hold' | 'waiting' | 'cue';
  readonly runSeconds: number;
  /** Infinite while waiting for a cue. */
  readonly lengthSeconds: number;
  readonly fromSeconds: number;
  readonly pace: number;
  readonly countOff: CountOff | null;
}

/** A run from its count-off on: every click, and what is played when. */
export interface RunPlan {
  readonly clicks: readonly RunClick[];
  readonly stretches: readonly RunStretch[];
  readonly countOff: CountOff;
  /** Seconds of the piece at which the run enters, after the count-off. */
  readonly entrySeconds: number;
  /** Infinite where the run waits for a cue. */
  readonly lengthSeconds: number;
  /** Open repeats of which it was said: go on. By the performed bar they start at. */
  readonly decided: readonly number[];
}

/** What a run is planned from. */
export interface RunSource {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
}

/** A loop or an open repeat is planned for so long; a run is never longer. */
export const MOST_RUN_SECONDS = 3600;

/** Plans a run that is counted into a performed bar and goes on to the end, round its loop, or to where it must wait. */
export function runFrom(
  source: RunSource,
  performed: number,
  settings: RunSettings = PLAIN_RUN,
  countOff: CountOff = countOffFor(source.piece, source.compiled.timeline, performed),
): RunPlan {
  const entrySeconds = barStart(source.compiled.timeline, performed);
  const start: RunPlan = { clicks: [], stretches: [], countOff, entrySeconds, lengthSeconds: 0, decided: [] };
  const planner = new RunPlanner(source, settings, start);
  planner.countOff(countOff);
  planner.playFrom(entrySeconds);
  return planner.plan();
}

/** A plain run with a count-off that was made before. */
export function runPlanOf(source: RunSource, countOff: CountOff, performed: number): RunPlan {
  return runFrom(source, performed, PLAIN_RUN, countOff);
}

/** Where a plan may be changed: a moment of the run, and what is played there. */
export interface RunBoundary {
  readonly runSeconds: number;
  readonly stretch: RunStretch;
  /** Seconds of what the stretch plays. */
  readonly atSeconds: number;
}

/** The same run up to a boundary, and from there on as it is wanted now. */
export function changedRun(
  source: RunSource,
  plan: RunPlan,
  settings: RunSettings,
  boundary: RunBoundary,
): RunPlan {
  const planner = new RunPlanner(source, settings, upTo(plan, boundary.runSeconds));
  const { stretch, atSeconds } = boundary;
  if (stretch.countOff && stretch.kind === 'countOff') {
    planner.countOff(stretch.countOff, atSeconds);
    planner.playFrom(entryAfter(plan, stretch));
  } else planner.playFrom(atSeconds);
  return planner.plan();
}

/**
 * Out of the open repeat that is going round, from a bar on: this pass becomes the last one, with its ending where there
 * is one. Null where nothing goes round.
 */
export function goneOnRun(
  source: RunSource,
  plan: RunPlan,
  settings: RunSettings,
  bar: RunBoundary,
): RunPlan | null {
  const { timeline } = source.compiled;
  const performed = lastAtOrBefore(timeline.barStartSeconds, bar.atSeconds + SAME_MOMENT_SECONDS);
  const open = openRepeats(source.piece, timeline.route).find(
    ({ round }) => performed >= round.from && performed < round.to && !plan.decided.includes(round.from),
  );
  if (!open) return null;
  const decided = { ...upTo(plan, bar.runSeconds), decided: [...plan.decided, open.round.from] };
  const planner = new RunPlanner(source, settings, decided);
  planner.playFrom(barStart(timeline, wayOut(open, timeline.route, performed)));
  return planner.plan();
}

/**
 * A run that waits goes on: one beat of preparation from the cue, then the music. Null where nothing waits at that moment.
 */
export function cuedRun(
  source: RunSource,
  plan: RunPlan,
  settings: RunSettings,
  cueRunSeconds: number,
): RunPlan | null {
  const waiting = plan.stretches.at(-1);
  if (waiting?.kind !== 'waiting' || cueRunSeconds < waiting.runSeconds) return null;
  const planner = new RunPlanner(source, settings, upTo(plan, cueRunSeconds));
  planner.cue(waiting.fromSeconds);
  planner.playFrom(waiting.fromSeconds, true);
  return planner.plan();
}

/** The run ends at a boundary. */
export function endedRun(plan: RunPlan, { runSeconds }: RunBoundary): RunPlan {
  return upTo(plan, runSeconds);
}

function upTo(plan: RunPlan, runSeconds: number): RunPlan {
  const stretches = plan.stretches
    .filter((stretch) => stretch.runSeconds < runSeconds)
    .map((stretch) => ({
      ...stretch,
      lengthSeconds: Math.min(stretch.lengthSeconds, runSeconds - stretch.runSeconds),
    }));
  const clicks = plan.clicks.filter(({ timeSeconds }) => timeSeconds < runSeconds - SAME_MOMENT_SECONDS);
  return { ...plan, clicks, stretches, lengthSeconds: runSeconds };
}

/** Two times closer than this are one moment. */
const SAME_MOMENT_SECONDS = 1e-7;

/** Seconds of the piece at which the music enters after a count-off of a plan. */
function entryAfter(plan: RunPlan, countOff: RunStretch): number {
  const next = plan.stretches.find(({ runSeconds }) => runSeconds > countOff.runSeconds);
  return next?.fromSeconds ?? plan.entrySeconds;
}

/** Adds stretches and their clicks to a run, one after another. */
class RunPlanner {
  private readonly clicks: RunClick[];
  private readonly stretches: RunStretch[];
  private at: number;
  private isOver = false;
  private readonly audible: AudibleClicks;
  private readonly open: readonly OpenRepeat[];

  constructor(
    private readonly source: RunSource,
    private readonly settings: RunSettings,
    private readonly before: RunPlan,
  ) {
    this.clicks = [...before.clicks];
    this.stretches = [...before.stretches];
    this.at = before.lengthSeconds;
    this.audible = audibleClicks(source, settings, before.entrySeconds);
    this.open = openRepeats(source.piece, source.compiled.timeline.route).filter(
      ({ round }) => !before.decided.includes(round.from),
    );
  }

  plan(): RunPlan {
    return {
      ...this.before,
      clicks: this.clicks,
      stretches: this.stretches,
      lengthSeconds: this.at,
    };
  }

  /** The count-off, or what is left of it. */
  countOff(countOff: CountOff, fromSeconds = 0): void {
    const { pace } = this;
    for (const beat of countOff.beats) {
      if (beat.sound === 'silent' || beat.timeSeconds < fromSeconds - SAME_MOMENT_SECONDS) continue;
      const kind =
        beat.sound === 'subdivision' ? 'subdivision' : beat.isDownbeat ? 'countoffDownbeat' : 'countoff';
      this.clicks.push({ timeSeconds: this.at + (beat.timeSeconds - fromSeconds) / pace, kind });
    }
    this.add('countOff', fromSeconds, countOff.lengthSeconds - fromSeconds, pace, countOff);
  }

  /** One beat of preparation at the tempo in force. */
  cue(atSeconds: number): void {
    const beat = this.beatSecondsAt(atSeconds);
    this.clicks.push({ timeSeconds: this.at, kind: 'countoff' });
    this.stretches.push({
      kind: 'cue',
      runSeconds: this.at,
      lengthSeconds: beat / this.pace,
      fromSeconds: atSeconds,
      pace: 0,
      countOff: null,
    });
    this.at += beat / this.pace;
  }

  /** Plays from a time of the piece to where the run ends, waits, or has gone round long enough. */
  playFrom(startSeconds: number, isCued = false): void {
    let from = startSeconds;
    let skipsHoldAt = isCued ? startSeconds : -1;
    while (!this.isOver && this.at < MOST_RUN_SECONDS) {
      const round = this.roundFrom(from);
      const end = round ? this.barStart(round.to) : pieceSeconds(this.timeline);
      this.playTo(from, end, skipsHoldAt);
      skipsHoldAt = -1;
      if (!round) return;
      if (this.isOver) return;
      from = this.barStart(round.from);
      if (round.isLoop && this.settings.countsEachRound)
        this.countOff(countOffFor(this.source.piece, this.timeline, round.from));
    }
  }

  private get timeline() {
    return this.source.compiled.timeline;
  }

  private get pace(): number {
    return this.settings.percent / 100;
  }

  private barStart(performed: number): number {
    return barStart(this.timeline, performed);
  }

  /** What is gone round from a time on: the loop that is wanted, else the next open repeat. */
  private roundFrom(
    seconds: number,
  ): { readonly from: number; readonly to: number; readonly isLoop: boolean } | null {
    const { loop } = this.settings;
    if (loop && seconds < this.barStart(loop.to)) return { ...loop, isLoop: true };
    const open = this.open.find(({ round }) => seconds < this.barStart(round.to) - SAME_MOMENT_SECONDS);
    return open ? { ...open.round, isLoop: false } : null;
  }

  /** Music up to a time, held where it is held, until it ends or waits. */
  private playTo(startSeconds: number, endSeconds: number, skipsHoldAt: number): void {
    let from = startSeconds;
    const { barStartSeconds, holds } = this.timeline;
    const firstBar = lastAtOrBefore(barStartSeconds, startSeconds + SAME_MOMENT_SECONDS);
    const endBar = firstAtOrAfter(barStartSeconds, endSeconds - SAME_MOMENT_SECONDS);
    for (const hold of holds) {
      const { startSeconds: at, lengthSeconds, performed } = hold;
      if (performed < firstBar || performed >= endBar || at < from - SAME_MOMENT_SECONDS) continue;
      if (Math.abs(at - skipsHoldAt) < SAME_MOMENT_SECONDS) continue;
      if (isUntilCued(hold)) {
        this.music(from, at);
        this.wait(at);
        return;
      }
      if (hold.hold.length.kind !== 'seconds') continue;
      this.music(from, at);
      this.add('hold', at, lengthSeconds, 1, null);
      from = at + lengthSeconds;
    }
    this.music(from, endSeconds);
  }

  private music(fromSeconds: number, toSeconds: number): void {
    if (toSeconds - fromSeconds < SAME_MOMENT_SECONDS) return;
    const { timeSeconds } = this.source.compiled.clicks;
    const first = firstAtOrAfter(timeSeconds, fromSeconds - SAME_MOMENT_SECONDS);
    for (let index = first; index < timeSeconds.length; index++) {
      const time = timeSeconds[index] as number;
      if (time >= toSeconds - SAME_MOMENT_SECONDS) break;
      if (this.audible(index))
        this.clicks.push({
          timeSeconds: this.at + (time - fromSeconds) / this.pace,
          kind: clickKind(this.source.compiled.clicks, index),
        });
    }
    this.add('music', fromSeconds, toSeconds - fromSeconds, this.pace, null);
  }

  private wait(atSeconds: number): void {
    this.stretches.push({
      kind: 'waiting',
      runSeconds: this.at,
      lengthSeconds: Infinity,
      fromSeconds: atSeconds,
      pace: 0,
      countOff: null,
    });
    this.at = Infinity;
    this.isOver = true;
  }

  private add(
    kind: RunStretch['kind'],
    fromSeconds: number,
    playedSeconds: number,
    pace: number,
    countOff: CountOff | null,
  ): void {
    const lengthSeconds = playedSeconds / pace;
    this.stretches.push({ kind, runSeconds: this.at, lengthSeconds, fromSeconds, pace, countOff });
    this.at += lengthSeconds;
  }

  /** How long the beat before a time lasts, as printed. */
  private beatSecondsAt(seconds: number): number {
    const { clicks } = this.source.compiled;
    const index = Math.max(0, lastAtOrBefore(clicks.timeSeconds, seconds - SAME_MOMENT_SECONDS));
    let start = index;
    while (start > 0 && clickKind(clicks, start) === 'subdivision') start--;
    let next = index + 1;
    while (next < clicks.timeSeconds.length && clickKind(clicks, next) === 'subdivision') next++;
    const end = clicks.timeSeconds[next] ?? pieceSeconds(this.timeline);
    const length = end - (clicks.timeSeconds[start] ?? 0);
    return length > 0 ? length : 1;
  }
}

function isUntilCued({ hold }: PerformedHold): boolean {
  return hold.length.kind === 'until cued';
}

/** The next beat or bar of a run that begins after a moment of it; null where it waits, or ends before. */
export function nextBoundaryMaybe(
  { compiled }: RunSource,
  plan: RunPlan,
  afterRunSeconds: number,
  every: 'beat' | 'bar',
): RunBoundary | null {
  for (const stretch of plan.stretches) {
    if (stretch.runSeconds + stretch.lengthSeconds <= afterRunSeconds) continue;
    const times = boundaryTimes(compiled, stretch, every);
    for (const atSeconds of times) {
      const runSeconds = stretch.runSeconds + (atSeconds - stretch.fromSeconds) / stretch.pace;
      if (runSeconds > afterRunSeconds) return { runSeconds, stretch, atSeconds };
    }
  }
  return null;
}

/** Where beats, or bars, begin in what a stretch plays, its own start among them. */
function* boundaryTimes(
  { clicks, timeline }: CompiledPiece,
  stretch: RunStretch,
  every: 'beat' | 'bar',
): Iterable<number> {
  const end = stretch.fromSeconds + stretch.lengthSeconds * stretch.pace - SAME_MOMENT_SECONDS;
  if (stretch.kind === 'countOff' && stretch.countOff) {
    for (const { timeSeconds, isDownbeat, sound } of stretch.countOff.beats)
      if (timeSeconds >= stretch.fromSeconds && sound !== 'subdivision' && (every === 'beat' || isDownbeat))
        yield timeSeconds;
  } else if (stretch.kind === 'music' && every === 'bar') {
    const from = firstAtOrAfter(timeline.barStartSeconds, stretch.fromSeconds - SAME_MOMENT_SECONDS);
    for (let performed = from; performed < performedCount(timeline); performed++) {
      const start = barStart(timeline, performed);
      if (start > end) return;
      yield start;
    }
  } else if (stretch.kind === 'music') {
    const from = firstAtOrAfter(clicks.timeSeconds, stretch.fromSeconds - SAME_MOMENT_SECONDS);
    for (let index = from; index < clicks.timeSeconds.length; index++) {
      const time = clicks.timeSeconds[index] as number;
      if (time > end) return;
      if (clickKind(clicks, index) !== 'subdivision') yield time;
    }
  }
}

/** The stretch that a moment of the run lies in; null after its end. Before the start it is the first one. */
export function stretchAtMaybe({ stretches, lengthSeconds }: RunPlan, runSeconds: number): RunStretch | null {
  if (runSeconds >= lengthSeconds) return null;
  return stretches.findLast((stretch) => stretch.runSeconds <= runSeconds) ?? stretches[0] ?? null;
}

/** Seconds of what a stretch plays, at a moment of the run. */
export function playedSeconds(stretch: RunStretch, runSeconds: number): number {
  return (
    stretch.fromSeconds + (runSeconds - stretch.runSeconds) * (stretch.kind === 'hold' ? 0 : stretch.pace)
  );
}
