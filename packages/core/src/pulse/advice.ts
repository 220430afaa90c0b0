import { toNumber, type Fraction } from '../fraction/fraction.ts';
import { formatFraction, formatNumber } from '../fraction/text.ts';
import type { Meter } from '../meter/meter.ts';
import type { Bar } from '../piece/piece.ts';
import { bpmOf } from '../tempo/tempoMark.ts';
import { beatNumbers, chosenBeatsMaybe } from './choice.ts';
import { inWords } from './text.ts';

/** Beats a minute that an arm can show and an ensemble can read; the middle is where it is easiest. */
export const CONDUCTABLE_BPM = { slowest: 40, easiest: 84, fastest: 168 } as const;

/** One way to beat a bar at a tempo. The rate is that of its most frequent beat. */
interface PulseOption {
  readonly beats: number;
  readonly bpm: Fraction;
  readonly isConductable: boolean;
  /** Written groups are beaten together, which asks more of everyone. */
  readonly joinsGroups: boolean;
}

/** Which of them to take, and why in words. */
export interface PulseAdvice {
  readonly best: PulseOption;
  readonly options: readonly PulseOption[];
  readonly reason: string;
}

/** Compares every way to beat a bar at a rate (whole notes per minute) and picks the easiest to conduct. */
export function pulseAdvice(bar: Pick<Bar, 'meter'>, rate: Fraction): PulseAdvice {
  const byRate = advised.get(bar.meter) ?? new Map<string, PulseAdvice>();
  advised.set(bar.meter, byRate);
  const key = formatFraction(rate);
  const known = byRate.get(key);
  if (known) return known;
  const advice = workedOutAdvice(bar, rate);
  byRate.set(key, advice);
  return advice;
}

const advised = new WeakMap<Meter, Map<string, PulseAdvice>>();

function workedOutAdvice(bar: Pick<Bar, 'meter'>, rate: Fraction): PulseAdvice {
  const options = beatNumbers(bar.meter).map((beats) => optionOf(bar, beats, rate));
  const best = options.reduce((a, b) => (distance(b) < distance(a) ? b : a));
  return { best, options, reason: reasonFor(best, options) };
}

function optionOf(bar: Pick<Bar, 'meter'>, beats: number, rate: Fraction): PulseOption {
  const lengths = chosenBeatsMaybe(bar.meter, { kind: 'in', beats }) ?? [];
  const shortest = lengths.reduce((a, b) => (toNumber(b) < toNumber(a) ? b : a));
  const bpm = bpmOf(rate, shortest);
  const size = toNumber(bpm);
  const groups = bar.meter.parts.reduce((count, part) => count + part.groups.length, 0);
  const joinsGroups = groups > beats && beats > 1;
  return {
    beats,
    bpm,
    joinsGroups,
    isConductable: size >= CONDUCTABLE_BPM.slowest && size <= CONDUCTABLE_BPM.fastest,
  };
}

/** How far a beat is from the easiest one, as a ratio, so that half and double are equally far. */
function distance({ bpm, joinsGroups }: PulseOption): number {
  return Math.abs(Math.log2(toNumber(bpm) / CONDUCTABLE_BPM.easiest)) + (joinsGroups ? 1 : 0);
}

function reasonFor(best: PulseOption, options: readonly PulseOption[]): string {
  const chosen = `${inWords(best.beats)} the beat is ${formatNumber(best.bpm)} a minute`;
  const finer = options.find((option) => option.beats > best.beats);
  const coarser = options.findLast((option) => option.beats < best.beats);
  if (finer && toNumber(finer.bpm) > CONDUCTABLE_BPM.fastest) {
    return `${chosen}; ${inWords(finer.beats)} it would be ${formatNumber(finer.bpm)}, faster than a hand can show`;
  }
  if (coarser && toNumber(coarser.bpm) < CONDUCTABLE_BPM.slowest) {
    return `${chosen}; ${inWords(coarser.beats)} it would be ${formatNumber(coarser.bpm)}, too slow to hold together`;
  }
  return chosen;
}
