import {
  add,
  compare,
  equal,
  formatEnding,
  formatFraction,
  formatJump,
  formatMeter,
  formatNoteValue,
  formatRhythm,
  meterLength,
  toNumber,
  ZERO,
  fraction,
  type BarDocument,
  type Fraction,
  type Meter,
  type RhythmNote,
  type TempoMarkDocument,
} from '@anchorbeat/core';
import type { NoteTaker } from '../notes.ts';
import { pulsesInWords, timesInWords } from './barWords.ts';
import type { PartMeasure, ScoreHold } from './measure.ts';
import { lengthOf, lineOf, soundingCount } from './rhythmLine.ts';
import { mergedRoute, type RouteWords } from './scoreWords.ts';
import { TempoMarks } from './tempoMarks.ts';

/** How far the longest part of a bar reaches. */
export function longestEnd(column: readonly PartMeasure[]): Fraction {
  return column.reduce((longest, { end }) => (compare(end, longest) > 0 ? end : longest), ZERO);
}

interface PartOfBar {
  readonly field: 'pickup' | 'cutTo';
  readonly length: Fraction;
}

/** Makes the bars of a piece out of columns of part measures. */
export class BarBuilder {
  private endingNow: readonly number[] | null = null;
  private nextNumber = 1;
  private readonly times: ReadonlyMap<number, number | 'until cued'>;
  private readonly pulses: ReadonlyArray<string | null>;
  private readonly hasMarks: boolean;

  constructor(
    private readonly columns: ReadonlyArray<readonly PartMeasure[]>,
    private readonly names: readonly string[],
    private readonly meters: readonly Meter[],
    private readonly notes: NoteTaker,
  ) {
    this.times = timesInWords(columns, names, notes);
    this.pulses = pulsesInWords(columns, meters, names, notes);
    this.hasMarks = columns.some((column) => column.some((measure) => measure.rehearsalMark !== null));
  }

  build(): BarDocument[] {
    const partials = this.columns.map((column, index) => this.partial(column, index));
    const lengths = partials.map(
      (partial, index) => partial?.length ?? meterLength(this.meters[index] as Meter),
    );
    const tempi = new TempoMarks(this.columns, this.names, this.meters, this.notes).documents(lengths);
    const bars = this.columns.map((column, index) =>
      this.bar(column, index, partials[index] ?? null, tempi[index] ?? []),
    );
    return withRouteSortedOut(bars, this.notes, this.names);
  }

  private bar(
    column: readonly PartMeasure[],
    index: number,
    partial: PartOfBar | null,
    tempo: readonly TempoMarkDocument[],
  ): BarDocument {
    const meter = this.meters[index] as Meter;
    const name = this.names[index] ?? '';
    for (const { guessed, unread } of column) {
      for (const says of guessed) this.notes.guessed(says, name);
      for (const says of unread) this.notes.leftOut(says, name);
    }
    const length = partial?.length ?? meterLength(meter);
    const holds = this.holds(column, length, name);
    const rhythm = this.rhythm(column, length, name);
    const rehearsalMark = this.rehearsalMark(column, name);
    const pulse = this.pulses[index] ?? null;
    const isNew = index === 0 || formatMeter(meter) !== formatMeter(this.meters[index - 1] as Meter);
    return {
      ...(isNew && { meter: formatMeter(meter) }),
      ...this.label(column, partial !== null, index),
      ...(partial && { [partial.field]: formatFraction(partial.length) }),
      ...(rehearsalMark !== null && { rehearsalMark }),
      ...(tempo.length > 0 && { tempo }),
      ...(holds.length > 0 && { holds }),
      ...this.signs(column, this.times.get(index)),
      ...(pulse !== null && { pulse }),
      ...(rhythm !== null && { rhythm }),
    };
  }

  /** A letter in a frame is a rehearsal mark in a score that writes none as such. */
  private rehearsalMark(column: readonly PartMeasure[], name: string): string | null {
    const written = column.find((measure) => measure.rehearsalMark !== null)?.rehearsalMark;
    if (written != null || this.hasMarks) return written ?? null;
    const framed = column.find((measure) => measure.framed !== null)?.framed ?? null;
    if (framed !== null) this.notes.guessed(`${framed} in a frame was taken for a rehearsal mark`, name);
    return framed;
  }

  /** The printed number, where it is not the one that a piece would count on to by itself. */
  private label(
    column: readonly PartMeasure[],
    isPartial: boolean,
    index: number,
  ): Pick<BarDocument, 'label'> {
    const number = column.find((measure) => measure.number !== '')?.number ?? '';
    const isUnnumbered = column.some(({ isImplicit }) => isImplicit) || number === '' || /^x/i.test(number);
    const isPickup = index === 0 && isPartial;
    const label = isUnnumbered || (isPickup && number === '0') ? null : number.slice(0, 200);
    const implied = isPickup ? null : String(this.nextNumber);
    const leading = label === null ? null : /^\d+/.exec(label);
    if (leading) this.nextNumber = Number(leading[0]) + 1;
    return label === implied ? {} : { label };
  }

  /** A bar shorter than its meter: the pickup at the start, or one half of a bar that a repeat cuts in two. */
  private partial(column: readonly PartMeasure[], index: number): PartOfBar | null {
    const full = meterLength(this.meters[index] as Meter);
    const length = longestEnd(column);
    // What is less than a 64th short was rounded.
    if (length.n === 0 || compare(add(length, fraction(1, 64)), full) > 0) return null;
    if (index === 0) return { field: 'pickup', length };
    const before = longestEnd(this.columns[index - 1] ?? []);
    const completes = before.n > 0 && compare(add(before, length), full) === 0;
    if (column.some(({ isImplicit }) => isImplicit)) return { field: completes ? 'pickup' : 'cutTo', length };
    const next = this.columns[index + 1] ?? [];
    const after = longestEnd(next);
    const isCut = after.n > 0 && compare(add(after, length), full) === 0;
    if (isCut && (next.some(({ isImplicit }) => isImplicit) || endsHere(column)))
      return { field: 'cutTo', length };
    const isLast = index === this.columns.length - 1;
    const first = longestEnd(this.columns[0] ?? []);
    if (isLast && compare(add(first, length), full) === 0) return { field: 'cutTo', length };
    if (completes && endsHere(this.columns[index - 1] ?? [])) return { field: 'pickup', length };
    return null;
  }

  /** Fermatas of all parts, one for notes that begin or end together; breaths only where most of those who play have them. */
  private holds(
    column: readonly PartMeasure[],
    length: Fraction,
    name: string,
  ): NonNullable<BarDocument['holds']> {
    const playing = Math.max(1, column.filter(({ isSounding }) => isSounding).length);
    const places: Array<{ hold: ScoreHold; count: number }> = [];
    for (const hold of column.flatMap((measure) => measure.holds)) {
      const known = places.find((place) => areOneHold(place.hold, hold));
      if (!known) places.push({ hold, count: 1 });
      else {
        known.count++;
        // The shortest of the notes that end together is the one all are still sounding with.
        if (compare(hold.at, known.hold.at) > 0) known.hold = hold;
      }
    }
    return places
      .filter(({ hold }) => compare(hold.at, length) < 0)
      .sort((a, b) => toNumber(a.hold.at) - toNumber(b.hold.at))
      .flatMap(({ hold, count }) => {
        if (hold.kind === 'breath' && count * 2 <= playing) {
          this.notes.leftOut('breath marks of single parts', name);
          return [];
        }
        const isHold = hold.kind === 'hold';
        this.notes.guessed(
          isHold
            ? 'how long a fermata lasts is not written; one beat was taken'
            : 'a break of half a beat was taken for a breath',
          name,
        );
        return [
          {
            ...(hold.at.n !== 0 && { at: formatFraction(hold.at) }),
            ...(!isHold && { kind: 'breath' as const }),
            length: isHold ? '1 beat' : '1/2 beats',
            ...(hold.value && { value: formatNoteValue(hold.value) }),
          },
        ];
      });
  }

  /** The fullest line that fills the bar, for the check of its notes; else the first one, so that the check can tell. */
  private rhythm(column: readonly PartMeasure[], length: Fraction, name: string): string | null {
    const lines = column.flatMap((measure) =>
      [...measure.voices.values()].map((voice) => lineOf(voice, length)),
    );
    const readable = lines.filter((line) => line !== null);
    const filling = readable.filter((line) => equal(lengthOf(line), length));
    const fullest = filling.reduce<readonly RhythmNote[] | null>(
      (best, line) => (best && soundingCount(best) >= soundingCount(line) ? best : line),
      null,
    );
    const taken = fullest ?? readable[0] ?? null;
    if (!taken || taken.length === 0 || taken.length > 256) return null;
    if (!fullest) this.notes.finding('the notes of this bar do not fill it', name);
    return formatRhythm(taken);
  }

  private signs(
    column: readonly PartMeasure[],
    timesSaid: number | 'until cued' | undefined,
  ): Partial<BarDocument> {
    const starts = column.find(({ endings }) => endings.some(({ type }) => type === 'start'));
    const started = starts?.endings.find(({ type }) => type === 'start');
    if (started && started.passes.length > 0) this.endingNow = started.passes;
    const ending = this.endingNow;
    if (column.some(({ endings }) => endings.some(({ type }) => type !== 'start'))) this.endingNow = null;
    const ends = column.find(({ endsRepeat }) => endsRepeat !== null)?.endsRepeat;
    const { jump, ...flags } = column.map(({ route }) => route).reduce(mergedRoute, {} as RouteWords);
    return {
      ...(column.some(({ startsRepeat }) => startsRepeat) && { startsRepeat: true as const }),
      ...(ends != null && { endsRepeat: timesSaid ?? (ends || 2) }),
      ...(ending && { ending: formatEnding(ending) }),
      ...flags,
      ...(jump && { jump: formatJump(jump) }),
    };
  }
}

/** Whether two signs stop all at one moment: on notes that begin together or end together, a whole rest among them. */
function areOneHold(a: ScoreHold, b: ScoreHold): boolean {
  return (a.kind === 'hold') === (b.kind === 'hold') && (equal(a.at, b.at) || equal(a.end, b.end));
}

function endsHere(column: readonly PartMeasure[]): boolean {
  return column.some(
    ({ endsRepeat, endings }) => endsRepeat !== null || endings.some(({ type }) => type !== 'start'),
  );
}

/**
 * The sign beside "to coda" is not where the coda begins, if that stands elsewhere. Where two coda signs stand and nothing says
 * "to coda", one leaves at the first.
 */
function withRouteSortedOut(read: BarDocument[], notes: NoteTaker, names: readonly string[]): BarDocument[] {
  const hasOwnCoda = read.some(({ coda, toCoda }) => coda && !toCoda);
  const bars = read.map((bar) => (bar.toCoda && bar.coda && hasOwnCoda ? withoutCoda(bar) : bar));
  const codas = bars.flatMap((bar, index) => (bar.coda ? [index] : []));
  const [first] = codas;
  if (codas.length < 2 || first === undefined || bars.some(({ toCoda }) => toCoda)) return bars;
  notes.guessed('of two coda signs the first was taken for "to coda"', names[first]);
  return bars.map((bar, index) => (index === first ? { ...withoutCoda(bar), toCoda: true as const } : bar));
}

function withoutCoda({ coda: _coda, ...bar }: BarDocument): BarDocument {
  return bar;
}
