import {
  compare,
  equal,
  formatEquivalence,
  formatFraction,
  formatStatedTempo,
  fraction,
  meterBeat,
  multiply,
  noteValue,
  noteValueLength,
  noteValueOfLengthMaybe,
  toNumber,
  ZERO,
  type Equivalence,
  type Fraction,
  type Meter,
  type TempoMarkDocument,
  type TempoProportion,
} from '@anchorbeat/core';
import type { NoteTaker } from '../notes.ts';
import { soundedTempo } from './direction.ts';
import type { PartMeasure } from './measure.ts';
import { saysOnlySound, withRampTargets, type PlacedMark } from './rampSteps.ts';
import type { ScoreMark } from './scoreWords.ts';

/** A printed tempo and what would be played may differ so much. */
const TEMPO_TOLERANCE = 0.005;

/** The tempo marks of a score, of all its parts, bar by bar. */
export class TempoMarks {
  /** Marks that stand after the last note of the bar before. */
  private fromBefore: readonly ScoreMark[] = [];
  /** Quarters a minute, as they were given last; null after what leads elsewhere. */
  private quartersNow: Fraction | null = null;

  constructor(
    private readonly columns: ReadonlyArray<readonly PartMeasure[]>,
    private readonly names: readonly string[],
    private readonly meters: readonly Meter[],
    private readonly notes: NoteTaker,
  ) {}

  /** For each bar its marks as a piece has them. `lengths` are those of the bars, in whole notes. */
  documents(lengths: readonly Fraction[]): ReadonlyArray<readonly TempoMarkDocument[]> {
    let barWholes = 0;
    const placed: PlacedMark[] = [];
    lengths.forEach((length, bar) => {
      for (const mark of this.marksOf(bar, length))
        placed.push({ bar, wholes: barWholes + toNumber(mark.at), mark });
      barWholes += toNumber(length);
    });
    const documents: TempoMarkDocument[][] = lengths.map(() => []);
    for (const mark of withRampTargets(placed, barWholes, this.names, this.notes))
      documents[mark.bar]?.push(...this.markDocument(mark));
    return documents;
  }

  /**
   * The marks of a bar, at most one at a place. The printed number is believed against the played one. One after the
   * last note of a bar is for the next bar, as it stands before it in the score.
   */
  private marksOf(index: number, length: Fraction): readonly ScoreMark[] {
    const column = this.columns[index] ?? [];
    const name = this.names[index] ?? '';
    const byPlace = new Map<string, ScoreMark>();
    const put = (mark: ScoreMark) => {
      const key = formatFraction(mark.at);
      const known = byPlace.get(key);
      byPlace.set(key, known ? this.merged(known, mark, name) : mark);
    };
    const marks = column.flatMap((measure) => measure.marks);
    const inside = marks.filter(({ at }) => compare(at, length) < 0);
    inside.forEach(put);
    const isOpened = inside.some(({ at }) => at.n === 0);
    for (const mark of this.fromBefore) if (!isOpened || saysOnlySound(mark)) put(mark);
    this.fromBefore = marks
      .filter(({ at }) => compare(at, length) >= 0)
      .map((mark) => ({ ...mark, at: ZERO }));
    if (this.fromBefore.length > 0 && index === this.columns.length - 1)
      this.notes.leftOut('a tempo mark after the last note of the piece', name);
    return [...byPlace.values()]
      .sort((a, b) => toNumber(a.at) - toNumber(b.at))
      .map((mark) => this.withProportion(mark, index));
  }

  /** Words like "doppio movimento" as the equivalence they stand for, in the beats of the meters before and after. */
  private withProportion(mark: ScoreMark, index: number): ScoreMark {
    const { proportion, stated, equivalence, term } = mark;
    const after = this.meters[index] as Meter;
    if (!proportion || stated || equivalence) return mark;
    if (index === 0 && mark.at.n === 0) return mark;
    const before = mark.at.n === 0 ? (this.meters[index - 1] ?? after) : after;
    const meant = equivalenceOf(proportion, before, after);
    this.notes.guessed(
      `"${term ?? proportion}" was taken for ${formatEquivalence(meant)}`,
      this.names[index] ?? '',
    );
    return { ...mark, equivalence: meant };
  }

  private merged(known: ScoreMark, more: ScoreMark, name: string): ScoreMark {
    if (known.stated && more.stated && formatStatedTempo(known.stated) !== formatStatedTempo(more.stated))
      this.notes.finding(
        `two tempi at one place; ${formatStatedTempo(known.stated)} was taken, not ${formatStatedTempo(more.stated)}`,
        name,
      );
    return { ...more, ...known };
  }

  private markDocument({ mark, bar, target, endsRamp }: PlacedMark): TempoMarkDocument[] {
    const name = this.names[bar] ?? '';
    const { stated, sounds, equivalence, term, returns, isRamp, isAbout } = mark;
    if (isAbout && stated)
      this.notes.guessed(
        `the tempo is given about or as a range; ${formatStatedTempo(stated)} was taken`,
        name,
      );
    if (stated && sounds)
      this.compareTempi(toNumber(stated.bpm) * 4 * toNumber(noteValueLength(stated.unit)), sounds, name);
    if (isRamp && !target)
      this.notes.finding(`${term ?? 'A ramp'} says not where it leads: give it a target on the map`, name);
    const isSounded = !stated && !equivalence && !returns && !isRamp && sounds !== undefined;
    // Programs say the tempo again and again; it stays as it is.
    if (isSounded && term === undefined && this.quartersNow && equal(this.quartersNow, sounds)) return [];
    const sounded = isSounded ? soundedTempo(sounds) : null;
    if (sounded)
      this.notes.guessed(
        `no tempo is printed; ${formatStatedTempo(sounded)} is what the file would play`,
        name,
      );
    const tempo = stated ?? sounded;
    if (tempo || equivalence || returns || isRamp)
      this.quartersNow = tempo && multiply(tempo.bpm, multiply(noteValueLength(tempo.unit), fraction(4)));
    const isPlain = mark.at.n === 0;
    const document: TempoMarkDocument = {
      ...(!isPlain && { at: formatFraction(mark.at) }),
      ...(term !== undefined && { term }),
      ...(tempo && { tempo: formatStatedTempo(tempo) }),
      ...(equivalence && { equivalence: formatEquivalence(equivalence) }),
      ...(returns && { returns }),
      ...(isRamp && { ramp: target ? `even per beat to ${formatStatedTempo(target)}` : 'even per beat' }),
      ...(endsRamp && { endsRamp }),
    };
    return Object.keys(document).length > (isPlain ? 0 : 1) ? [document] : [];
  }

  private compareTempi(printedQuarters: number, sounds: Fraction, name: string): void {
    if (Math.abs(toNumber(sounds) / printedQuarters - 1) <= TEMPO_TOLERANCE) return;
    this.notes.finding(
      `printed ${round(printedQuarters)} quarters a minute, but the file would play ${round(toNumber(sounds))}; the printed tempo was taken`,
      name,
    );
  }
}

/** Of a tempo twice as fast two of the new notes last as one of the old; the same tempo keeps the beat, whatever note it is. */
function equivalenceOf(proportion: TempoProportion, before: Meter, after: Meter): Equivalence {
  const [old, now] = [meterBeat(before), meterBeat(after)];
  if (proportion === 'same') return { before: old, after: now };
  const double = noteValueOfLengthMaybe(multiply(noteValueLength(old), fraction(2))) ?? noteValue('half');
  return proportion === 'double' ? { before: old, after: double } : { before: double, after: old };
}

function round(quarters: number): string {
  return String(Math.round(quarters * 100) / 100);
}
