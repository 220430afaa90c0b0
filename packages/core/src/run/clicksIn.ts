import { clickKind, type ClickKind } from '../click/clickPlan.ts';
import { writtenBar, type Proof } from '../proof/proof.ts';
import type { Fraction } from '../fraction/fraction.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { rhythmOnsets } from '../rhythm/rhythm.ts';
import { firstAtOrAfter, lastAtOrBefore, pieceSeconds, secondsAtRatio } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import { audibleClicks } from './audibleClicks.ts';
import { carryNotes, equalNotes } from './extraNotes.ts';
import {
  isPlayedIn,
  playedSeconds,
  runSecondsOf,
  stretchesIn,
  type RunClick,
  type RunPlan,
  type RunStretch,
} from './runPlan.ts';
import type { RunSettings } from './settings.ts';
import { clickOnAt } from './spans.ts';

/** A window of a run: from a moment, up to another (exclusive). Seconds from the run's start. */
export interface RunWindow {
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

/**
 * Every sound of a run that begins in a window, in order of time. Windows that meet give together just what one over both
 * gives: a sound's time does not depend on the window it is asked for in. The window of a run without end must have one.
 */
export function clicksIn(proof: Proof, plan: RunPlan, window: RunWindow): readonly RunClick[] {
  const clicks: RunClick[] = [];
  const { fromSeconds, toSeconds } = window;
  const { call } = plan;
  if (call)
    clicks.push({
      timeSeconds: 0,
      kind: 'countoff',
      word: call.word,
      roomSeconds: call.lengthSeconds,
      isOnlySaid: true,
    });
  const [from, to] = [fromSeconds - SAME_MOMENT_SECONDS, toSeconds + SAME_MOMENT_SECONDS];
  for (const stretch of stretchesIn(plan, from, Math.min(to, plan.lengthSeconds))) {
    if (stretch.kind === 'countOff') clicks.push(...countOffClicks(stretch));
    else if (stretch.kind === 'cue') clicks.push({ timeSeconds: stretch.runSeconds, kind: 'countoff' });
    else if (stretch.kind === 'music') clicks.push(...musicClicks(proof, plan, stretch, window));
  }
  return clicks.filter(({ timeSeconds }) => timeSeconds >= fromSeconds && timeSeconds < toSeconds);
}

/** Every sound of a run that ends. Throws a RangeError where it has no end: it waits for a cue, or goes round. */
export function allClicks(proof: Proof, plan: RunPlan): readonly RunClick[] {
  if (plan.endless) throw new RangeError('a run that goes round without end has no last click');
  return clicksIn(proof, plan, { fromSeconds: -Infinity, toSeconds: Infinity });
}

function countOffClicks(stretch: RunStretch): RunClick[] {
  const { settings, pace } = stretch;
  return (stretch.countOff?.beats ?? []).flatMap((beat): RunClick[] => {
    if (beat.sound === 'silent' || !isPlayedIn(stretch, beat.timeSeconds)) return [];
    const kind =
      beat.sound === 'subdivision' ? 'subdivision' : beat.isDownbeat ? 'countoffDownbeat' : 'countoff';
    const isSpoken = settings.spoken !== 'nothing' && beat.word !== '' && beat.pitch === undefined;
    return [
      {
        timeSeconds: runSecondsOf(stretch, beat.timeSeconds),
        kind,
        ...(beat.pitch !== undefined && { pitch: beat.pitch }),
        ...(isSpoken && {
          word: beat.word,
          ...(beat.ownWord !== undefined && { ownWord: beat.ownWord }),
          roomSeconds: beat.lengthSeconds / pace,
        }),
      },
    ];
  });
}

/** What of a stretch's music lies in a window: seconds of the piece, and a little more on both sides. */
function playedWindow(stretch: RunStretch, { fromSeconds, toSeconds }: RunWindow): RunWindow {
  const played = (runSeconds: number) => playedSeconds(stretch, runSeconds);
  const end = played(stretch.runSeconds + stretch.lengthSeconds);
  return {
    fromSeconds: Math.max(stretch.fromSeconds, played(fromSeconds) - 1e-6) - SAME_MOMENT_SECONDS,
    toSeconds: Math.min(end - SAME_MOMENT_SECONDS, played(toSeconds) + 1e-6),
  };
}

function musicClicks(proof: Proof, plan: RunPlan, stretch: RunStretch, window: RunWindow): RunClick[] {
  const { clicks } = proof.compiled;
  const { settings } = stretch;
  const played = playedWindow(stretch, window);
  const audible = audibleClicks(proof, settings, plan.entrySeconds);
  const sounds: RunClick[] = [];
  const first = firstAtOrAfter(clicks.timeSeconds, played.fromSeconds);
  for (let index = first; index < clicks.timeSeconds.length; index++) {
    const time = clicks.timeSeconds[index] as number;
    if (time >= played.toSeconds) break;
    if (audible.isHeard(index))
      sounds.push({
        timeSeconds: runSecondsOf(stretch, time),
        kind: clickKind(clicks, index),
        ...(settings.spoken === 'everything' && wordAt(proof, index, stretch.pace)),
      });
  }
  const extra = extraNotes(proof, stretch, played, audible.isOpen);
  return extra.length > 0 ? [...sounds, ...extra].sort((a, b) => a.timeSeconds - b.timeSeconds) : sounds;
}

/** What sounds beside the click plan: equal notes over the bar, its rhythm, the carry through a seam. */
function extraNotes(
  proof: Proof,
  stretch: RunStretch,
  played: RunWindow,
  isOpen: (performed: number) => boolean,
): RunClick[] {
  const { overlay, soundsRhythm, seamAt } = stretch.settings;
  if (!overlay && !soundsRhythm && !mayCarry(stretch.settings)) return [];
  const { timeline } = proof.compiled;
  const notes: RunClick[] = [];
  const last = firstAtOrAfter(timeline.barStartSeconds, played.toSeconds);
  for (let bar = lastAtOrBefore(timeline.barStartSeconds, played.fromSeconds); bar < last; bar++) {
    const written = writtenBar(proof, bar);
    const put = (kind: ClickKind, { n, d }: Fraction) => {
      const time = secondsAtRatio(timeline, bar, n, d);
      if (time >= played.fromSeconds && time < played.toSeconds)
        notes.push({ timeSeconds: runSecondsOf(stretch, time), kind });
    };
    if (overlay) for (const at of equalNotes(written, overlay)) put('overlay', at);
    if (soundsRhythm && written.rhythm) for (const at of rhythmOnsets(written.rhythm)) put('overlay', at);
    if (clickOnAt(stretch.settings, bar) === 'carry' && isOpen(bar))
      for (const at of carryNotes(proof, bar, seamAt)) put('subdivision', at);
  }
  return notes;
}

function mayCarry({ clickOn, clickSpans }: RunSettings): boolean {
  return clickOn === 'carry' || clickSpans.some((span) => span.clickOn === 'carry');
}

/** What is counted on a beat, and how long there is to say it; nothing for a subdivision. */
function wordAt(proof: Proof, index: number, pace: number): Pick<RunClick, 'word' | 'roomSeconds'> {
  const { clicks, timeline } = proof.compiled;
  if (clickKind(clicks, index) === 'subdivision') return {};
  const beat = pulseOf(writtenBar(proof, clicks.performed[index] ?? 0))[clicks.beat[index] ?? 0];
  let next = index + 1;
  while (next < clicks.timeSeconds.length && clickKind(clicks, next) === 'subdivision') next++;
  const end = clicks.timeSeconds[next] ?? pieceSeconds(timeline);
  const roomSeconds = (end - (clicks.timeSeconds[index] ?? 0)) / pace;
  return beat ? { word: beat.word, roomSeconds } : {};
}
