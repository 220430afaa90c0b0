import { accepted, refused, type Result } from '../problem/problem.ts';
import { formatNoteValue, noteLettersMaybe, parseNoteValue } from '../value/text.ts';
import type { Rhythm, RhythmNote } from './rhythm.ts';

const MAX_NOTES = 256;

/**
 * Reads a bar's rhythm, note by note: `q e. s rq h~` — letters as for note values, `r` before a rest,
 * `~` after a note tied into the next, `[7:5 s]` for what letters cannot say.
 */
export function parseRhythm(text: string): Result<Rhythm> {
  const tokens = text.trim().match(/r?\[[^\]]*\]~?|\S+/g) ?? [];
  if (tokens.length === 0) return refused('Write the notes of the bar, such as q e e rq h');
  if (tokens.length > MAX_NOTES) return refused(`More than ${MAX_NOTES} notes in one bar: split it`);
  const notes: RhythmNote[] = [];
  for (const [index, token] of tokens.entries()) {
    const note = parseToken(token);
    if (!note)
      return refused(
        `Note ${index + 1}, "${token.slice(0, 20)}", is not a note: write q, e., s3, rq for a rest, q~ for a tie`,
      );
    notes.push(note);
  }
  return accepted(notes);
}

function parseToken(token: string): RhythmNote | null {
  const match = /^(r?)(?:\[([^\]]*)\]|([a-z]\d?\.*))(~?)$/.exec(token);
  if (!match) return null;
  const value = parseNoteValue(match[2] ?? match[3] ?? '');
  const isRest = match[1] === 'r';
  const isTied = match[4] === '~';
  if (!value.ok || (isRest && isTied)) return null;
  return { value: value.value, ...(isRest && { isRest }), ...(isTied && { isTied }) };
}

/** The text `parseRhythm` reads back to the same rhythm. */
export function formatRhythm(rhythm: Rhythm): string {
  return rhythm
    .map((note) => `${note.isRest ? 'r' : ''}${shortName(note)}${note.isTied ? '~' : ''}`)
    .join(' ');
}

function shortName({ value }: RhythmNote): string {
  return noteLettersMaybe(value) ?? `[${formatNoteValue(value)}]`;
}
