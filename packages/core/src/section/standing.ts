import type { Piece, SectionMark } from '../piece/piece.ts';
import { writtenIndex, type Proof } from '../proof/proof.ts';
import type { PerformedSpan } from '../run/settings.ts';
import { barsUntilMaybe } from '../run/spans.ts';
import { performedCount } from '../timeline/query.ts';
import { sectionSpans } from './sections.ts';

/** What one section does in a performed bar, and when it comes in next. */
export interface SectionStanding {
  /** Which bar of a rest it is, from 1, and how many there are, as performed; null where the section plays. */
  readonly rest: { readonly bar: number; readonly of: number } | null;
  /** The next bar at which it enters or is cued, of those that are played; null where it does not any more. */
  readonly next: {
    readonly performed: number;
    readonly inBars: number;
    readonly mark: SectionMark | null;
  } | null;
}

const restsByBars = new WeakMap<Piece['bars'], Map<string, readonly boolean[]>>();

/** For every written bar, whether a section rests in it. */
function restsOf(piece: Piece, section: string): readonly boolean[] {
  const bySection = restsByBars.get(piece.bars) ?? new Map<string, readonly boolean[]>();
  restsByBars.set(piece.bars, bySection);
  const known = bySection.get(section);
  if (known) return known;
  const spans = sectionSpans(piece).filter((span) => span.section === section && span.does === 'rests');
  const rests = piece.bars.map((_, index) => spans.some(({ from, to }) => index >= from && index < to));
  bySection.set(section, rests);
  return rests;
}

/** What a section does in a performed bar. One that the piece does not name plays all through. */
export function sectionStanding(
  proof: Proof,
  performed: number,
  section: string,
  leftOut: readonly PerformedSpan[] = [],
): SectionStanding {
  const rests = restsOf(proof.piece, section);
  const count = performedCount(proof.compiled.timeline);
  const restsAt = (bar: number) => bar >= 0 && bar < count && rests[writtenIndex(proof, bar)] === true;
  let from = performed;
  while (restsAt(from - 1)) from--;
  let to = performed;
  while (restsAt(to)) to++;
  const rest = restsAt(performed) ? { bar: performed - from + 1, of: to - from } : null;
  return { rest, next: nextOf(proof, { performed, section, leftOut }, restsAt) };
}

interface StandingPlace {
  readonly performed: number;
  readonly section: string;
  readonly leftOut: readonly PerformedSpan[];
}

function nextOf(
  proof: Proof,
  { performed, section, leftOut }: StandingPlace,
  restsAt: (bar: number) => boolean,
): SectionStanding['next'] {
  const count = performedCount(proof.compiled.timeline);
  for (let bar = performed + 1; bar < count; bar++) {
    const marks = proof.piece.bars[writtenIndex(proof, bar)]?.sectionMarks ?? [];
    const mark = marks.find((known) => known.section === section && known.does !== 'rests') ?? null;
    const entersAgain = restsAt(bar - 1) && !restsAt(bar);
    const inBars = mark || entersAgain ? barsUntilMaybe(leftOut, performed, bar) : null;
    if (inBars !== null) return { performed: bar, inBars, mark };
  }
  return null;
}
