import { toNumber, type Fraction } from '../fraction/fraction.ts';
import { formatFraction, formatNumber, parseFraction } from '../fraction/text.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import type { NoteValue } from '../value/noteValue.ts';
import { inNoteNames } from '../value/names.ts';
import { formatNoteValue, parseNoteValue } from '../value/text.ts';
import { RAMP_SHAPES } from './ramp.ts';
import {
  MAX_BPM,
  MIN_BPM,
  type Equivalence,
  type Ramp,
  type RampTarget,
  type StatedTempo,
} from './tempoMark.ts';

/**
 * Reads `dotted quarter = 66`, `q. = 66.5` or, with a unit to fall back on, a bare `66`.
 * Refuses what is not a playable number of beats a minute.
 */
export function parseStatedTempo(text: string, fallbackUnit?: NoteValue): Result<StatedTempo> {
  const sides = text.split('=').map((side) => side.trim());
  if (sides.length > 2) return refused(`"${text.slice(0, 40)}" has more than one "="`);
  const [left = '', right] = sides;
  if (right === undefined && !fallbackUnit) {
    return refused(`"${text.slice(0, 40)}" says no beat unit: write ${inNoteNames('quarter')} = 96`);
  }
  const unit = right === undefined || left === '' ? fallback(fallbackUnit, text) : parseNoteValue(left);
  if (!unit.ok) return unit;
  const bpm = parseFraction(right ?? left);
  if (!bpm.ok) return bpm;
  const size = toNumber(bpm.value);
  if (size < MIN_BPM || size > MAX_BPM) {
    return refused(
      `A tempo of ${right ?? left} cannot be played: give between ${MIN_BPM} and ${MAX_BPM} beats a minute`,
    );
  }
  return accepted({ unit: unit.value, bpm: bpm.value });
}

function fallback(unit: NoteValue | undefined, text: string): Result<NoteValue> {
  return unit
    ? accepted(unit)
    : refused(`"${text.slice(0, 40)}" says no beat unit: write ${inNoteNames('quarter')} = 96`);
}

/** Reads `eighth = eighth` or `e3 = s`: the note before, then the note after. */
export function parseEquivalence(text: string): Result<Equivalence> {
  const sides = text.split('=');
  const [left, right] = sides;
  if (sides.length !== 2 || left === undefined || right === undefined) {
    return refused(
      `"${text.slice(0, 40)}" is not an equivalence: write the note before, "=", the note after, such as e = e`,
    );
  }
  const before = parseNoteValue(left);
  if (!before.ok) return before;
  const after = parseNoteValue(right);
  return after.ok ? accepted({ before: before.value, after: after.value }) : after;
}

const RAMP = /^(even per beat|even per second|even ratio)?\s*(?:to\s+(.+))?$/;

/**
 * Reads a ramp: a shape ("even per beat" where none is said) and, after "to", what it arrives at:
 * `quarter = 60`, `half as fast`, `2/3 as fast`, `a tempo`, `tempo primo`.
 */
export function parseRamp(text: string, bareUnit?: NoteValue): Result<Ramp> {
  const match = RAMP.exec(text.trim());
  const shape = RAMP_SHAPES.find((known) => known === match?.[1]) ?? RAMP_SHAPES[0];
  if (!match) {
    return refused(
      `"${text.slice(0, 60)}" is not a ramp: write even per beat to ${inNoteNames('quarter')} = 60, or to half as fast`,
    );
  }
  if (match[2] === undefined) return accepted({ shape, target: null });
  const target = parseRampTarget(match[2].trim(), bareUnit);
  return target.ok ? accepted({ shape, target: target.value }) : target;
}

const NAMED_RATIOS: ReadonlyArray<readonly [words: string, ratio: Fraction]> = [
  ['half as fast', { n: 1, d: 2 }],
  ['twice as fast', { n: 2, d: 1 }],
];

function parseRampTarget(text: string, bareUnit?: NoteValue): Result<RampTarget> {
  if (text === 'a tempo' || text === 'tempo primo') return accepted({ kind: text });
  const named = NAMED_RATIOS.find(([words]) => words === text);
  if (named) return accepted({ kind: 'ratio', ratio: named[1] });
  const asFast = /^(.+) as fast$/.exec(text);
  if (!asFast) {
    const tempo = parseStatedTempo(text, bareUnit);
    return tempo.ok ? accepted({ kind: 'tempo', tempo: tempo.value }) : tempo;
  }
  const ratio = parseFraction(asFast[1] ?? '');
  if (!ratio.ok) return ratio;
  const size = toNumber(ratio.value);
  if (size < 1 / 16 || size > 16) return refused(`"${text}" is no ramp: a ratio lies between 1/16 and 16`);
  return accepted({ kind: 'ratio', ratio: ratio.value });
}

/** The text `parseRamp` reads back to the same ramp. */
export function formatRamp({ shape, target }: Ramp): string {
  return target ? `${shape} to ${formatRampTarget(target)}` : shape;
}

export function formatRampTarget(target: RampTarget): string {
  switch (target.kind) {
    case 'tempo':
      return formatStatedTempo(target.tempo);
    case 'ratio':
      return (
        NAMED_RATIOS.find(([, ratio]) => ratio.n === target.ratio.n && ratio.d === target.ratio.d)?.[0] ??
        `${formatFraction(target.ratio)} as fast`
      );
    case 'a tempo':
    case 'tempo primo':
      return target.kind;
  }
}

export function formatStatedTempo({ unit, bpm }: StatedTempo, nameOf = formatNoteValue): string {
  return `${nameOf(unit)} = ${formatExact(bpm)}`;
}

/** Unlike a figure on the screen, a saved number is never rounded. */
function formatExact(bpm: StatedTempo['bpm']): string {
  const shown = formatNumber(bpm);
  if (!shown.startsWith('≈')) return shown;
  const whole = Math.floor(bpm.n / bpm.d);
  return `${whole > 0 ? `${whole} ` : ''}${bpm.n - whole * bpm.d}/${bpm.d}`;
}

/** The text `parseEquivalence` reads back; with `noteWords` in the names that are said. */
export function formatEquivalence(
  { before, after }: Equivalence,
  nameOf: (value: NoteValue) => string = formatNoteValue,
): string {
  return `${nameOf(before)} = ${nameOf(after)}`;
}
