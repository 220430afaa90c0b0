import type { CountOffSettings } from '../countoff/settings.ts';
import { fraction, subtract, type Fraction } from '../fraction/fraction.ts';
import { meterLength, type Meter } from '../meter/meter.ts';
import type { StatedTempo, TempoMark } from '../tempo/tempoMark.ts';
import type { Rhythm } from '../rhythm/rhythm.ts';
import { noteValue, type NoteValue } from '../value/noteValue.ts';

/**
 * A bar shorter than its meter. A pickup keeps the *end* of the full bar; the bar that completes
 * it, before a repeat or at the close, keeps the *start*.
 */
export interface PartialBar {
  readonly keeps: 'start' | 'end';
  readonly lengthWholes: Fraction;
}

/** How much longer a hold makes its note: in beats, in seconds, or until the director cues (no time on paper). */
export type HoldLength =
  | { readonly kind: 'beats'; readonly beats: Fraction }
  | { readonly kind: 'seconds'; readonly seconds: Fraction }
  | { readonly kind: 'until cued' };

/**
 * A fermata on the note at a position, or with kind "breath" a break after it. The extra time passes after
 * that note's value: the given one, else to the end of the beat it stands in.
 */
export interface Hold {
  readonly kind: 'hold' | 'breath';
  readonly atWholes: Fraction;
  readonly length: HoldLength;
  readonly value?: NoteValue;
}

/** Where a repeat ends: played so many times in all, or again until the director goes on. */
export type RepeatTimes = number | 'until cued';

/** Signs of the route at a bar: segno and coda stand at its start, the others take hold at its end. */
export interface Navigation {
  readonly segno?: true;
  readonly coda?: true;
  readonly toCoda?: true;
  readonly fine?: true;
  readonly jump?: Jump;
}

/** D.C. or D.S.; `al` says which sign ends the second time through, where it is printed. */
export interface Jump {
  readonly to: 'start' | 'segno';
  readonly al?: 'fine' | 'coda';
}

/** What is beaten in a bar where the director has chosen: "in two", or these note values in a row. */
export type PulseChoice =
  | { readonly kind: 'in'; readonly beats: number }
  | { readonly kind: 'values'; readonly values: readonly NoteValue[] };

/** A finding that the director has answered: what it was about then, and why it is meant. */
export interface Answer {
  readonly check: string;
  readonly reason: string;
  /** What the place looked like when it was answered; once it looks different the answer no longer holds. */
  readonly about: string;
}

export const SECTION_ACTS = ['enters', 'rests', 'cue'] as const;

/**
 * What a section does from a bar on: it enters, it rests, or it is cued there while it plays. `says` is for the player,
 * such as "after the drum".
 */
export interface SectionMark {
  readonly section: string;
  readonly does: (typeof SECTION_ACTS)[number];
  readonly says?: string;
}

/** A correction as the piece keeps it: what stood there, what stands there now, why, who saw it and on which day. */
export interface LoggedCorrection {
  /** "bar 31", as it was named then. */
  readonly place: string;
  readonly was: string;
  readonly is: string;
  readonly why: string;
  /** A section, never a person; empty where the director saw it. */
  readonly spottedBy: string;
  /** YYYY-MM-DD. */
  readonly on: string;
}

/** One written measure. */
export interface Bar {
  readonly meter: Meter;
  /** Printed label where it does not simply count on; null for a bar that has none. */
  readonly label?: string | null;
  readonly partial?: PartialBar;
  readonly rehearsalMark?: string;
  /** In order of position; at most one at a position. */
  readonly tempoMarks: readonly TempoMark[];
  readonly holds?: readonly Hold[];
  readonly startsRepeat?: true;
  readonly endsRepeat?: RepeatTimes;
  /** The passes on which this bar is played; neighbours with the same passes are one ending. */
  readonly ending?: readonly number[];
  readonly navigation?: Navigation;
  readonly pulse?: PulseChoice;
  readonly rhythm?: Rhythm;
  readonly answers?: readonly Answer[];
  /** What sections do from this bar on; at most one mark a section. */
  readonly sectionMarks?: readonly SectionMark[];
  /** A word to the ensemble at this bar. */
  readonly note?: string;
  /** How this bar is counted in; left out, plainly. */
  readonly countOff?: CountOffSettings;
}

/**
 * The bar with every field there, in one order, undefined where it has none. Bars of one shape are read several times
 * faster than bars of many, so whatever makes a bar ends with this.
 */
export function ofOneShape(bar: Bar): Bar {
  const shaped: { readonly [K in keyof Required<Bar>]: Bar[K] } = {
    meter: bar.meter,
    label: bar.label,
    partial: bar.partial,
    rehearsalMark: bar.rehearsalMark,
    tempoMarks: bar.tempoMarks,
    holds: bar.holds,
    startsRepeat: bar.startsRepeat,
    endsRepeat: bar.endsRepeat,
    ending: bar.ending,
    navigation: bar.navigation,
    pulse: bar.pulse,
    rhythm: bar.rhythm,
    answers: bar.answers,
    sectionMarks: bar.sectionMarks,
    note: bar.note,
    countOff: bar.countOff,
  };
  return shaped;
}

/** What is written. Plain, readonly, serialisable: an edit makes a new piece and shares the rest. */
export interface Piece {
  readonly title: string;
  readonly subtitle: string;
  readonly composer: string;
  /** Tonic and mode as printed, such as "D minor"; needed only for pitched count-offs. */
  readonly key?: string;
  /** Period or style, in the director's words. */
  readonly style?: string;
  /** The ensemble's sections, in the order of the score. */
  readonly sections?: readonly string[];
  /** What has been put right so far, oldest first. */
  readonly corrections?: readonly LoggedCorrection[];
  /** After a D.C. or D.S.: whether inner repeats are taken again. Left out, they are not. */
  readonly takesRepeatsAfterJump?: true;
  readonly bars: readonly Bar[];
}

export const MAX_BARS = 10_000;
export const MAX_TEXT_LENGTH = 200;
export const MAX_REPEAT_TIMES = 99;
export const MAX_SECTIONS = 40;
export const MAX_CORRECTIONS = 1000;

/** What sounds when a piece states no tempo at its start. */
export const UNSTATED_TEMPO: StatedTempo = { unit: noteValue('quarter'), bpm: fraction(96) };

/** The length a bar really has, in whole notes. */
export function barLength(bar: Bar): Fraction {
  return bar.partial ? bar.partial.lengthWholes : meterLength(bar.meter);
}

/** How far into its full bar the bar starts, in whole notes: more than zero only for a pickup. */
export function barStartInFullBar(bar: Bar): Fraction {
  if (bar.partial?.keeps !== 'end') return fraction(0);
  return subtract(meterLength(bar.meter), bar.partial.lengthWholes);
}
