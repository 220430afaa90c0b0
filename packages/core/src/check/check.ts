import type { CompiledTimes } from '../compile/compiledTimes.ts';
import type { Edit } from '../edit/edit.ts';
import type { Bar, Piece } from '../piece/piece.ts';

/** error: cannot be played as written. question: probably a misprint. hint: worth knowing in rehearsal. */
export type Severity = 'error' | 'question' | 'hint';

/** A correction on offer: what it would do, and the edit that does it. */
export interface Correction {
  readonly label: string;
  readonly edit: Edit;
}

/** Something a check has found at a written bar, in words a musician understands. */
export interface Finding {
  readonly check: string;
  readonly severity: Severity;
  readonly barIndex: number;
  readonly says: string;
  readonly correction?: Correction;
}

/** What a check looks at. */
export interface CheckContext extends CompiledTimes {
  readonly piece: Piece;
  readonly labels: ReadonlyArray<string | null>;
  /** "bar 12", by written index. */
  readonly nameOf: (barIndex: number) => string;
}

/** One check. `explains` tells a musician why it matters. */
export interface Check {
  readonly id: string;
  readonly severity: Severity;
  readonly name: string;
  readonly explains: string;
  readonly find: (context: CheckContext) => ReadonlyArray<Omit<Finding, 'check' | 'severity'>>;
}

/** Finds bar by bar, for checks that need only the bar and its neighbours. */
export function eachBar(
  { piece }: CheckContext,
  find: (bar: Bar, barIndex: number) => Omit<Finding, 'check' | 'severity' | 'barIndex'> | null,
): ReadonlyArray<Omit<Finding, 'check' | 'severity'>> {
  const found: Array<Omit<Finding, 'check' | 'severity'>> = [];
  piece.bars.forEach((bar, barIndex) => {
    const finding = find(bar, barIndex);
    if (finding) found.push({ barIndex, ...finding });
  });
  return found;
}
