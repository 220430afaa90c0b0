import { accepted, refused, type Result } from '../problem/problem.ts';
import { fraction, type Fraction } from './fraction.ts';

const DECIMAL = /^(-?)(\d{1,9})(?:[.,](\d{1,6}))?$/;
const MIXED = /^(?:(\d{1,9}) )?(\d{1,9})\/(\d{1,9})$/;

/** Reads `66`, `66.5`, `2/3` or `58 2/3` exactly; a comma may stand for the point. */
export function parseFraction(text: string): Result<Fraction> {
  const trimmed = text.trim();
  const decimal = DECIMAL.exec(trimmed);
  if (decimal) return accepted(fromDecimal(decimal));
  const mixed = MIXED.exec(trimmed);
  if (!mixed) return refused(`"${trimmed.slice(0, 40)}" is not a number: write 66, 66.5 or 58 2/3`);
  const [, whole = '0', n = '0', d = '1'] = mixed;
  if (Number(d) === 0) return refused(`"${trimmed}" divides by zero`);
  return accepted(fraction(Number(whole) * Number(d) + Number(n), Number(d)));
}

function fromDecimal([, sign, whole = '0', digits = '']: RegExpExecArray): Fraction {
  const denominator = 10 ** digits.length;
  const magnitude = Number(whole) * denominator + Number(digits || 0);
  return fraction(sign === '-' ? -magnitude : magnitude, denominator);
}

/** `3/8`, or `2` for a whole number. */
export function formatFraction(value: Fraction): string {
  return value.d === 1 ? String(value.n) : `${value.n}/${value.d}`;
}

/** A number a person can read: `88`, `66.5`, else mixed (`58 2/3`); very fine ones are rounded with a sign that says so. */
export function formatNumber(value: Fraction): string {
  if (value.d === 1) return String(value.n);
  const hundredths = (value.n * 100) / value.d;
  if (Number.isInteger(hundredths)) return String(hundredths / 100);
  if (value.d > 99) return `≈ ${(value.n / value.d).toFixed(2)}`;
  const whole = Math.floor(value.n / value.d);
  const rest = `${value.n - whole * value.d}/${value.d}`;
  return whole === 0 ? rest : `${whole} ${rest}`;
}
