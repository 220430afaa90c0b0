import { fraction, ZERO, type Fraction } from '../fraction/fraction.ts';
import { parseFraction } from '../fraction/text.ts';
import { meterLength } from '../meter/meter.ts';
import type { Bar } from '../piece/piece.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { parseEquivalence, parseStatedTempo } from '../tempo/text.ts';
import type { TempoMark } from '../tempo/tempoMark.ts';
import { noteValue, noteValueLength, noteValueOfLengthMaybe } from '../value/noteValue.ts';
import { parseNoteValue } from '../value/text.ts';

const ON_BEAT = /^(.*?)\s+on\s+(\d{1,3})$/;

/**
 * Reads what a director types for a tempo: `q. = 66`, `132` (in the bar's own beat), `e = e`,
 * `e = e, q = 88`, each with `on 3` to put it on a later beat.
 */
export function parseTempoEntry(text: string, bar: Bar): Result<TempoMark> {
  const placed = ON_BEAT.exec(text.trim());
  const at = placed ? beatPosition(bar, Number(placed[2])) : accepted(ZERO);
  if (!at.ok) return at;
  const body = placed?.[1] ?? text.trim();
  let mark: TempoMark = { atWholes: at.value };
  for (const part of body.split(/,(?!\d)/)) {
    const read = parseTempoPart(part, bar);
    if (!read.ok) return read;
    mark = { ...mark, ...read.value };
  }
  return accepted(mark);
}

function parseTempoPart(part: string, bar: Bar): Result<Partial<TempoMark>> {
  const right = part.split('=')[1]?.trim() ?? '';
  if (/^[a-z]/i.test(right)) {
    const equivalence = parseEquivalence(part);
    return equivalence.ok ? accepted({ equivalence: equivalence.value }) : equivalence;
  }
  const beat = pulseOf(bar)[0]?.lengthWholes;
  const unit = (beat && noteValueOfLengthMaybe(beat)) ?? noteValue('quarter');
  const stated = parseStatedTempo(part, unit);
  return stated.ok ? accepted({ stated: stated.value }) : stated;
}

function beatPosition(bar: Bar, numeral: number): Result<Fraction> {
  const beat = pulseOf(bar).find((candidate) => candidate.numeral === numeral);
  if (beat) return accepted(beat.atWholes);
  return refused(
    `This bar has no beat ${numeral}: its beats are ${pulseOf(bar)
      .map((b) => b.numeral)
      .join(', ')}`,
  );
}

/** Reads a pickup's length: `e`, `dotted quarter`, `3/8`, or a number of the meter's units such as `2`. */
export function parsePickupEntry(text: string, bar: Bar): Result<Fraction> {
  const trimmed = text.trim();
  const asNote = parseNoteValue(trimmed);
  if (asNote.ok) return accepted(noteValueLength(asNote.value));
  const asNumber = parseFraction(trimmed);
  if (!asNumber.ok)
    return refused(`"${trimmed.slice(0, 40)}" is not a length: write e, q., 3/8 or a number of beats`);
  if (trimmed.includes('/')) return asNumber;
  const unit = bar.meter.parts.at(-1)?.unit ?? meterLength(bar.meter).d;
  return accepted(fraction(asNumber.value.n, asNumber.value.d * unit));
}
