import { toNumber, type Fraction } from '../../fraction/fraction.ts';
import { formatNumber } from '../../fraction/text.ts';
import { CONDUCTABLE_BPM, pulseChoiceMaybe } from '../../pulse/advice.ts';
import { pulseAdviceAt } from '../../pulse/adviceAt.ts';
import { pulseOf, type PulseBeat } from '../../pulse/pulse.ts';
import { shortestNoteMaybe } from '../../rhythm/rhythm.ts';
import { inWords } from '../../pulse/text.ts';
import { rateAtBar } from '../../tempo/tempoMap.ts';
import { bpmOf } from '../../tempo/tempoMark.ts';
import type { Bar } from '../../piece/piece.ts';
import type { BarCheck, CheckContext } from '../check.ts';
import { capital } from '../../words/capital.ts';

/** More notes a second than people play. */
const MOST_NOTES_PER_SECOND = 16;

/** A beat too fast or too slow to conduct, told where it begins. */
export const conductablePulse: BarCheck = {
  id: 'conductable-pulse',
  severity: 'hint',
  name: 'A beat too fast or too slow to conduct',
  explains: `Between ${CONDUCTABLE_BPM.slowest} and ${CONDUCTABLE_BPM.fastest} a minute a beat can be shown and read.`,
  looksAt: 'bar',
  at: (context, bar, barIndex) => {
    if (!isOutside(context, barIndex) || isOutside(context, barIndex - 1)) return null;
    const rate = rateAtBar(context.tempoMap, barIndex);
    const { best, reason } = pulseAdviceAt(context, barIndex);
    const pulse = pulseChoiceMaybe(bar.meter, best);
    const beat = farthestBeat(bar, rate);
    const now = `${capital(context.nameOf(barIndex))} is beaten at ${formatNumber(beat)} a minute`;
    if (!best.isConductable || !pulse || best.beats === pulseOf(bar).length) {
      const isFast = toNumber(beat) > CONDUCTABLE_BPM.fastest;
      return { says: `${now}, ${isFast ? 'too fast' : 'too slow'} to conduct` };
    }
    return {
      says: `${now}: ${reason}`,
      correction: {
        label: `Beat it ${inWords(best.beats)}`,
        edit: { kind: 'setPulseOnward', from: barIndex, pulse },
      },
    };
  },
};

/** Whether a bar has a beat that cannot be conducted; it is told only where it begins, and not of a part of a bar. */
function isOutside({ piece, tempoMap }: CheckContext, barIndex: number): boolean {
  const bar = piece.bars[barIndex];
  if (!bar || bar.partial) return false;
  const { shortest, longest } = extremeBeats(pulseOf(bar));
  const perMinute = toNumber(rateAtBar(tempoMap, barIndex));
  return perMinute / longest < CONDUCTABLE_BPM.slowest || perMinute / shortest > CONDUCTABLE_BPM.fastest;
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
function farthestBeat(bar: Bar, rate: Fraction): Fraction {
  const bpms = pulseOf(bar).map((beat) => bpmOf(rate, beat.lengthWholes));
  const [first] = bpms;
  if (!first) throw new RangeError('a bar without a pulse');
  return bpms.reduce((a, b) => (away(b) > away(a) ? b : a), first);
}

function away(bpm: Fraction): number {
  return Math.abs(Math.log2(toNumber(bpm) / CONDUCTABLE_BPM.easiest));
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
