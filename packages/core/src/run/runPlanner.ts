import { clickKind } from '../click/clickPlan.ts';
import type { Proof } from '../proof/proof.ts';
import { countOffFor, type CountOff } from '../countoff/countOff.ts';
import { barStart, firstAtOrAfter, lastAtOrBefore, performedCount, pieceSeconds } from '../timeline/query.ts';
import { isSameMoment, SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import type { PerformedHold, Timeline } from '../timeline/timeline.ts';
import { openRepeats, type OpenRepeat } from './openRepeats.ts';
import type { RunPlan, RunStretch } from './runPlan.ts';
import type { PerformedSpan, RunSettings } from './settings.ts';

/** What is gone round: the loop that is wanted, or an open repeat. */
interface Round extends PerformedSpan {
  readonly isLoop: boolean;
}

/** Adds stretches to a run, one after another. */
export class RunPlanner {
  private readonly stretches: RunStretch[];
  private at: number;
  private isOver = false;
  private endless: RunPlan['endless'] = null;
  private readonly open: readonly OpenRepeat[];
  /** What is left out of what is planned next: nothing of what is gone round. */
  private leftOut: readonly PerformedSpan[] = [];

  constructor(
    private readonly proof: Proof,
    private readonly settings: RunSettings,
    private readonly before: RunPlan,
  ) {
    this.stretches = [...before.stretches];
    this.at = before.lengthSeconds;
    this.open = openRepeats(proof.piece, proof.compiled.timeline.route).filter(
      ({ round }) => !before.decided.includes(round.from),
    );
  }

  plan(): RunPlan {
    const { stretches, endless } = this;
    return { ...this.before, stretches, endless, lengthSeconds: endless ? Infinity : this.at };
  }

  /** The count-off, or what is left of it. */
  countOff(countOff: CountOff, fromSeconds = 0): void {
    const playedSeconds = countOff.lengthSeconds - fromSeconds;
    this.add({ kind: 'countOff', fromSeconds, pace: this.pace, countOff }, playedSeconds / this.pace);
  }

  /** One beat of preparation at the tempo in force. */
  cue(atSeconds: number): void {
    this.add({ kind: 'cue', fromSeconds: atSeconds, pace: 0 }, this.beatSecondsAt(atSeconds) / this.pace);
  }

  /** Plays from a time of the piece to where the run ends, waits, has gone round long enough, or goes round for ever. */
  playFrom(startSeconds: number, isCued = false): void {
    let from = startSeconds;
    let skipsHoldAt = isCued ? startSeconds : -1;
    let turned: { readonly round: Round; readonly fromStretch: number; readonly at: number } | null = null;
    while (!this.isOver) {
      const round = this.roundFrom(from);
      this.leftOut = leftOutIn(this.settings, this.timeline, round);
      this.playTo(from, round ? this.barStart(round.to) : pieceSeconds(this.timeline), skipsHoldAt);
      skipsHoldAt = -1;
      if (!round || this.isOver || (round.isLoop && this.isLastRound(round.from))) return;
      if (turned && isSameRound(turned.round, round)) {
        this.endless = { fromStretch: turned.fromStretch, lengthSeconds: this.at - turned.at };
        return;
      }
      if (!round.isLoop || this.settings.rounds === null)
        turned = { round, fromStretch: this.stretches.length, at: this.at };
      from = this.barStart(round.from);
      if (round.isLoop && this.settings.countsEachRound)
        this.countOff(countOffFor(this.proof.piece, this.timeline, round.from));
    }
  }

  /** Whether the round that has just been planned was the last one wanted. */
  private isLastRound(loopFrom: number): boolean {
    const { rounds } = this.settings;
    const start = this.barStart(loopFrom);
    const isRound = ({ kind, fromSeconds }: RunStretch) =>
      kind === 'music' && isSameMoment(fromSeconds, start);
    return rounds !== null && this.stretches.filter(isRound).length >= rounds;
  }

  private get timeline() {
    return this.proof.compiled.timeline;
  }

  private get pace(): number {
    return this.settings.percent / 100;
  }

  private barStart(performed: number): number {
    return barStart(this.timeline, performed);
  }

  /** What is gone round from a time on: the loop that is wanted, else the next open repeat. */
  private roundFrom(seconds: number): Round | null {
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
      if (isSameMoment(at, skipsHoldAt) || this.isLeftOut(performed, startSeconds)) continue;
      if (isUntilCued(hold)) {
        this.music(from, at);
        this.add({ kind: 'waiting', fromSeconds: at, pace: 0 }, Infinity);
        this.isOver = true;
        return;
      }
      if (hold.hold.length.kind !== 'seconds') continue;
      this.music(from, at);
      this.add({ kind: 'hold', fromSeconds: at, pace: 1 }, lengthSeconds);
      from = at + lengthSeconds;
    }
    this.music(from, endSeconds);
  }

  /** Whether a bar is left out by whoever comes from a time: who begins inside a span plays the rest of it. */
  private isLeftOut(performed: number, startSeconds: number): boolean {
    return this.leftOut.some(
      ({ from, to }) =>
        performed >= from && performed < to && this.barStart(from) >= startSeconds - SAME_MOMENT_SECONDS,
    );
  }

  /** Music from a time to another, without what is left out between them. */
  private music(fromSeconds: number, toSeconds: number): void {
    let at = fromSeconds;
    for (const { from, to } of this.leftOut) {
      const [start, end] = [this.barStart(from), this.barStart(to)];
      if (start < at - SAME_MOMENT_SECONDS || start >= toSeconds) continue;
      this.plainMusic(at, start);
      at = Math.min(end, toSeconds);
    }
    this.plainMusic(at, toSeconds);
  }

  private plainMusic(fromSeconds: number, toSeconds: number): void {
    const playedSeconds = toSeconds - fromSeconds;
    if (playedSeconds < SAME_MOMENT_SECONDS) return;
    this.add({ kind: 'music', fromSeconds, pace: this.pace }, playedSeconds / this.pace);
  }

  private add(
    stretch: Pick<RunStretch, 'kind' | 'fromSeconds' | 'pace'> & { readonly countOff?: CountOff },
    lengthSeconds: number,
  ): void {
    const { settings, at: runSeconds } = this;
    this.stretches.push({ countOff: null, ...stretch, runSeconds, lengthSeconds, settings });
    this.at += lengthSeconds;
  }

  /** How long the beat before a time lasts, as printed. */
  private beatSecondsAt(seconds: number): number {
    const { clicks } = this.proof.compiled;
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

/** Bars that are left out, as far as the piece has them, and nothing of what is gone round. */
function leftOutIn(
  { leftOut }: RunSettings,
  timeline: Timeline,
  round: Round | null,
): readonly PerformedSpan[] {
  const end = round?.from ?? performedCount(timeline);
  return leftOut.filter(({ from, to }) => from < to && to <= end);
}

function isSameRound(a: Round, b: Round): boolean {
  return a.from === b.from && a.to === b.to && a.isLoop === b.isLoop;
}

function isUntilCued({ hold }: PerformedHold): boolean {
  return hold.length.kind === 'until cued';
}
