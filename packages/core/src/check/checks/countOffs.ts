import { lawRate } from '../../tempo/tempoMap.ts';
import { pulseOf } from '../../pulse/pulse.ts';
import { rhythmOnsets, soundsAlike } from '../../rhythm/rhythm.ts';
import type { BarCheck } from '../check.ts';

/** Entries are the start and every rehearsal mark: the places a rehearsal begins from. */
function isEntry(barIndex: number, rehearsalMark: string | undefined): boolean {
  return barIndex === 0 || rehearsalMark !== undefined;
}

/** A tempo change inside the very bar that is counted into. */
export const countOffTempo: BarCheck = {
  id: 'count-off-tempo',
  severity: 'hint',
  name: 'A count-off that is soon at the wrong tempo',
  explains: 'The count is heard at the tempo of the first beat; the bar goes on at another.',
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    if (!isEntry(barIndex, bar.rehearsalMark)) return null;
    const { changes, atBar } = context.tempoMap;
    const start = changes[atBar[barIndex] ?? 0];
    const next = changes[(atBar[barIndex] ?? 0) + 1];
    const isRamp = start?.law.kind === 'ramp';
    const changesInside =
      next?.barIndex === barIndex && start && !isSame(lawRate(start.law, 0), lawRate(next.law, 0));
    if (!isRamp && !changesInside) return null;
    return {
      says: `A count-off into ${context.nameOf(barIndex)} is at a tempo that the bar does not keep: count into a bar before or after`,
    };
  },
};

function isSame(a: { n: number; d: number }, b: { n: number; d: number }): boolean {
  return a.n === b.n && a.d === b.d;
}

/** An opening that sounds like its count-off, so that nobody hears where the count ends. */
export const countOffLikeness: BarCheck = {
  id: 'count-off-likeness',
  severity: 'hint',
  name: 'An opening that sounds like its count-off',
  explains:
    'Notes on every beat and nowhere else: leave the last beat of the count open, or speak a cue word.',
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    if (!isEntry(barIndex, bar.rehearsalMark) || !bar.rhythm || bar.partial) return null;
    const isAlike = soundsAlike(
      rhythmOnsets(bar.rhythm),
      pulseOf(bar).map((beat) => beat.atWholes),
    );
    return isAlike
      ? { says: `The notes of ${context.nameOf(barIndex)} sound like the count before them` }
      : null;
  },
};
