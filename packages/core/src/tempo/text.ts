import { toNumber } from '../fraction/fraction.ts';
import { formatNumber, parseFraction } from '../fraction/text.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import type { NoteValue } from '../value/noteValue.ts';
import { formatNoteValue, parseNoteValue } from '../value/text.ts';
import { MAX_BPM, MIN_BPM, type Equivalence, type StatedTempo } from './tempoMark.ts';

/**
 * Reads `dotted quarter = 66`, `q. = 66.5` or, with a unit to fall back on, a bare `66`.
 * Refuses what is not a playable number of beats a minute.
 */
export function parseStatedTempo(text: string, fallbackUnit?: NoteValue): Result<StatedTempo> {
  const sides = text.split('=').map((side) => side.trim());
  if (sides.length > 2) return refused(`"${text.slice(0, 40)}" has more than one "="`);
  const [left = '', right] = sides;
  if (right === undefined && !fallbackUnit) {
    return refused(`"${text.slice(0, 40)}" says no beat unit: write quarter = 96`);
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
  return unit ? accepted(unit) : refused(`"${text.slice(0, 40)}" says no beat unit: write quarter = 96`);
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

export function formatStatedTempo({ unit, bpm }: StatedTempo): string {
  return `${formatNoteValue(unit)} = ${formatExact(bpm)}`;
}

/** Unlike a figure on the screen, a saved number is never rounded. */
function formatExact(bpm: StatedTempo['bpm']): string {
  const shown = formatNumber(bpm);
  if (!shown.startsWith('≈')) return shown;
  const whole = Math.floor(bpm.n / bpm.d);
  return `${whole > 0 ? `${whole} ` : ''}${bpm.n - whole * bpm.d}/${bpm.d}`;
}

export function formatEquivalence({ before, after }: Equivalence): string {
  return `${formatNoteValue(before)} = ${formatNoteValue(after)}`;
}
