/** Whether every word that is sought stands in a text, wherever; without any the text has them all. */
export function hasWords(text: string, sought: string): boolean {
  const lower = text.toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => lower.includes(word));
}
