/** A text as it begins a sentence: "bar 12" is "Bar 12". */
export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
