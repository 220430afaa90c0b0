const MAJOR = ['C♭', 'G♭', 'D♭', 'A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯'];
const MINOR = ['A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯', 'G♯', 'D♯', 'A♯'];

/** "D minor" for a signature of so many sharps (flats below zero); null for one without a usual name. */
export function keyNameMaybe(fifths: number, isMinor: boolean): string | null {
  const tonic = (isMinor ? MINOR : MAJOR)[fifths + 7];
  return tonic === undefined ? null : `${tonic} ${isMinor ? 'minor' : 'major'}`;
}

const SHARPS = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];

/** Sharps (flats below zero) of a key as it is printed, and its mode; null where it does not read. */
export function keySignatureMaybe(
  key: string,
): { readonly fifths: number; readonly isMinor: boolean } | null {
  const match = /^([A-Ga-g])\s*(#|♯|sharp|b|♭|flat)?\s*(major|minor)?$/i.exec(key.trim());
  if (!match) return null;
  const letter = SHARPS.indexOf((match[1] ?? '').toUpperCase()) - 1;
  const sign = match[2] ?? '';
  const bend = /^(#|♯|sharp)$/i.test(sign) ? 7 : sign ? -7 : 0;
  const isMinor = match[3]?.toLowerCase() === 'minor';
  const fifths = letter + bend - (isMinor ? 3 : 0);
  return Math.abs(fifths) > 7 ? null : { fifths, isMinor };
}
