/** Letters and figures that nobody takes for another, read aloud or on a board across the hall. */
export const CODE_LETTERS = 'ACDEFGHJKLMNPQRTUVWXY3479';
export const CODE_LENGTH = 6;

/** A code as it was typed, in the form it is kept in: small letters, blanks and dashes do not matter. */
export function typedCode(text: string): string {
  return text.toUpperCase().replaceAll(/[\s-]/g, '');
}

export function isCode(text: string): boolean {
  return text.length === CODE_LENGTH && [...text].every((letter) => CODE_LETTERS.includes(letter));
}
