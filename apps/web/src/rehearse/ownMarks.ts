import { Kept } from '../kept/kept.ts';

/** What one says of a run without typing, on F2, F3 and F4. */
export const USUAL_MARKS = ['late', 'rushed', 'balance'] as const;

/** Own ones come behind them; F5 loads a page anew and stays with the browser. */
export const OWN_MARK_KEYS = ['F6', 'F7', 'F8', 'F9'] as const;

const LONGEST_MARK = 24;

/** The director's own one-key marks, at most one for each key; what is empty or there already is left out. */
export function ownMarks(typed: readonly string[]): readonly string[] {
  const taken = new Set<string>(USUAL_MARKS);
  const marks: string[] = [];
  for (const one of typed) {
    const mark = one
      .replace(/[\s,]+/g, ' ')
      .trim()
      .slice(0, LONGEST_MARK)
      .trim();
    if (mark === '' || taken.has(mark.toLowerCase())) continue;
    taken.add(mark.toLowerCase());
    marks.push(mark);
  }
  return marks.slice(0, OWN_MARK_KEYS.length);
}

/** A note with a mark put to it, once. */
export function noteWith(note: string, mark: string): string {
  const said = note.split(', ').filter(Boolean);
  return said.includes(mark) ? note : [...said, mark].join(', ');
}

export const keptOwnMarks = new Kept<readonly string[]>('anchorbeat.ownMarks', (stored) =>
  Array.isArray(stored) ? ownMarks(stored.filter((one) => typeof one === 'string')) : [],
);
