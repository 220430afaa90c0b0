import { writtenBar, type Proof } from '../proof/proof.ts';
import { divide, equal, toNumber, type Fraction } from '../fraction/fraction.ts';
import { formatNumber } from '../fraction/text.ts';
import { countBar, type CountSchool, type CountWord } from '../count/countWord.ts';
import { besideAlike, countShowingOdd } from '../count/schools/oddShown.ts';
import { COUNT_SCHOOLS } from '../count/schools.ts';
import { formatMeter } from '../meter/text.ts';
import { barLength, type Bar } from '../piece/piece.ts';
import { pulseOf, type PulseBeat } from '../pulse/pulse.ts';
import { bpmOf, secondsOf } from '../tempo/tempoMark.ts';
import { noteValueOfLengthMaybe, type NoteValue } from '../value/noteValue.ts';
import { notesWords, noteWords } from '../value/text.ts';
import { nearestFeltMaybe, type NearestCarry } from './carry.ts';
import {
  comparedBeats,
  DIFFICULTY_PARTS,
  DIFFICULTY_WEIGHTS,
  oddSecondsMaybe,
  type DifficultyPart,
} from './difficulty.ts';
import { feltSides, landsTogether, type Seam } from './seam.ts';

export const SEAM_KINDS = [
  'pulse kept',
  'same subdivision',
  'odd bar',
  'regrouped',
  'carried over',
  'new tempo',
  'ramp',
  'hold',
  'tempo inside',
  'open repeat',
  'jump',
] as const;
export type SeamKind = (typeof SEAM_KINDS)[number];

/** The beat on one side of a seam. `value` is null where no single note has its length. */
export interface SeamPulse {
  readonly value: NoteValue | null;
  readonly lengthWholes: Fraction;
  readonly bpm: Fraction;
  readonly milliseconds: number;
}

/** A mistake to expect, and how late (or, negative, early) it makes the next arrival. */
interface SeamTrap {
  readonly kind: 'rounding' | 'triplet' | 'old pulse';
  readonly lateMilliseconds: number;
  readonly says: string;
}

/** A named share of the difficulty, with the most it could give and why it gives what it does. */
interface DifficultyShare {
  readonly part: DifficultyPart;
  readonly points: number;
  readonly most: number;
}

/** Everything that is told about a seam. Worked out when it is looked at. */
export interface SeamDetails {
  readonly kind: SeamKind;
  readonly pulseBefore: SeamPulse;
  readonly pulseAfter: SeamPulse;
  /** Length of the beat after over the beat before: below 1 is faster. */
  readonly beatRatio: number;
  /** Where nothing carries over: a nearly equal pair that may help, and what it misses in a bar. */
  readonly nearest: (NearestCarry & { readonly missMilliseconds: number }) | null;
  /** The count of the bar before and of the bar after. */
  readonly countAcross: readonly [before: string, after: string];
  readonly traps: readonly SeamTrap[];
  readonly difficulty: readonly DifficultyShare[];
}

/**
 * The facts of one seam (timing.md, Seams and Odd bars). Without a school both bars are counted by beats, divided where
 * one of them is odd.
 */
export function seamDetails(proof: Proof, seam: Seam, school: CountSchool | null = null): SeamDetails {
  const before = writtenBar(proof, seam.performed - 1);
  const after = writtenBar(proof, seam.performed);
  const { was, is } = comparedBeats({ before, after, ...seam });
  const pulseBefore = seamPulse(was, seam.rateBefore);
  const pulseAfter = seamPulse(is, seam.rateAfter);
  return {
    kind: kindOf(seam, before, after, pulseBefore, pulseAfter),
    pulseBefore,
    pulseAfter,
    beatRatio: pulseAfter.milliseconds / pulseBefore.milliseconds,
    nearest: seam.carry ? null : nearestWithMiss(seam, before, after),
    countAcross: countedAcross(before, after, school),
    traps: trapsOf(seam, before, after, pulseBefore, pulseAfter),
    difficulty: DIFFICULTY_PARTS.map((part, index) => ({
      part,
      points: seam.difficulty.points[index] ?? 0,
      most: DIFFICULTY_WEIGHTS[part],
    })),
  };
}

function seamPulse(beat: PulseBeat, rate: Fraction): SeamPulse {
  return {
    value: noteValueOfLengthMaybe(beat.lengthWholes),
    lengthWholes: beat.lengthWholes,
    bpm: bpmOf(rate, beat.lengthWholes),
    milliseconds: 1000 * secondsOf(beat.lengthWholes, rate),
  };
}

function kindOf(seam: Seam, before: Bar, after: Bar, was: SeamPulse, is: SeamPulse): SeamKind {
  const { changes, rateBefore, rateAfter } = seam;
  if (!landsTogether(seam)) return SEAM_KINDS.find((kind) => changes.includes(kind as never)) ?? 'jump';
  const isOdd = oddSecondsMaybe({ before, after, rateBefore, rateAfter }) !== null;
  if (isOdd && !seam.leavesOdd) return 'odd bar';
  if (!changes.includes('tempo')) return changes.includes('grouping') ? 'regrouped' : 'same subdivision';
  if (Math.abs(is.milliseconds / was.milliseconds - 1) < 1e-9) return 'pulse kept';
  return seam.carry ? 'carried over' : 'new tempo';
}

function nearestWithMiss(seam: Seam, before: Bar, after: Bar): SeamDetails['nearest'] {
  const nearest = nearestFeltMaybe(feltSides({ before, after, ...seam }));
  const barMilliseconds = 1000 * secondsOf(barLength(after), seam.rateAfter);
  return nearest && { ...nearest, missMilliseconds: nearest.errorRatio * barMilliseconds };
}

function countedAcross(before: Bar, after: Bar, school: CountSchool | null): readonly [string, string] {
  const text = (words: readonly CountWord[]) => words.map(({ word }) => word).join(' ');
  if (school || before.partial || after.partial) {
    const used = school ?? COUNT_SCHOOLS[0];
    return [text(countBar(before, used)), text(countBar(after, used))];
  }
  const [was, is] = [pulseOf(before), pulseOf(after)];
  return [text(countShowingOdd(was, besideAlike(was, is))), text(countShowingOdd(is, besideAlike(is, was)))];
}

function trapsOf(seam: Seam, before: Bar, after: Bar, was: SeamPulse, is: SeamPulse): readonly SeamTrap[] {
  return [
    roundingTrapMaybe(seam, before, after),
    tripletTrapMaybe(seam, after),
    oldPulseTrapMaybe(was, is),
  ].filter((trap) => trap !== null);
}

/** Filling an odd bar to the length before it arrives (ℓ₀ − ℓ) / W late. */
function roundingTrapMaybe(seam: Seam, before: Bar, after: Bar): SeamTrap | null {
  const { rateBefore, rateAfter, leavesOdd } = seam;
  if (leavesOdd) return null;
  const longerSeconds = oddSecondsMaybe({ before, after, rateBefore, rateAfter });
  if (longerSeconds === null) return null;
  const lateMilliseconds = -1000 * longerSeconds;
  const says = `filling the bar to ${formatMeter(before.meter)} puts you ${inTime(lateMilliseconds)}`;
  return { kind: 'rounding', lateMilliseconds, says };
}

/** A last group of three units played as a triplet in the time of four arrives one unit late; each note is 4/3 long. */
function tripletTrapMaybe({ rateAfter }: Seam, after: Bar): SeamTrap | null {
  const beats = pulseOf(after);
  const [first, last] = [beats[0], beats.at(-1)];
  if (!first || !last || beats.length < 2) return null;
  if (
    first.parts !== 4 ||
    last.parts !== 3 ||
    !equal(divide(first.lengthWholes, last.lengthWholes), { n: 4, d: 3 })
  )
    return null;
  const lateMilliseconds =
    (60_000 * (toNumber(first.lengthWholes) - toNumber(last.lengthWholes))) / toNumber(rateAfter);
  const value = noteValueOfLengthMaybe(divide(last.lengthWholes, { n: 3, d: 1 }));
  const notes = value ? notesWords(value) : 'notes';
  const says = `the last three ${notes} squeezed into a triplet put you ${inTime(lateMilliseconds)}, each a third too long`;
  return { kind: 'triplet', lateMilliseconds, says };
}

/** A beat that differs by less is not kept by mistake. */
const UNFELT = 0.01;

function oldPulseTrapMaybe(was: SeamPulse, is: SeamPulse): SeamTrap | null {
  const lateMilliseconds = was.milliseconds - is.milliseconds;
  if (Math.abs(lateMilliseconds) < UNFELT * is.milliseconds) return null;
  const old = was.value ? noteWords(was.value) : formatNumber(was.bpm);
  return {
    kind: 'old pulse',
    lateMilliseconds,
    says: `keeping the old ${old} beat puts you ${inTime(lateMilliseconds)} on beat 2`,
  };
}

function inTime(lateMilliseconds: number): string {
  return `${Math.round(Math.abs(lateMilliseconds))} ms ${lateMilliseconds > 0 ? 'late' : 'early'}`;
}
