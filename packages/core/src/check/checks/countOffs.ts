import { countOffOf, writtenCountOff } from '../../countoff/countOff.ts';
import type { CountOffSettings } from '../../countoff/settings.ts';
import { countOffStyleMaybe } from '../../countoff/styles.ts';
import { readyGo } from '../../countoff/styles/readyGo.ts';
import type { Edit } from '../../edit/edit.ts';
import { add, compare, subtract, ZERO, type Fraction } from '../../fraction/fraction.ts';
import { meterLength } from '../../meter/meter.ts';
import { barLength, type Bar, type Piece } from '../../piece/piece.ts';
import { rhythmOnsets, soundsAlike } from '../../rhythm/rhythm.ts';
import { lawRate } from '../../tempo/tempoMap.ts';
import type { BarCheck, Check } from '../check.ts';

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

/** An opening that sounds like what is really counted before it, so that nobody hears where the count ends. */
export const countOffLikeness: Check = {
  id: 'count-off-likeness',
  severity: 'hint',
  name: 'An opening that sounds like its count-off',
  explains:
    'Notes just where the count has its beats and nowhere else: leave the last beat of the count open, or speak a cue word.',
  looksAt: 'piece',
  find: ({ piece, nameOf }) =>
    piece.bars.flatMap((bar, barIndex) => {
      if (!isEntry(barIndex, bar.rehearsalMark) || !runsOnIn(piece, barIndex, countOffOf(bar))) return [];
      const says = `The notes of ${nameOf(barIndex)} sound like the count before them`;
      const clearer = clearerCounts(countOffOf(bar)).find(
        ({ settings }) => !runsOnIn(piece, barIndex, settings),
      );
      if (!clearer) return [{ barIndex, says }];
      const edit: Edit = { kind: 'setCountOff', bar: barIndex, countOff: clearer.settings };
      return [{ barIndex, says, correction: { label: clearer.label, edit } }];
    }),
};

/** Ways to count the same bar so that its end is heard, the least change first. */
function clearerCounts(settings: CountOffSettings) {
  return [
    { label: 'Leave the last beat of its count open', settings: { ...settings, breathOnLastBeat: true } },
    {
      label: 'Say “ready, go” on the last two beats',
      settings: { ...settings, style: readyGo.id, breathOnLastBeat: false },
    },
  ];
}

/**
 * Whether the opening goes on as the count did: over the last full bar of it the same rhythm is heard. A word of its own at
 * the end tells where the count is over, and so does a last tone that is not the first note.
 */
function runsOnIn({ bars, key }: Piece, barIndex: number, settings: CountOffSettings): boolean {
  const bar = bars[barIndex] as Bar;
  const played = onsetsFromMaybe(bars, barIndex, meterLength(bar.meter));
  if (played === null || tellsEnd(settings)) return false;
  const { beats, lengthWholes } = writtenCountOff(bar, key ?? null, settings);
  const from = subtract(lengthWholes, meterLength(bar.meter));
  const heard = beats.filter(({ sound, atWholes }) => sound !== 'silent' && compare(atWholes, from) >= 0);
  const lastPitch = heard.at(-1)?.pitch;
  if (compare(from, ZERO) < 0 || heard.length === 0) return false;
  if (lastPitch !== undefined && settings.firstNote !== null && lastPitch !== settings.firstNote)
    return false;
  const counted = heard.map(({ atWholes }) => subtract(atWholes, from));
  return soundsAlike(played, counted);
}

/** A breath on the last beat takes the place of a cue word. */
function tellsEnd({ style, cueWord, breathOnLastBeat }: CountOffSettings): boolean {
  return countOffStyleMaybe(style)?.tellsEnd === true || (cueWord !== null && !breathOnLastBeat);
}

/** Where notes begin from a bar on, over a length; null where the notes of some of it are not known. */
function onsetsFromMaybe(bars: readonly Bar[], from: number, window: Fraction): readonly Fraction[] | null {
  const onsets: Fraction[] = [];
  let start = ZERO;
  let isTied = false;
  for (let index = from; compare(start, window) < 0; index++) {
    const bar = bars[index];
    if (!bar?.rhythm) return null;
    onsets.push(...rhythmOnsets(bar.rhythm, isTied).map((onset) => add(start, onset)));
    const last = bar.rhythm.at(-1);
    isTied = last?.isTied === true && !last.isRest;
    start = add(start, barLength(bar));
  }
  return onsets.filter((onset) => compare(onset, window) < 0);
}
