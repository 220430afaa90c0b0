import { toNumber, type Fraction } from '../../fraction/fraction.ts';
import { formatNumber } from '../../fraction/text.ts';
import { pulseAdvice, CONDUCTABLE_BPM } from '../../pulse/advice.ts';
import { pulseOf, type PulseBeat } from '../../pulse/pulse.ts';
import { shortestNoteMaybe } from '../../rhythm/rhythm.ts';
import { inWords } from '../../pulse/text.ts';
import { rateAtBar } from '../../tempo/tempoMap.ts';
import { bpmOf } from '../../tempo/tempoMark.ts';
import type { Bar } from '../../piece/piece.ts';
import { eachBar, type BarCheck, type Check, type CheckContext } from '../check.ts';
import { upper } from './oddBar.ts';

/** More notes a second than people play. */
const MOST_NOTES_PER_SECOND = 16;

/** A beat too fast or too slow to conduct, told where it begins. */
export const conductablePulse: Check = {
  id: 'conductable-pulse',
  severity: 'hint',
  name: 'A beat too fast or too slow to conduct',
  explains: `Between ${CONDUCTABLE_BPM.slowest} and ${CONDUCTABLE_BPM.fastest} a minute a beat can be shown and read.`,
  looksAt: 'piece',
  find: (context) => {
    let isOutside = false;
    let last: { readonly bar: Bar; readonly beats: ExtremeBeats } | null = null;
    return eachBar(context, (_context, bar, barIndex) => {
      const rate = rateAtBar(context.tempoMap, barIndex);
      if (!last || !hasSamePulse(last.bar, bar)) last = { bar, beats: extremeBeats(pulseOf(bar)) };
      const { shortest, longest } = last.beats;
      const perMinute = toNumber(rate);
      const wasOutside = isOutside;
      isOutside =
        perMinute / longest < CONDUCTABLE_BPM.slowest || perMinute / shortest > CONDUCTABLE_BPM.fastest;
      if (!isOutside || wasOutside || bar.partial) return null;
      const { best, reason } = pulseAdvice(bar, rate);
      const now = `${upper(context.nameOf(barIndex))} is beaten at ${formatNumber(slowestOrFastest(bar, rate))} a minute`;
      if (!best.isConductable || best.beats === pulseOf(bar).length)
        return {
          says: `${now}, ${perMinute / shortest > CONDUCTABLE_BPM.fastest ? 'too fast' : 'too slow'} to conduct`,
        };
      return {
        says: `${now}: ${reason}`,
        correction: {
          label: `Beat it ${inWords(best.beats)}`,
          edit: {
            kind: 'setPulse',
            from: barIndex,
            count: runLength(context, barIndex),
            pulse: { kind: 'in', beats: best.beats },
          },
        },
      };
    });
  },
};

function hasSamePulse(a: Bar, b: Bar): boolean {
  return a === b || (a.meter === b.meter && !a.partial && !b.partial && !a.pulse && !b.pulse);
}

interface ExtremeBeats {
  readonly shortest: number;
  readonly longest: number;
}

const extremes = new WeakMap<readonly PulseBeat[], ExtremeBeats>();

/** Shortest and longest beat of a pulse in whole notes. */
function extremeBeats(pulse: readonly PulseBeat[]): ExtremeBeats {
  const known = extremes.get(pulse);
  if (known) return known;
  const lengths = pulse.map((beat) => toNumber(beat.lengthWholes));
  const found = { shortest: Math.min(...lengths), longest: Math.max(...lengths) };
  extremes.set(pulse, found);
  return found;
}

/** The beat farthest from the conductable middle. */
function slowestOrFastest(bar: Bar, rate: Fraction): Fraction {
  const bpms = pulseOf(bar).map((beat) => bpmOf(rate, beat.lengthWholes));
  const [first] = bpms;
  if (!first) throw new RangeError('a bar without a pulse');
  return bpms.reduce((a, b) => (away(b) > away(a) ? b : a), first);
}

function away(bpm: Fraction): number {
  return Math.abs(Math.log2(toNumber(bpm) / CONDUCTABLE_BPM.easiest));
}

/** How many bars from here on share the meter and the change in force. */
function runLength({ piece, tempoMap }: CheckContext, from: number): number {
  const meter = piece.bars[from]?.meter;
  let to = from + 1;
  while (piece.bars[to]?.meter === meter && tempoMap.atBar[to] === tempoMap.atBar[from]) to++;
  return to - from;
}

/** Written notes faster than people play. */
export const playableNotes: BarCheck = {
  id: 'playable-notes',
  severity: 'question',
  name: 'Notes faster than people play',
  explains: 'Either the tempo or the note values are likely to be misprinted.',
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    const shortest = bar.rhythm && shortestNoteMaybe(bar.rhythm);
    if (!shortest) return null;
    const perSecond = toNumber(rateAtBar(context.tempoMap, barIndex)) / 60 / shortest;
    if (perSecond <= MOST_NOTES_PER_SECOND) return null;
    return {
      says: `In ${context.nameOf(barIndex)} the shortest notes come ${Math.round(perSecond)} a second, faster than people play`,
    };
  },
};
