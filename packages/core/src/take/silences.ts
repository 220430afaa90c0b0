import { isSilentBar } from '../run/audibleClicks.ts';
import { writtenBar, type Proof } from '../proof/proof.ts';
import { pulseOf } from '../pulse/pulse.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { toNumber } from '../fraction/fraction.ts';
import { barStart, firstAtOrAfter, pieceSeconds, performedCount } from '../timeline/query.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import type { TakeOnset } from './takeRecord.ts';
import { howMany } from '../words/howMany.ts';

/** Bars in which the click was silent, up to where it came back. */
export interface TakeSilence {
  /** The first silent bar, and the one at which the click came back. */
  readonly performed: number;
  readonly backAt: number;
  readonly seconds: number;
  /** How much later than before the silence the player was when it came back, in milliseconds; early below zero. */
  readonly offMs: number;
  /** Whether that is within a twelfth of the beat, or 30 milliseconds. */
  readonly isHeld: boolean;
}

const HELD_SHARE_OF_BEAT = 1 / 12;
const HELD_AT_LEAST_MS = 30;

/**
 * How the player came out of each silence of a run whose click drops out: the onsets of the bar at which it is back, against
 * those of the last bar before it fell silent. Silences that nobody played over, or that the run did not outlast, are left out.
 */
export function takeSilences(
  proof: Proof,
  plan: RunPlan,
  onsets: readonly TakeOnset[],
): readonly TakeSilence[] {
  const music = plan.stretches.findLast(({ kind }) => kind === 'music');
  const { fade = null } = music?.settings ?? {};
  if (!fade || !music) return [];
  const { timeline } = proof.compiled;
  const entryBar = firstAtOrAfter(timeline.barStartSeconds, plan.entrySeconds - SAME_MOMENT_SECONDS);
  const isSilent = (performed: number) => isSilentBar(fade, proof, performed, performed - entryBar);
  const bars = barsOf(onsets);
  const silences: TakeSilence[] = [];
  let from: number | null = null;
  bars.forEach((bar, at) => {
    const before = bars[at - 1];
    const goesOn = before !== undefined && bar.performed === before.performed + 1;
    if (from !== null && !goesOn) from = null;
    if (isSilent(bar.performed)) {
      if (goesOn && !isSilent(before.performed)) from = at;
      return;
    }
    const silence = from === null ? null : silenceMaybe(proof, music.pace, bars.slice(from - 1, at + 1));
    if (silence) silences.push(silence);
    from = null;
  });
  return silences;
}

interface PlayedBar {
  readonly performed: number;
  readonly offsMs: readonly number[];
}

/** The onsets bar by bar, in the order played; bars that nothing was asked for in are there, and empty. */
function barsOf(onsets: readonly TakeOnset[]): readonly PlayedBar[] {
  const bars: Array<{ performed: number; offsMs: number[]; lastWholes: number }> = [];
  for (const { performed, atWholes, offMs } of onsets) {
    let last = bars.at(-1);
    if (!last || last.performed !== performed || last.lastWholes >= atWholes) {
      while (last && performed > last.performed + 1) {
        last = { performed: last.performed + 1, offsMs: [], lastWholes: -1 };
        bars.push(last);
      }
      last = { performed, offsMs: [], lastWholes: -1 };
      bars.push(last);
    }
    last.lastWholes = atWholes;
    if (offMs !== null) last.offsMs.push(offMs);
  }
  return bars;
}

/** From the bar before a silence to the one after it. */
function silenceMaybe(proof: Proof, pace: number, bars: readonly PlayedBar[]): TakeSilence | null {
  const [before, first] = bars;
  const back = bars.at(-1);
  if (!before || !first || !back || before.offsMs.length === 0 || back.offsMs.length === 0) return null;
  const { timeline } = proof.compiled;
  const startOf = (performed: number) =>
    performed < performedCount(timeline) ? barStart(timeline, performed) : pieceSeconds(timeline);
  const seconds = (startOf(back.performed) - startOf(first.performed)) / pace;
  // The click that comes back pulls one right at once: the first onset tells.
  const offMs = (back.offsMs[0] ?? 0) - meanOf(before.offsMs);
  const bar = writtenBar(proof, back.performed);
  const beats = pulseOf(bar).map(({ lengthWholes }) => toNumber(lengthWholes));
  const barSeconds = (startOf(back.performed + 1) - startOf(back.performed)) / pace;
  const beatMs = (1000 * barSeconds * (beats[0] ?? 1)) / beats.reduce((sum, wholes) => sum + wholes, 0);
  const mostMs = Math.max(HELD_AT_LEAST_MS, HELD_SHARE_OF_BEAT * beatMs);
  return {
    performed: first.performed,
    backAt: back.performed,
    seconds: Math.round(seconds * 100) / 100,
    offMs: Math.round(offMs * 10) / 10,
    isHeld: Math.abs(offMs) <= mostMs,
  };
}

function meanOf(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

/** "3 of 4 silences held, the longest 6.2 s"; empty where there was none. */
export function silenceWords(silences: readonly TakeSilence[]): string {
  if (silences.length === 0) return '';
  const held = silences.filter(({ isHeld }) => isHeld);
  const longest = Math.max(0, ...held.map(({ seconds }) => seconds));
  const count = howMany(silences.length, 'silence');
  if (held.length === 0) return `none of ${count} held`;
  return `${held.length} of ${count} held, the longest ${longest.toFixed(1)} s`;
}
