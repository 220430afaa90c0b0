import { accepted, refused, type Result } from '../problem/problem.ts';
import type { PulseChoice } from '../piece/piece.ts';
import { formatRhythm, parseRhythm } from '../rhythm/text.ts';

const NUMBER_WORDS = [
  '',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];

/** Reads `in 2`, `in two`, or the beats as notes: `q q e.` */
export function parsePulseChoice(text: string): Result<PulseChoice> {
  const match = /^in\s+(\w+)$/.exec(text.trim());
  if (match) {
    const beats = NUMBER_WORDS.includes(match[1] ?? '?')
      ? NUMBER_WORDS.indexOf(match[1] ?? '')
      : Number(match[1]);
    if (Number.isInteger(beats) && beats >= 1 && beats <= 128) return accepted({ kind: 'in', beats });
  }
  const notes = match ? null : parseRhythm(text);
  if (notes?.ok && notes.value.every((note) => !note.isRest && !note.isTied)) {
    return accepted({ kind: 'values', values: notes.value.map((note) => note.value) });
  }
  return refused(`"${text.slice(0, 40)}" is not a pulse: write in 2, in 6, or its beats such as q q e.`);
}

export function formatPulseChoice(choice: PulseChoice): string {
  return choice.kind === 'in'
    ? `in ${choice.beats}`
    : formatRhythm(choice.values.map((value) => ({ value })));
}

/** "in two" */
export function inWords(beats: number): string {
  return `in ${NUMBER_WORDS[beats] ?? beats}`;
}
