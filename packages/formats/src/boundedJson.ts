import { accepted, refused, type Result } from '@anchorbeat/core';

/** No piece, and no request about one, is nested deeper than this. */
const MOST_DEPTH = 64;

/** Parses JSON that comes from outside. How deep it is nested is looked at before anything is made of it. */
export function parseBoundedJson(text: string): Result<unknown> {
  if (isDeeperThan(text, MOST_DEPTH)) return refused(`it is nested deeper than ${MOST_DEPTH} levels`);
  try {
    return accepted(JSON.parse(text) as unknown);
  } catch (error) {
    return refused(`it does not read as JSON (${error instanceof Error ? error.message : 'unreadable'})`);
  }
}

const QUOTE = 0x22;
const BACKSLASH = 0x5c;

/** One pass over the text: brackets outside of strings. */
function isDeeperThan(text: string, most: number): boolean {
  let [depth, isInString] = [0, false];
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (isInString) {
      if (code === BACKSLASH) at++;
      else if (code === QUOTE) isInString = false;
    } else if (code === QUOTE) isInString = true;
    else if (code === 0x5b || code === 0x7b) {
      if (++depth > most) return true;
    } else if (code === 0x5d || code === 0x7d) depth--;
  }
  return false;
}
