import { fraction } from '../fraction/fraction.ts';
import { formatFraction, formatNumber, parseFraction } from '../fraction/text.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import { MAX_REPEAT_TIMES, type HoldLength, type Jump } from './piece.ts';

const MAX_HOLD = 120;

/** Reads `2 beats`, `1.5 seconds` or `until cued`. */
export function parseHoldLength(text: string): Result<HoldLength> {
  const trimmed = text.trim();
  if (trimmed === 'until cued') return accepted({ kind: 'until cued' });
  const match = /^(.+?)\s*(beats?|seconds?|s)$/.exec(trimmed);
  const amount = match && parseFraction(match[1] ?? '');
  if (!match || !amount?.ok)
    return refused(
      `"${trimmed.slice(0, 40)}" is no length of a hold: write 2 beats, 1.5 seconds or until cued`,
    );
  if (amount.value.n < 0 || amount.value.n > MAX_HOLD * amount.value.d) {
    return refused(`A hold lasts between 0 and ${MAX_HOLD} beats or seconds`);
  }
  return accepted(
    match[2]?.startsWith('beat')
      ? { kind: 'beats', beats: amount.value }
      : { kind: 'seconds', seconds: amount.value },
  );
}

export function formatHoldLength(length: HoldLength): string {
  switch (length.kind) {
    case 'beats':
      return `${exact(length.beats)} ${length.beats.n === 1 && length.beats.d === 1 ? 'beat' : 'beats'}`;
    case 'seconds':
      return `${exact(length.seconds)} ${length.seconds.n === 1 && length.seconds.d === 1 ? 'second' : 'seconds'}`;
    case 'until cued':
      return 'until cued';
  }
}

function exact(value: { readonly n: number; readonly d: number }): string {
  const shown = formatNumber(value);
  return shown.startsWith('≈') ? formatFraction(fraction(value.n, value.d)) : shown;
}

/** Reads the passes of an ending: `1`, `1, 2`, `1-3, 5`. */
export function parseEnding(text: string): Result<readonly number[]> {
  const passes = new Set<number>();
  for (const part of text.split(',')) {
    const match = /^\s*(\d{1,2})(?:\s*-\s*(\d{1,2}))?\s*$/.exec(part);
    const first = Number(match?.[1] ?? 0);
    const last = Number(match?.[2] ?? first);
    if (first < 1 || last < first || last > MAX_REPEAT_TIMES) {
      return refused(`"${text.slice(0, 40)}" is not a list of passes: write 1, or 1, 2, or 1-3`);
    }
    for (let pass = first; pass <= last; pass++) passes.add(pass);
  }
  return accepted([...passes].sort((a, b) => a - b));
}

export function formatEnding(passes: readonly number[]): string {
  return passes.join(', ');
}

const JUMP = /^(D\.C\.|D\.S\.)(?: al (fine|coda))?$/;

/** Reads `D.C.`, `D.S.`, with `al fine` or `al coda`. */
export function parseJump(text: string): Result<Jump> {
  const match = JUMP.exec(text.trim());
  if (!match)
    return refused(`"${text.slice(0, 40)}" is not a jump: write D.C., D.S., D.C. al fine or D.S. al coda`);
  const al = match[2] as 'fine' | 'coda' | undefined;
  return accepted({ to: match[1] === 'D.C.' ? 'start' : 'segno', ...(al && { al }) });
}

export function formatJump({ to, al }: Jump): string {
  return `${to === 'start' ? 'D.C.' : 'D.S.'}${al ? ` al ${al}` : ''}`;
}
