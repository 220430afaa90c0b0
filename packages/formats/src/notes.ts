import type { ReadingNote, ReadingNotes } from './format.ts';

const MOST_OF_A_KIND = 200;
const MOST_BARS_NAMED = 8;

/** Collects what is told about a reading; the same thing of the same bar is told once. */
export class NoteTaker {
  private readonly guessedNotes = new Map<string, ReadingNote>();
  private readonly leftOutNotes = new Map<string, ReadingNote>();
  private readonly findingNotes = new Map<string, ReadingNote>();

  guessed(says: string, bar?: string | null): void {
    keep(this.guessedNotes, says, bar);
  }

  leftOut(says: string, bar?: string | null): void {
    keep(this.leftOutNotes, says, bar);
  }

  finding(says: string, bar?: string | null): void {
    keep(this.findingNotes, says, bar);
  }

  notes(read: readonly string[]): ReadingNotes {
    return {
      read,
      guessed: [...this.guessedNotes.values()],
      leftOut: [...this.leftOutNotes.values()],
      findings: [...this.findingNotes.values()],
    };
  }
}

function keep(notes: Map<string, ReadingNote>, says: string, bar: string | null | undefined): void {
  if (notes.size >= MOST_OF_A_KIND) return;
  notes.set(`${bar ?? ''} ${says}`, { says, ...(bar != null && { bar }) });
}

/** What is said of many bars, once, with where: "bar 5", "bars 2, 5, 9"; more than eight are counted. Null for the whole file. */
export function bundledNotes(
  notes: readonly ReadingNote[],
): ReadonlyArray<{ readonly says: string; readonly where: string | null }> {
  const bySays = new Map<string, string[]>();
  for (const { says, bar } of notes)
    bySays.set(says, [...(bySays.get(says) ?? []), ...(bar === undefined ? [] : [bar])]);
  return [...bySays].map(([says, bars]) => ({ says, where: bars.length > 0 ? barsWords(bars) : null }));
}

function barsWords(bars: readonly string[]): string {
  const more = bars.length - MOST_BARS_NAMED;
  const named = bars.slice(0, MOST_BARS_NAMED).join(', ');
  return `${bars.length === 1 ? 'bar' : 'bars'} ${named}${more > 0 ? ` and ${more} more` : ''}`;
}
