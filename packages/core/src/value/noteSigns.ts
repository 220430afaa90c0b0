/**
 * Notes as they are drawn in a text, and the letter each is typed by: the signs of Unicode, whole or in parts (head, stem,
 * flag), and those that fonts for music have in common (SMuFL, "metronome marks" and "individual notes").
 */
const NOTE_SIGNS: ReadonlyArray<readonly [signs: RegExp, letter: string]> = [
  [/\u{1D161}|\u{1D158}\u{1D165}\u{1D16F}|[\uE1D9\uE1DA\uECA9\uECAA]/gu, 's'],
  [/♪|\u{1D160}|\u{1D158}\u{1D165}\u{1D16E}|[\uE1D7\uE1D8\uECA7\uECA8]/gu, 'e'],
  [/♩|\u{1D15F}|\u{1D158}\u{1D165}|[\uE1D5\uE1D6\uECA5\uECA6]/gu, 'q'],
  [/\u{1D15E}|\u{1D157}\u{1D165}|[\uE1D3\uE1D4\uECA3\uECA4]/gu, 'h'],
  [/\u{1D15D}|[\uE1D2\uECA2]/gu, 'w'],
];
const DOT_SIGNS = /\s*[\u{1D16D}\uE1E7\uECB7]/gu;
const HAS_SIGNS = /[♩♪\u{1D157}-\u{1D161}\uE1D2-\uE1E7\uECA2-\uECB7]/u;

/** "♩ = ♩." as "q = q.": every drawn note of a text by its letter, apart from what stands before it. */
export function withNoteLetters(text: string): string {
  if (!HAS_SIGNS.test(text)) return text;
  const lettered = NOTE_SIGNS.reduce((now, [signs, letter]) => now.replace(signs, ` ${letter}`), text);
  return lettered
    .replace(DOT_SIGNS, '.')
    .replace(/(\s[whqes])\s+(?=\.)/g, '$1')
    .replace(/\s+/g, ' ')
    .trim();
}
