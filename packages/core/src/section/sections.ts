import type { PerformedSpan } from '../run/settings.ts';
import { barsUntilMaybe } from '../run/spans.ts';
import { isSameMeter } from '../meter/text.ts';
import type { Bar, Piece, SectionMark } from '../piece/piece.ts';
import type { Proof } from '../proof/proof.ts';

/** A run of written bars in which a section plays or rests: `from` up to `to` (exclusive). */
export interface SectionSpan {
  readonly section: string;
  readonly does: 'plays' | 'rests';
  readonly from: number;
  readonly to: number;
}

/** The sections of a piece: those it lists, then any that only its marks name. */
export function sectionsOf(piece: Piece): readonly string[] {
  const names = new Set(piece.sections ?? []);
  for (const bar of piece.bars) for (const mark of bar.sectionMarks ?? []) names.add(mark.section);
  return [...names];
}

/**
 * When each section plays and rests, in written order. A section plays from the start unless the first that is said of
 * it is that it enters; it then rests until there.
 */
export function sectionSpans(piece: Piece): readonly SectionSpan[] {
  return sectionsOf(piece).flatMap((section) => spansOf(piece, section));
}

/** The sections that rest in a written bar, in the order of the score. */
export function restingAt(piece: Piece, barIndex: number): readonly string[] {
  return sectionSpans(piece)
    .filter(({ does, from, to }) => does === 'rests' && barIndex >= from && barIndex < to)
    .map(({ section }) => section);
}

function spansOf({ bars }: Piece, section: string): SectionSpan[] {
  const turns = bars.flatMap((bar, index) => {
    const mark = markOf(bar, section);
    return mark && mark.does !== 'cue' ? [{ index, does: playing(mark) }] : [];
  });
  const first = turns[0];
  const opening = first?.does === 'plays' ? 'rests' : 'plays';
  const spans: SectionSpan[] = [];
  let open: SectionSpan = { section, does: opening, from: 0, to: bars.length };
  for (const { index, does } of turns) {
    if (does === open.does && index > 0) continue;
    if (index > open.from) spans.push({ ...open, to: index });
    open = { section, does, from: index, to: bars.length };
  }
  return [...spans, open];
}

function playing({ does }: SectionMark): SectionSpan['does'] {
  return does === 'rests' ? 'rests' : 'plays';
}

function markOf({ sectionMarks }: Bar, section: string): SectionMark | undefined {
  return sectionMarks?.find((mark) => mark.section === section);
}

/** Who comes in, or is cued, at a performed bar. */
export interface NextEntry {
  readonly performed: number;
  /** In how many bars that are played: 1 is the next. */
  readonly inBars: number;
  readonly marks: readonly SectionMark[];
}

/** The next bar after a performed one at which somebody enters or is cued, among those played; null where nobody does. */
export function nextEntryMaybe(
  { piece, compiled }: Proof,
  performed: number,
  leftOut: readonly PerformedSpan[] = [],
): NextEntry | null {
  const { route } = compiled.timeline;
  for (let bar = performed + 1; bar < route.barIndex.length; bar++) {
    const marks = entriesAt(piece, route.barIndex[bar] ?? -1);
    const inBars = marks.length > 0 ? barsUntilMaybe(leftOut, performed, bar) : null;
    if (inBars !== null) return { performed: bar, inBars, marks };
  }
  return null;
}

/** The marks of a written bar by which somebody comes in. */
export function entriesAt({ bars }: Piece, barIndex: number): readonly SectionMark[] {
  return bars[barIndex]?.sectionMarks?.filter((mark) => mark.does !== 'rests') ?? [];
}

/** "Bells and Reeds enter", "Drums: after the bell". */
export function entryWords(marks: readonly SectionMark[]): string {
  const entering = marks.filter((mark) => mark.does === 'enters' && !mark.says).map(({ section }) => section);
  const others = marks.filter((mark) => mark.does === 'cue' || mark.says);
  const together = entering.length > 0 ? [`${listed(entering)} ${comesIn(entering)}`] : [];
  return [
    ...together,
    ...others.map(
      ({ section, does, says }) =>
        `${section}${does === 'cue' ? '' : ` ${comesIn([section])}`}: ${says ?? 'cue'}`,
    ),
  ].join('; ');
}

/** "Drums enter", "Contrabass enters": most sections are named in the plural. */
function comesIn(sections: readonly string[]): string {
  return sections.length > 1 || /[^s]s$/i.test(sections[0] ?? '') ? 'enter' : 'enters';
}

export function listed(names: readonly string[]): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;
}

/** Whether everybody rests in a bar, as its notes say. */
export function isRestBar({ rhythm }: Bar): boolean {
  return rhythm?.[0]?.isRest === true && rhythm.every((note) => note.isRest);
}

/** Bars `from` to `from + count` in which everybody rests, counted as one long rest. */
export interface RestRun {
  readonly from: number;
  readonly count: number;
}

/**
 * Where two or more bars' rest is counted as one, as parts print it: a rehearsal mark, another meter, a tempo mark or a sign
 * of the route begins a new one.
 */
export function restRuns(piece: Piece): readonly RestRun[] {
  return runsWhere(piece, (index) => isRestBar(piece.bars[index] as Bar)).filter(({ count }) => count > 1);
}

/** The rests of one section as its part prints them, also of a single bar: a mark, a meter or a tempo begins a new one. */
export function sectionRestRuns(piece: Piece, section: string): readonly RestRun[] {
  const rests = piece.bars.map((bar) => isRestBar(bar));
  for (const span of spansOf(piece, section)) if (span.does === 'rests') rests.fill(true, span.from, span.to);
  return runsWhere(piece, (index) => rests[index] === true);
}

function runsWhere({ bars }: Piece, rests: (index: number) => boolean): readonly RestRun[] {
  const runs: RestRun[] = [];
  for (let from = 0; from < bars.length; from++) {
    if (!rests(from)) continue;
    let end = from + 1;
    while (end < bars.length && rests(end) && goesOn(bars[end - 1] as Bar, bars[end] as Bar)) end++;
    runs.push({ from, count: end - from });
    from = end - 1;
  }
  return runs;
}

function goesOn(before: Bar, bar: Bar): boolean {
  const begins =
    bar.rehearsalMark ?? bar.startsRepeat ?? bar.ending ?? bar.navigation?.segno ?? bar.navigation?.coda;
  const ended =
    before.endsRepeat ?? before.navigation?.toCoda ?? before.navigation?.fine ?? before.navigation?.jump;
  return (
    bar.tempoMarks.length === 0 &&
    isSameMeter(before.meter, bar.meter) &&
    begins === undefined &&
    ended === undefined
  );
}

const runsByBars = new WeakMap<Piece['bars'], ReadonlyMap<number, RestRun>>();

/** The long rest that a bar belongs to, or null. */
export function restRunMaybe(piece: Piece, barIndex: number): RestRun | null {
  let runs = runsByBars.get(piece.bars);
  if (!runs) {
    runs = new Map(
      restRuns(piece).flatMap((run) =>
        Array.from({ length: run.count }, (_, index) => [run.from + index, run] as const),
      ),
    );
    runsByBars.set(piece.bars, runs);
  }
  return runs.get(barIndex) ?? null;
}

/** Whether a section plays in the written bar or in the one before it: a seam between them is one of its own. */
export function playsAround(piece: Piece, section: string, barIndex: number): boolean {
  return [barIndex - 1, barIndex].some((bar) => bar >= 0 && !restingAt(piece, bar).includes(section));
}
