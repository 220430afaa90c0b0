import { clickKind, type ClickKind } from '../click/clickPlan.ts';
import { countOffFor, type CountOff } from '../countoff/countOff.ts';
import type { Fraction } from '../fraction/fraction.ts';
import type { Bar } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { rhythmOnsets } from '../rhythm/rhythm.ts';
import { barStart, firstAtOrAfter, lastAtOrBefore, pieceSeconds, secondsAtRatio } from '../timeline/query.ts';
import type { PerformedHold } from '../timeline/timeline.ts';
import { audibleClicks, type AudibleClicks } from './audibleClicks.ts';
import { carryNotes, equalNotes } from './extraNotes.ts';
import { openRepeats, type OpenRepeat } from './openRepeats.ts';
import {
  MOST_RUN_SECONDS,
  SAME_MOMENT_SECONDS,
  type RunClick,
  type RunPlan,
  type RunSource,
  type RunStretch,
} from './runPlan.ts';
import type { RunSettings } from './settings.ts';

/** Adds stretches and their clicks to a run, one after another. */
export class RunPlanner {
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
      const timeSeconds = this.at + (beat.timeSeconds - fromSeconds) / pace;
      const isSpoken = this.settings.spoken !== 'nothing' && beat.word !== '' && beat.pitch === undefined;
      this.clicks.push({
        timeSeconds,
        kind,
        ...(beat.pitch !== undefined && { pitch: beat.pitch }),
        ...(isSpoken && { word: beat.word, roomSeconds: beat.lengthSeconds / pace }),
      });
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
      if (this.isOver || (round.isLoop && this.isLastRound(round.from))) return;
      from = this.barStart(round.from);
      if (round.isLoop && this.settings.countsEachRound)
        this.countOff(countOffFor(this.source.piece, this.timeline, round.from));
    }
  }

  /** Whether the round that has just been planned was the last one wanted. */
  private isLastRound(loopFrom: number): boolean {
    const { rounds } = this.settings;
    const start = this.barStart(loopFrom);
    const isRound = ({ kind, fromSeconds }: RunStretch) =>
      kind === 'music' && Math.abs(fromSeconds - start) < SAME_MOMENT_SECONDS;
    return rounds !== null && this.stretches.filter(isRound).length >= rounds;
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
      if (this.audible.isHeard(index))
        this.clicks.push({
          timeSeconds: this.at + (time - fromSeconds) / this.pace,
          kind: clickKind(this.source.compiled.clicks, index),
          ...(this.settings.spoken === 'everything' && this.wordAt(index)),
        });
    }
    this.extraNotes(fromSeconds, toSeconds);
    this.add('music', fromSeconds, toSeconds - fromSeconds, this.pace, null);
  }

  /** What sounds beside the click plan: equal notes over the bar, its rhythm, the carry through a seam. */
  private extraNotes(fromSeconds: number, toSeconds: number): void {
    const { overlay, soundsRhythm, clickOn } = this.settings;
    if (!overlay && !soundsRhythm && clickOn !== 'carry') return;
    const { barStartSeconds, route } = this.timeline;
    const notes: RunClick[] = [];
    const last = firstAtOrAfter(barStartSeconds, toSeconds - SAME_MOMENT_SECONDS);
    for (let bar = lastAtOrBefore(barStartSeconds, fromSeconds + SAME_MOMENT_SECONDS); bar < last; bar++) {
      const written = this.source.piece.bars[route.barIndex[bar] ?? 0] as Bar;
      const put = (kind: ClickKind, { n, d }: Fraction) => {
        const time = secondsAtRatio(this.timeline, bar, n, d);
        if (time < fromSeconds - SAME_MOMENT_SECONDS || time >= toSeconds - SAME_MOMENT_SECONDS) return;
        notes.push({ timeSeconds: this.at + (time - fromSeconds) / this.pace, kind });
      };
      if (overlay) for (const at of equalNotes(written, overlay)) put('overlay', at);
      if (soundsRhythm && written.rhythm) for (const at of rhythmOnsets(written.rhythm)) put('overlay', at);
      if (clickOn === 'carry' && this.audible.isOpen(bar))
        for (const at of carryNotes(this.source, bar, this.settings.seamAt)) put('subdivision', at);
    }
    this.clicks.push(...notes);
    this.clicks.sort((a, b) => a.timeSeconds - b.timeSeconds);
  }

  /** The numeral of a beat, and how long there is to say it; nothing for a subdivision. */
  private wordAt(index: number): Pick<RunClick, 'word' | 'roomSeconds'> {
    const { clicks } = this.source.compiled;
    if (clickKind(clicks, index) === 'subdivision') return {};
    const written = this.timeline.route.barIndex[clicks.performed[index] ?? 0] ?? 0;
    const bar = this.source.piece.bars[written];
    const beat = bar && pulseOf(bar)[clicks.beat[index] ?? 0];
    let next = index + 1;
    while (next < clicks.timeSeconds.length && clickKind(clicks, next) === 'subdivision') next++;
    const end = clicks.timeSeconds[next] ?? pieceSeconds(this.timeline);
    const roomSeconds = (end - (clicks.timeSeconds[index] ?? 0)) / this.pace;
    return beat ? { word: String(beat.numeral), roomSeconds } : {};
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
