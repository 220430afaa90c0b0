import { compare, subtract } from '../fraction/fraction.ts';
import { lengthWords } from '../value/text.ts';
import { barSteps } from './alignBars.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { barLength, type Bar, type Piece } from '../piece/piece.ts';
import { BAR_FIELD_NAMES, BAR_FIELDS, writeBar } from '../document/barFields.ts';
import type { BarDocument } from '../document/document.ts';
import { howMany } from '../words/howMany.ts';

/** One place at which two pieces differ, in a musician's words. */
export interface Difference {
  /** Printed name of the place, such as "bar 12" or "title". */
  readonly place: string;
  readonly says: string;
  /** What stood there and what stands there now; empty where there was or is nothing. */
  readonly was: string;
  readonly is: string;
  /** Index in the piece after, at which the place is seen; null for the head of the piece. */
  readonly barIndex: number | null;
}

/**
 * What changed from `before` to `after`. Bars are matched with as few changes as can be; neighbours that changed alike
 * are told together.
 */
export function differencesBetween(before: Piece, after: Piece): readonly Difference[] {
  return [...headDifferences(before, after), ...barDifferences(before, after)];
}

const HEAD_FIELDS = ['title', 'subtitle', 'composer', 'key', 'style'] as const;

function headDifferences(before: Piece, after: Piece): Difference[] {
  const named = HEAD_FIELDS.map((field) => [field, before[field] ?? '', after[field] ?? ''] as const);
  const lists = [
    ['sections', (before.sections ?? []).join(', '), (after.sections ?? []).join(', ')] as const,
    ['corrections', counted(before.corrections?.length), counted(after.corrections?.length)] as const,
    ['repeats after a jump', taken(before), taken(after)] as const,
  ];
  return [...named, ...lists]
    .filter(([, was, is]) => was !== is)
    .map(([place, was, is]) => ({
      place,
      was,
      is,
      barIndex: null,
      says: `${place} is ${nowWords(was, is)}`,
    }));
}

function counted(count = 0): string {
  return count === 0 ? '' : `${count} in the log`;
}

function taken({ takesRepeatsAfterJump }: Piece): string {
  return takesRepeatsAfterJump ? 'taken' : 'not taken';
}

function nowWords(was: string, is: string): string {
  if (is === '') return `taken out, was ${was}`;
  return was === '' ? `now ${is}` : `now ${is}, was ${was}`;
}

/** A place before it is put into a sentence, so that neighbours that changed alike can be told as one. */
interface Change {
  readonly kind: 'changed' | 'removed' | 'added';
  readonly barIndex: number;
  /** Name of the bar where it stood or stands. */
  readonly name: string;
  readonly was: string;
  readonly is: string;
  /** ": one sixteenth shorter" where the length changed, else empty. */
  readonly by: string;
  readonly isMeterOnly: boolean;
  /** Each thing that changed, for itself: "3/4, was 4/4: one quarter shorter", "rehearsal mark A added". */
  readonly phrases: readonly string[];
}

function barDifferences(before: Piece, after: Piece): Difference[] {
  const [was, is] = [comparable(before), comparable(after)];
  const labels = { before: barLabels(before), after: barLabels(after) };
  const changes: Change[] = [];
  let reached = 0;
  for (const step of barSteps(was.texts, is.texts)) {
    if (step.kind === 'kept') reached = step.after + 1;
    else if (step.kind === 'removed') {
      const name = barName(labels.before, step.before);
      changes.push({
        kind: 'removed',
        barIndex: reached,
        name,
        was: was.meters[step.before] ?? '',
        is: '',
        by: '',
        isMeterOnly: false,
        phrases: [],
      });
    } else {
      reached = step.after + 1;
      const name = barName(labels.after, step.after);
      const at = { barIndex: step.after, name };
      if (step.kind === 'added')
        changes.push({
          ...at,
          kind: 'added',
          was: '',
          is: is.meters[step.after] ?? '',
          by: '',
          isMeterOnly: false,
          phrases: [],
        });
      else
        changes.push({
          ...at,
          kind: 'changed',
          ...aspectsOf(before, after, step.before, step.after, was, is),
        });
    }
  }
  return runsOf(changes).map(tellRun);
}

/** Neighbours of one kind that changed in the same way. */
function runsOf(changes: readonly Change[]): readonly Change[][] {
  const runs: Change[][] = [];
  for (const change of changes) {
    const run = runs.at(-1);
    const last = run?.at(-1);
    const isNext =
      last?.kind === 'removed'
        ? change.barIndex === last.barIndex
        : change.barIndex === (last?.barIndex ?? NaN) + 1;
    const isAlike = change.kind !== 'changed' || (last?.was === change.was && last.is === change.is);
    if (run && last?.kind === change.kind && isNext && isAlike) run.push(change);
    else runs.push([change]);
  }
  return runs;
}

function tellRun(run: readonly Change[]): Difference {
  const [first, last] = [run[0] as Change, run.at(-1) as Change];
  const place =
    run.length === 1
      ? first.name
      : `${first.name.replace(/^bar /, 'bars ')} to ${last.name.replace(/^bar /, '')}`;
  const { was, is, barIndex } = first;
  const bars = howMany(run.length, 'bar');
  switch (first.kind) {
    case 'added':
      return {
        place,
        was: '',
        is: `${bars} of ${spread(run, 'is')}`,
        barIndex,
        says: `${bars} added at ${first.name}`,
      };
    case 'removed':
      return {
        place,
        was: `${bars} of ${spread(run, 'was')}`,
        is: '',
        barIndex,
        says: `${bars} deleted from ${first.name} on`,
      };
    case 'changed': {
      const verb = run.length === 1 ? 'is' : 'are';
      const says = first.isMeterOnly
        ? `${place} ${verb} ${nowWords(was, is)}${first.by}`
        : `${place}: ${first.phrases.join('; ')}`;
      return { place, was, is, barIndex, says };
    }
  }
}

/** The meters of a run, each once. */
function spread(run: readonly Change[], side: 'was' | 'is'): string {
  return [...new Set(run.map((change) => change[side]))].join(', ');
}

interface Comparable {
  readonly documents: readonly BarDocument[];
  readonly meters: readonly string[];
  readonly texts: readonly string[];
}

function comparable(piece: Piece): Comparable {
  const documents = piece.bars.map(writeBar);
  const meters = documents.map(({ meter = '' }) => meter);
  return { documents, meters, texts: documents.map((bar) => JSON.stringify(bar)) };
}

/** What of a bar changed, as it was and as it is: "rehearsal mark A; note watch me". */
function aspectsOf(
  before: Piece,
  after: Piece,
  beforeIndex: number,
  afterIndex: number,
  wasAll: Comparable,
  isAll: Comparable,
): Pick<Change, 'was' | 'is' | 'by' | 'isMeterOnly' | 'phrases'> {
  const [was, is] = [wasAll.documents[beforeIndex] ?? {}, isAll.documents[afterIndex] ?? {}];
  const changed = ASPECTS.filter((show) => show(was) !== show(is));
  const told = (bar: BarDocument) =>
    changed
      .map((show) => show(bar))
      .filter(Boolean)
      .join('; ');
  const [hasMeter, isMeterOnly] = [changed.includes(METER), changed.length === 1 && changed[0] === METER];
  const by = hasMeter ? byWords(before.bars[beforeIndex] as Bar, after.bars[afterIndex] as Bar) : '';
  const phrases = changed.map((show) => phraseOf(show(was), show(is)) + (show === METER ? by : ''));
  return { was: told(was), is: told(is), by, isMeterOnly, phrases };
}

function phraseOf(was: string, is: string): string {
  if (is === '') return `${was} taken out`;
  return was === '' ? `${is} added` : `${is}, was ${was}`;
}

function byWords(before: Bar, after: Bar): string {
  const longer = subtract(barLength(after), barLength(before));
  if (longer.n === 0) return '';
  const size = { n: Math.abs(longer.n), d: longer.d };
  return `: ${lengthWords(size)} ${compare(longer, { n: 0, d: 1 }) < 0 ? 'shorter' : 'longer'}`;
}

type Aspect = (bar: BarDocument) => string;

const METER: Aspect = BAR_FIELDS.meter.words;

/** What can change in a bar, each in words, empty where the bar has none of it: its fields, those that belong together as one. */
const ASPECTS: readonly Aspect[] = aspects();

function aspects(): readonly Aspect[] {
  const headings = new Map<string, Aspect[]>();
  for (const name of BAR_FIELD_NAMES) {
    const { words, toldWith = name } = BAR_FIELDS[name];
    headings.set(toldWith, [...(headings.get(toldWith) ?? []), words]);
  }
  return [...headings.values()].map((parts) =>
    parts.length === 1
      ? (parts[0] as Aspect)
      : (bar) =>
          parts
            .map((words) => words(bar))
            .filter(Boolean)
            .join(', '),
  );
}
