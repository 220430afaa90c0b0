import type { Bar } from '../piece/piece.ts';
import { noteValue, noteValueOfLengthMaybe, type NoteValue } from '../value/noteValue.ts';
import { feltBeats } from './pulse.ts';

/** The note by which the tempo of a bar is given where none is said: its first beat, or a quarter where that is no single note. */
export function beatNote(bar: Bar): NoteValue {
  const beat = feltBeats(bar)[0];
  return (beat && noteValueOfLengthMaybe(beat.lengthWholes)) ?? noteValue('quarter');
}
