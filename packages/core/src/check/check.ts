import type { CompiledTimes } from '../compile/compiledTimes.ts';
import type { Edit } from '../edit/edit.ts';
import type { Bar, Piece } from '../piece/piece.ts';
import type { Seam } from '../seam/seam.ts';

/** error: cannot be played as written. question: probably a misprint. hint: worth knowing in rehearsal. */
type Severity = 'error' | 'question' | 'hint';

/** A correction on offer: what it would do, and the edit that does it. */
interface Correction {
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

/** What a check says of a place, without the name of the check. */
export type Found = Omit<Finding, 'check' | 'severity'>;

interface CheckHead {
  readonly id: string;
  readonly severity: Severity;
  readonly name: string;
  /** Why it matters, told to a musician. */
  readonly explains: string;
}

/** Looks at one bar with its neighbours and what is in force there: after a change elsewhere it need not look again. */
export interface BarCheck extends CheckHead {
  readonly looksAt: 'bar';
  readonly at: (context: CheckContext, bar: Bar, barIndex: number) => Omit<Found, 'barIndex'> | null;
}

/** Looks at one seam, each written bar's first: what a local change has not touched need not be looked at again. */
export interface SeamCheck extends CheckHead {
  readonly looksAt: 'seam';
  readonly at: (context: CheckContext, seam: Seam, barIndex: number) => Omit<Found, 'barIndex'> | null;
}

/** Looks at tempo marks, labels and the signs of the route ("marks"), or at anything ("piece"). */
interface PieceCheck extends CheckHead {
  readonly looksAt: 'marks' | 'piece';
  readonly find: (context: CheckContext) => readonly Found[];
}

export type Check = BarCheck | SeamCheck | PieceCheck;

/** Looks at every bar from one up to another. */
export function eachBar(
  context: CheckContext,
  at: BarCheck['at'],
  from = 0,
  to = context.piece.bars.length,
): readonly Found[] {
  const found: Found[] = [];
  for (let barIndex = from; barIndex < to; barIndex++) {
    const finding = at(context, context.piece.bars[barIndex] as Bar, barIndex);
    if (finding) found.push({ barIndex, ...finding });
  }
  return found;
}

/** Looks at the seams into written bars, at the first of each. */
export function eachSeam(
  context: CheckContext,
  at: SeamCheck['at'],
  isLookedAt: (barIndex: number) => boolean,
): readonly Found[] {
  const { seams, timeline } = context;
  const told = new Set<number>();
  const found: Found[] = [];
  for (const seam of seams) {
    const barIndex = timeline.route.barIndex[seam.performed] ?? 0;
    if (!isLookedAt(barIndex) || told.has(barIndex)) continue;
    const finding = at(context, seam, barIndex);
    if (!finding) continue;
    told.add(barIndex);
    found.push({ barIndex, ...finding });
  }
  return found;
}
