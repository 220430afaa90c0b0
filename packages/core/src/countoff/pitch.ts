import { accepted, refused, type Result } from '../problem/problem.ts';

const NAMES: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const KEY = /^([A-Ga-g])\s*(#|♯|b|♭|sharp|flat)?\s*(major|minor)?$/i;
const ACCIDENTALS: Readonly<Record<string, number>> = { '#': 1, '♯': 1, sharp: 1, b: -1, '♭': -1, flat: -1 };
/** Where the tones lie when no first note is given: around middle C's octave. */
const DEFAULT_NOTE = 65;

const PITCH = /^([A-Ga-g])([#♯b♭]?)(-?\d)$/;
const PITCH_NAMES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'];
const HIGHEST_PITCH = 127;

/** A pitch by name and octave as a MIDI note, C4 the middle C: "F4", "B♭3", "C#5". */
export function parsePitch(text: string): Result<number> {
  const [, letter = '', sign = '', octave = ''] = PITCH.exec(text.trim()) ?? [];
  const natural = NAMES[letter.toUpperCase()];
  const midi = (natural ?? NaN) + (ACCIDENTALS[sign] ?? 0) + 12 * (Number(octave) + 1);
  if (midi >= 0 && midi <= HIGHEST_PITCH) return accepted(midi);
  return refused(`"${text.trim().slice(0, 12)}" is no note: write F4, B♭3 or C#5`);
}

/** The name of a MIDI note, which `parsePitch` reads back. */
export function formatPitch(midi: number): string {
  return `${PITCH_NAMES[midi % 12] ?? ''}${Math.floor(midi / 12) - 1}`;
}

/** Tonic as a pitch class 0 to 11, and mode, of a key as printed: "D minor", "B♭ major", "F#"; null where it does not read. */
export function parseKeyMaybe(text: string): { readonly tonic: number; readonly isMinor: boolean } | null {
  const match = KEY.exec(text.trim());
  if (!match) return null;
  const name = NAMES[(match[1] ?? '').toUpperCase()] ?? 0;
  const accidental = ACCIDENTALS[match[2]?.toLowerCase() ?? ''] ?? 0;
  return { tonic: (name + accidental + 12) % 12, isMinor: match[3]?.toLowerCase() === 'minor' };
}

/** The three tones of the tonic chord as MIDI notes nearest to a first note, nearest first. Without a key, C major. */
export function chordTonesNear(
  key: string | null,
  firstNote: number | null,
): readonly [number, number, number] {
  const { tonic, isMinor } = parseKeyMaybe(key ?? '') ?? { tonic: 0, isMinor: false };
  const target = firstNote ?? DEFAULT_NOTE;
  const tones = [0, isMinor ? 3 : 4, 7].map((interval) => nearestOctave((tonic + interval) % 12, target));
  const sorted = tones.sort((a, b) => Math.abs(a - target) - Math.abs(b - target) || a - b);
  return [sorted[0] ?? target, sorted[1] ?? target, sorted[2] ?? target];
}

function nearestOctave(pitchClass: number, target: number): number {
  return pitchClass + 12 * Math.round((target - pitchClass) / 12);
}
