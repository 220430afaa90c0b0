import { accepted, refused, type Result } from '../problem/problem.ts';
import { inNoteNames } from '../value/names.ts';
import {
  MAX_METER_COUNT,
  MAX_METER_UNIT,
  partCount,
  printedCount,
  type Meter,
  type MeterPart,
} from './meter.ts';

const PART = /^\(?\s*(\d+(?:\s*\+\s*\d+)*)\s*\)?\s*\/\s*(\d+)$/;
const AS = /^(\d+)\s*\/\s*(\d+)\s+(?:as\s+)?\(?\s*(\d+(?:\s*\+\s*\d+)*)\s*\)?$/;
const PART_SPLIT = /(?<=\/\s*\d+|\))\s*\+\s*(?=[(\d])/;

/** What is printed for common time and for cut time. */
const SIGNS: Readonly<Record<string, string>> = {
  c: '4/4',
  common: '4/4',
  'c|': '2/2',
  cut: '2/2',
  'alla breve': '2/2',
};

/**
 * Reads `4/4`, `2+2+3/8`, `(2+2+3)/8`, `3/4+3/8`, and `7/8 as 2+2+3` (the word may be left out). A grouping that
 * makes two, four or eight times as many counts the smaller note: `4/4 as 3+3+2` is grouped in eighths. `C` and `C|` are read too.
 * Refuses a zero, a unit past 128 and groups that do not add up, saying by how much.
 */
export function parseMeter(text: string): Result<Meter> {
  const trimmed = SIGNS[text.trim().toLowerCase()] ?? text.trim();
  const parts: MeterPart[] = [];
  for (const piece of trimmed.split(PART_SPLIT)) {
    const part = parsePart(piece);
    if (!part.ok) return part;
    parts.push(part.value);
  }
  return accepted({ parts });
}

function parsePart(text: string): Result<MeterPart> {
  const as = AS.exec(text.trim());
  if (as) return groupedPart(as);
  const match = PART.exec(text.trim());
  if (!match) {
    return refused(`"${text.slice(0, 40)}" is not a meter: write 4/4, 7/8 as 2+2+3, (2+2+3)/8 or 3/4+3/8`);
  }
  const groups = numbers(match[1] ?? '');
  return sound({ groups, unit: Number(match[2]), prints: groups.length > 1 ? 'groups' : 'total' }, text);
}

/** How many smaller notes a grouping may count in each printed unit. */
const FINER = [2, 4, 8];

function groupedPart([text, total = '0', unit = '0', written = '']: RegExpExecArray): Result<MeterPart> {
  const part: MeterPart = { groups: numbers(written), unit: Number(unit), prints: 'total' };
  const difference = partCount(part) - Number(total);
  if (difference === 0) return sound(part, text);
  const finer = FINER.find((times) => partCount(part) === times * Number(total));
  if (finer && part.groups.length > 1 && part.unit > 0)
    return sound({ ...part, unit: part.unit * finer, printedUnit: part.unit }, text);
  const by = `${Math.abs(difference)} too ${difference > 0 ? 'many' : 'few'}`;
  return refused(
    `The grouping ${written} makes ${partCount(part)}, but ${total}/${unit} has ${total}: ${by}`,
  );
}

function sound(part: MeterPart, text: string): Result<MeterPart> {
  const sign = text.trim();
  if (part.unit === 0) {
    return refused(
      `${sign} has no unit: below the line goes the note that is counted, such as 8 for ${inNoteNames('eighths')}`,
    );
  }
  if (part.groups.some((group) => group === 0))
    return refused(`${sign} has a group of 0: leave that group out`);
  if (part.unit > MAX_METER_UNIT) {
    return refused(`${sign}: a unit finer than ${MAX_METER_UNIT} cannot be played; check the lower number`);
  }
  if (partCount(part) > MAX_METER_COUNT) {
    return refused(`${sign}: more than ${MAX_METER_COUNT} in a bar; split it into shorter bars`);
  }
  return accepted(part);
}

function numbers(text: string): number[] {
  return text.split('+').map((number) => Number(number.trim()));
}

/** The text `parseMeter` reads back to the same meter. */
export function formatMeter(meter: Meter): string {
  const known = formatted.get(meter);
  if (known !== undefined) return known;
  const isSum = meter.parts.length > 1;
  const text = meter.parts.map((part) => formatPart(part, isSum)).join('+');
  formatted.set(meter, text);
  return text;
}

const formatted = new WeakMap<Meter, string>();

/** Whether two meters print and group alike, so that the second one need not be printed. */
export function isSameMeter(a: Meter, b: Meter): boolean {
  return a === b || formatMeter(a) === formatMeter(b);
}

function formatPart(part: MeterPart, isInSum: boolean): string {
  if (part.groups.length === 1) return `${part.groups[0]}/${part.unit}`;
  const groups = part.groups.join('+');
  if (part.prints === 'groups') return `(${groups})/${part.unit}`;
  const { count, unit } = printedCount(part);
  return `${count}/${unit} as ${isInSum ? `(${groups})` : groups}`;
}

/** What is printed above and below the line of each part: `{ top: '2+2+3', bottom: '8' }`. */
export function meterSign(meter: Meter): ReadonlyArray<{ readonly top: string; readonly bottom: string }> {
  return meter.parts.map((part) => {
    const { count, unit } = printedCount(part);
    return { top: part.prints === 'groups' ? part.groups.join('+') : String(count), bottom: String(unit) };
  });
}
