import {
  add,
  barLength,
  compare,
  equal,
  formatEnding,
  formatJump,
  formatMeter,
  meterSign,
  multiply,
  noteValueLength,
  rateAt,
  rhythmLength,
  singleNoteMaybe,
  subtract,
  toNumber,
  ZERO,
  fraction,
  type Bar,
  type CompiledPiece,
  type Equivalence,
  type Fraction,
  type Hold,
  type NoteValue,
  type Piece,
  type RhythmNote,
  type TempoMark,
} from '@anchorbeat/core';
import { keySignatureMaybe } from '../keyNames.ts';
import { TYPE_NAMES } from './values.ts';
import { escaped, tag } from './xmlText.ts';

const MOST_DIVISIONS = 1_000_000;

/** Something that sounds or rests from a place in the bar on. */
interface Event {
  readonly at: Fraction;
  readonly length: Fraction;
  readonly value: NoteValue | null;
  readonly note: RhythmNote | null;
}

/** Writes one measure after another; divisions, key and meter only where they change. */
export class MeasureWriter {
  private divisions = 0;
  private meter = '';
  private isTied = false;
  private unnumbered = 0;

  constructor(
    private readonly piece: Piece,
    private readonly compiled: CompiledPiece,
    private readonly labels: ReadonlyArray<string | null>,
  ) {}

  write(index: number): string {
    const bar = this.piece.bars[index] as Bar;
    const events = eventsOf(bar);
    const label = this.labels[index] ?? null;
    const parts = [
      this.attributes(bar, index, divisionsFor(bar, events)),
      this.leftBarline(index),
      ...this.startDirections(bar),
      ...bar.tempoMarks.map((mark) => this.tempoDirection(mark, index)),
      ...events.map((event) => this.note(event, bar)),
      ...this.endDirections(bar),
      this.rightBarline(index),
    ];
    const number = label ?? (index === 0 ? '0' : `X${++this.unnumbered}`);
    return tag('measure', parts, { number, implicit: label === null ? 'yes' : undefined });
  }

  private attributes(bar: Bar, index: number, divisions: number): string {
    const meter = formatMeter(bar.meter);
    const isFirst = index === 0;
    const parts = [
      divisions !== this.divisions ? tag('divisions', String(divisions)) : '',
      isFirst ? keyElement(this.piece.key) : '',
      meter !== this.meter ? timeElement(bar) : '',
      isFirst ? tag('clef', tag('sign', 'percussion')) : '',
    ].filter((part) => part !== '');
    this.divisions = divisions;
    this.meter = meter;
    return parts.length > 0 ? tag('attributes', parts) : '';
  }

  private leftBarline(index: number): string {
    const bar = this.piece.bars[index] as Bar;
    const begins = bar.ending && !this.isSameEnding(index - 1, index);
    if (!bar.startsRepeat && !begins) return '';
    return tag(
      'barline',
      [
        begins ? tag('ending', '', { number: formatEnding(bar.ending ?? []), type: 'start' }) : '',
        bar.startsRepeat ? tag('repeat', '', { direction: 'forward' }) : '',
      ],
      { location: 'left' },
    );
  }

  private rightBarline(index: number): string {
    const bar = this.piece.bars[index] as Bar;
    const ends = bar.ending && !this.isSameEnding(index, index + 1);
    if (bar.endsRepeat === undefined && !ends) return '';
    const times = bar.endsRepeat === 'until cued' ? 2 : bar.endsRepeat;
    const type = bar.endsRepeat === undefined ? 'discontinue' : 'stop';
    return tag(
      'barline',
      [
        ends ? tag('ending', '', { number: formatEnding(bar.ending ?? []), type }) : '',
        times === undefined
          ? ''
          : tag('repeat', '', { direction: 'backward', times: times > 2 ? times : undefined }),
      ],
      { location: 'right' },
    );
  }

  private isSameEnding(a: number, b: number): boolean {
    const [before, after] = [this.piece.bars[a], this.piece.bars[b]];
    return (
      before?.ending !== undefined &&
      before.endsRepeat === undefined &&
      before.ending.join() === after?.ending?.join()
    );
  }

  private startDirections({ rehearsalMark, navigation }: Bar): readonly string[] {
    return [
      rehearsalMark === undefined ? '' : direction([tag('rehearsal', escaped(rehearsalMark))]),
      navigation?.segno ? direction([tag('segno')], { sound: { segno: 'segno' } }) : '',
      navigation?.coda ? direction([tag('coda')], { sound: { coda: 'coda' } }) : '',
    ];
  }

  private endDirections({ navigation }: Bar): readonly string[] {
    if (!navigation) return [];
    const { toCoda, fine, jump } = navigation;
    const jumpSound: Record<string, string> =
      jump?.to === 'start' ? { dacapo: 'yes' } : { dalsegno: 'segno' };
    return [
      toCoda ? direction([tag('words', 'To Coda')], { sound: { tocoda: 'coda' } }) : '',
      fine ? direction([tag('words', 'Fine')], { sound: { fine: 'yes' } }) : '',
      jump ? direction([tag('words', formatJump(jump))], { sound: jumpSound }) : '',
    ];
  }

  private tempoDirection(mark: TempoMark, index: number): string {
    const words =
      mark.term ?? mark.returns ?? (mark.ramp ? rampWord(mark, this.rateOf(mark, index)) : undefined);
    const metronomes = [
      mark.equivalence && equivalenceElement(mark.equivalence),
      mark.stated && tempoElement(mark.stated.unit, mark.stated.bpm),
    ].filter((part) => typeof part === 'string');
    if (words === undefined && metronomes.length === 0) return '';
    const types = [...(words === undefined ? [] : [tag('words', escaped(words))]), ...metronomes];
    const rate = mark.ramp ? null : this.rateOf(mark, index);
    const tempo = rate && decimalText(multiply(rate, fraction(4)));
    return direction(types, {
      offset: this.inDivisions(mark.atWholes),
      ...(tempo && { sound: { tempo } }),
    });
  }

  private rateOf({ atWholes }: TempoMark, index: number): Fraction | null {
    const performed = this.compiled.firstPerformed[index] ?? -1;
    return performed < 0 ? null : rateAt(this.compiled.timeline, { performed, atWholes });
  }

  private note({ at, length, value, note }: Event, bar: Bar): string {
    const hold = bar.holds?.find((each) => equal(each.atWholes, at));
    const ties = note && !note.isRest ? this.ties(note) : { ties: '', tied: '' };
    const notations = [ties.tied, holdNotation(hold)].filter((part) => part !== '');
    const content = [
      note && !note.isRest
        ? tag('unpitched', [tag('display-step', 'B'), tag('display-octave', '4')])
        : tag('rest'),
      tag('duration', String(this.inDivisions(length))),
      ties.ties,
      tag('voice', '1'),
      value ? valueElements(value) : '',
      notations.length > 0 ? tag('notations', notations) : '',
    ];
    return tag('note', content, { 'print-object': note ? undefined : 'no' });
  }

  private ties(note: RhythmNote): { readonly ties: string; readonly tied: string } {
    const types = [...(this.isTied ? ['stop'] : []), ...(note.isTied ? ['start'] : [])];
    this.isTied = note.isTied === true;
    return {
      ties: types.map((type) => tag('tie', '', { type })).join(''),
      tied: types.map((type) => tag('tied', '', { type })).join(''),
    };
  }

  /** A length or place in divisions; the nearest where it is finer than they are. */
  private inDivisions(wholes: Fraction): number {
    return Math.round((4 * this.divisions * wholes.n) / wholes.d);
  }
}

/** The bar's notes; without notes unseen rests, cut where something is held. */
function eventsOf(bar: Bar): readonly Event[] {
  const events: Event[] = [];
  let at: Fraction = ZERO;
  if (bar.rhythm && rhythmLength(bar.rhythm).n > 0) {
    for (const note of bar.rhythm) {
      const length = noteValueLength(note.value);
      events.push({ at, length, value: note.value, note });
      at = add(at, length);
    }
    return events;
  }
  const cuts = (bar.holds ?? []).flatMap(({ atWholes, value }) => [
    atWholes,
    ...(value ? [add(atWholes, noteValueLength(value))] : []),
  ]);
  const edges = [...cuts, barLength(bar)].sort(compare);
  for (const edge of edges) {
    if (compare(edge, at) <= 0 || compare(edge, barLength(bar)) > 0) continue;
    const length = subtract(edge, at);
    events.push({ at, length, value: singleNoteMaybe(length), note: null });
    at = edge;
  }
  return events;
}

/** The fewest divisions of a quarter in which everything of a bar is a whole number. */
function divisionsFor(bar: Bar, events: readonly Event[]): number {
  const places = [
    ...events.flatMap(({ at, length }) => [at, length]),
    ...bar.tempoMarks.map((mark) => mark.atWholes),
  ];
  return places.reduce((divisions, { n, d }) => {
    const { d: needed } = fraction(4 * n, d);
    const common = (divisions / greatestCommon(divisions, needed)) * needed;
    return common <= MOST_DIVISIONS ? common : divisions;
  }, 1);
}

function greatestCommon(a: number, b: number): number {
  return b === 0 ? a : greatestCommon(b, a % b);
}

interface DirectionRest {
  readonly offset?: number;
  readonly sound?: Readonly<Record<string, string>>;
}

function direction(types: readonly string[], { offset = 0, sound }: DirectionRest = {}): string {
  return tag(
    'direction',
    [
      ...types.map((type) => tag('direction-type', type)),
      offset === 0 ? '' : tag('offset', String(offset)),
      sound ? tag('sound', '', sound) : '',
    ],
    { placement: 'above' },
  );
}

function timeElement({ meter }: Bar): string {
  return tag(
    'time',
    meterSign(meter).flatMap(({ top, bottom }) => [tag('beats', top), tag('beat-type', bottom)]),
  );
}

/** The key signature of "D minor"; nothing where the key does not read. */
function keyElement(key: string | undefined): string {
  const signature = keySignatureMaybe(key ?? '');
  if (!signature) return '';
  const mode = signature.isMinor ? 'minor' : 'major';
  return tag('key', [tag('fifths', String(signature.fifths)), tag('mode', mode)]);
}

function valueElements({ base, dots, tuplets }: NoteValue): string {
  const actual = tuplets.reduce((product, tuplet) => product * tuplet.actual, 1);
  const normal = tuplets.reduce((product, tuplet) => product * tuplet.normal, 1);
  return [
    tag('type', TYPE_NAMES[base]),
    tag('dot').repeat(dots),
    actual === 1
      ? ''
      : tag('time-modification', [tag('actual-notes', String(actual)), tag('normal-notes', String(normal))]),
  ].join('');
}

function holdNotation(hold: Hold | undefined): string {
  if (!hold) return '';
  return hold.kind === 'hold' ? tag('fermata') : tag('articulations', tag('breath-mark'));
}

function beatUnit({ base, dots }: NoteValue): string {
  return tag('beat-unit', TYPE_NAMES[base]) + tag('beat-unit-dot').repeat(dots);
}

/** A tempo whose number has an end is written in full; another one nearly, and kept exactly beside the music. */
function tempoElement(unit: NoteValue, bpm: Fraction): string | null {
  if (unit.tuplets.length > 0) return null;
  return tag('metronome', [beatUnit(unit), tag('per-minute', decimalText(bpm))]);
}

function equivalenceElement({ before, after }: Equivalence): string {
  if (before.tuplets.length + after.tuplets.length === 0)
    return tag('metronome', [beatUnit(before), beatUnit(after)]);
  return tag('metronome', [metronomeNote(before), tag('metronome-relation', 'equals'), metronomeNote(after)]);
}

function metronomeNote({ base, dots, tuplets }: NoteValue): string {
  const [tuplet] = tuplets;
  return tag('metronome-note', [
    tag('metronome-type', TYPE_NAMES[base]),
    tag('metronome-dot').repeat(dots),
    tuplet
      ? tag(
          'metronome-tuplet',
          [tag('actual-notes', String(tuplet.actual)), tag('normal-notes', String(tuplet.normal))],
          { type: 'start' },
        )
      : '',
  ]);
}

function decimalText(value: Fraction): string {
  return String(Number(toNumber(value).toFixed(6)));
}

/** "rit." or "accel.", by where it leads. */
function rampWord({ ramp }: TempoMark, rate: Fraction | null): string {
  const target = ramp?.target;
  if (target?.kind === 'ratio') return target.ratio.n >= target.ratio.d ? 'accel.' : 'rit.';
  if (target?.kind !== 'tempo' || !rate) return 'rit.';
  const arrives = toNumber(target.tempo.bpm) * toNumber(noteValueLength(target.tempo.unit));
  return arrives > toNumber(rate) ? 'accel.' : 'rit.';
}
