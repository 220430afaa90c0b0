/** A stretch of a text with where it stands: character offsets, the end exclusive. */
export interface TextPart {
  readonly text: string;
  readonly from: number;
  readonly to: number;
}

/** The lines of a text without the space around them; empty ones are left out. */
export function splitLines(text: string): readonly TextPart[] {
  let from = 0;
  return text.split('\n').flatMap((line) => {
    const part = trimmed({ text: line, from, to: from + line.length });
    from += line.length + 1;
    return part.text === '' ? [] : [part];
  });
}

/** Parts between commas. A comma in a number (66,5), in a list of passes (ending 1, 2), in quotes or in brackets does not divide. */
export function splitClauses(part: TextPart): readonly TextPart[] {
  const clauses: TextPart[] = [];
  let start = 0;
  let isQuoted = false;
  let depth = 0;
  const divides = (index: number) => {
    if (isQuoted || depth > 0) return false;
    const isInList = /^\s*ending\b/i.test(part.text.slice(start, index));
    return !(isInList ? /^\s*\d/ : /^\d/).test(part.text.slice(index + 1));
  };
  for (let index = 0; index <= part.text.length; index++) {
    const sign = part.text[index];
    if (sign === '"') isQuoted = !isQuoted;
    else if (sign === '[') depth++;
    else if (sign === ']') depth--;
    if (index < part.text.length && !(sign === ',' && divides(index))) continue;
    const text = part.text.slice(start, index);
    clauses.push(trimmed({ text, from: part.from + start, to: part.from + index }));
    start = index + 1;
  }
  return clauses;
}

/** What is left of a part after its first `length` characters. */
export function afterFirst({ text, from, to }: TextPart, length: number): TextPart {
  return trimmed({ text: text.slice(length), from: from + length, to });
}

/** Where some words stand in a part; the whole of it where they do not. */
export function wordsIn(part: TextPart, words: string): TextPart {
  const at = words === '' ? -1 : part.text.lastIndexOf(words);
  if (at < 0) return part;
  return { text: words, from: part.from + at, to: part.from + at + words.length };
}

function trimmed({ text, from }: TextPart): TextPart {
  const lead = text.length - text.trimStart().length;
  const words = text.trim();
  return { text: words, from: from + lead, to: from + lead + words.length };
}

const NUMBER_WORDS =
  'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen'.split(
    ' ',
  );

/** A whole number from 1, in figures or in words up to sixteen; null for anything else. */
export function wholeNumberMaybe(text: string): number | null {
  const named = NUMBER_WORDS.indexOf(text.toLowerCase()) + 1;
  const number = named > 0 ? named : Number(/^\d{1,5}$/.exec(text)?.[0] ?? NaN);
  return Number.isInteger(number) && number > 0 ? number : null;
}
