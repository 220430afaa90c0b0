import {
  add,
  compare,
  equal,
  expectValue,
  formatFraction,
  formatMeter,
  formatNoteValue,
  fraction,
  howMany,
  MAX_BARS,
  meterBeat,
  meterLength,
  multiply,
  noteValue,
  noteValueOfLengthMaybe,
  parseMeter,
  subtract,
  ZERO,
  type BarDocument,
  type Fraction,
  type HoldDocument,
  type Meter,
  type NoteValue,
  type TempoMarkDocument,
} from '@anchorbeat/core';
import { refusedFile, type FileReading } from '../format.ts';
import { keyNameMaybe } from '../keyNames.ts';
import { NoteTaker } from '../notes.ts';
import { readGenerously } from '../readGenerously.ts';
import { eventText, MidiProblem, readTracks, type MidiTracks, type TimedEvent } from './midiTracks.ts';
import { rampText, tempoStretches, tempoText, type HoldStretch, type TempoEvent } from './tempi.ts';

const DEFAULT_MICROSECONDS = 500_000;
const LONGEST_MARK = 60;
const QUARTER = noteValue('quarter');
/** A note may sound so far into a bar that it does not belong to, in quarters. */
const RELEASE_QUARTERS = 1 / 8;
/** Cue points by which a file of ours says which bars are the count-off. */
export const COUNT_OFF_CUE = 'count-off';
export const ENTRY_CUE = 'entry';

/** Reads standard MIDI files: meters, tempo, markers and key, from whichever track has them. */
export function readMidi(bytes: Uint8Array): FileReading {
  const notes = new NoteTaker();
  try {
    return new MidiReader(readTracks(bytes, notes), notes).reading();
  } catch (error) {
    if (error instanceof MidiProblem) return refusedFile(error.message);
    if (error instanceof RangeError)
      return refusedFile('The numbers in this MIDI file run out of all bounds');
    throw error;
  }
}

interface MeterEvent {
  readonly tick: number;
  readonly meter: Meter;
}

interface MidiBar {
  readonly start: Fraction;
  readonly length: Fraction;
  readonly meter: Meter;
  readonly isPickup?: true;
}

class MidiReader {
  private readonly events: readonly TimedEvent[];
  private hasPickup = false;

  constructor(
    private readonly file: MidiTracks,
    private readonly notes: NoteTaker,
  ) {
    this.events = file.tracks.flat().sort((a, b) => a.tick - b.tick);
  }

  reading(): FileReading {
    const entryTick = this.entryTick();
    const endTick = this.endTick();
    const bars = this.withPickup(this.bars(entryTick, endTick));
    const { tempos, holds } = this.times(bars, entryTick);
    const marks = this.rehearsalMarks(bars, entryTick);
    let meterBefore = '';
    const documents = bars.map((bar, index): BarDocument => {
      const full = meterLength(bar.meter);
      const text = formatMeter(bar.meter);
      const isNew = text !== meterBefore;
      meterBefore = text;
      const tempo = tempos.get(index);
      const held = holds.get(index);
      const rehearsalMark = marks.get(index);
      return {
        ...(isNew && { meter: text }),
        ...(compare(bar.length, full) < 0 && {
          [bar.isPickup ? 'pickup' : 'cutTo']: formatFraction(bar.length),
        }),
        ...(rehearsalMark !== undefined && { rehearsalMark }),
        ...(tempo && { tempo }),
        ...(held && { holds: held }),
      };
    });
    const reading = readGenerously(
      {
        format: 'anchorbeat-piece',
        version: 1,
        title: this.title(),
        ...this.key(),
        bars: documents,
      },
      this.notes,
    );
    if (!reading.ok) return reading;
    const read = [
      howMany(bars.length, 'bar'),
      howMany(documents.filter(({ meter }) => meter !== undefined).length, 'meter sign'),
      howMany([...tempos.values()].flat().length, 'tempo mark'),
      howMany(marks.size, 'rehearsal mark'),
      howMany(this.file.tracks.length, 'track'),
    ];
    return { ok: true, piece: reading.piece, notes: this.notes.notes(read) };
  }

  /** Where the music begins: after a count-off that a file of ours has marked as one. */
  private entryTick(): number {
    const cueAt = (name: string) =>
      this.events.find((event) => event.type === 'cuePoint' && eventText(event) === name)?.tick;
    const [countOff, entry] = [cueAt(COUNT_OFF_CUE), cueAt(ENTRY_CUE)];
    if (countOff === undefined || entry === undefined || entry <= countOff) return 0;
    this.notes.leftOut('the count-off at the beginning: it is made anew');
    return entry;
  }

  /**
   * Where the music ends: with the last note. A pedal, a marker or a tempo after it makes no bar. Without any note it is the
   * last thing that happens; ends of tracks, which may come long after, only where nothing else does.
   */
  private endTick(): number {
    const lastTick = (type: string) => this.events.findLast((event) => event.type === type)?.tick;
    const lastNote = lastTick('noteOn');
    if (lastNote !== undefined) {
      const release =
        (lastTick('noteOff') ?? lastNote) - Math.floor(RELEASE_QUARTERS * this.file.ticksPerQuarter);
      return Math.max(lastNote + 1, release);
    }
    const happening = this.events.filter(({ type }) => type !== 'endOfTrack');
    return (happening.at(-1) ?? this.events.at(-1))?.tick ?? 0;
  }

  private wholes(tick: number, entryTick: number): Fraction {
    return fraction(tick - entryTick, 4 * this.file.ticksPerQuarter);
  }

  /** Meters by tick; of several on one tick the last. */
  private meters(entryTick: number): readonly MeterEvent[] {
    const byTick = new Map<number, Meter>();
    for (const { type, tick, numerator = 0, denominator = 0 } of this.events) {
      if (type !== 'timeSignature') continue;
      const reading = parseMeter(`${numerator}/${denominator}`);
      const at = Math.max(tick, entryTick);
      if (!reading.ok) {
        this.notes.leftOut(`a meter of ${numerator}/${denominator}: ${reading.problem.message}`);
        continue;
      }
      const known = byTick.get(at);
      if (known && tick > entryTick && formatMeter(known) !== formatMeter(reading.value))
        this.notes.finding(
          `two meters at one place, ${formatMeter(known)} and ${formatMeter(reading.value)}; the last was taken`,
        );
      byTick.set(at, reading.value);
    }
    if (!byTick.has(entryTick)) {
      this.notes.guessed('no meter is written at the beginning; 4/4 was taken, as MIDI has it');
      byTick.set(entryTick, expectValue(parseMeter('4/4')));
    }
    return [...byTick].sort(([a], [b]) => a - b).map(([tick, meter]) => ({ tick, meter }));
  }

  /** Bars from the entry to the end; a meter that comes inside a bar cuts it there. */
  private bars(entryTick: number, endTick: number): readonly MidiBar[] {
    const meters = this.meters(entryTick);
    const end = this.wholes(endTick, entryTick);
    const bars: MidiBar[] = [];
    let start: Fraction = ZERO;
    let next = 0;
    let meter = meters[0]?.meter as Meter;
    do {
      while (meters[next] && compare(this.wholes((meters[next] as MeterEvent).tick, entryTick), start) <= 0)
        meter = (meters[next++] as MeterEvent).meter;
      const full = meterLength(meter);
      const cut = meters[next]
        ? subtract(this.wholes((meters[next] as MeterEvent).tick, entryTick), start)
        : full;
      const isCut = compare(cut, full) < 0;
      const length = isCut ? cut : full;
      if (isCut) this.notes.guessed(`a new meter comes inside bar ${bars.length + 1}, which was cut there`);
      if (bars.length >= MAX_BARS)
        throw new MidiProblem(
          `There are more than ${MAX_BARS} bars in this file, which is the most a piece holds`,
        );
      bars.push({ start, length, meter });
      start = add(start, length);
    } while (compare(start, end) < 0);
    return bars;
  }

  /** MIDI has no pickups: one is written as a bar in a meter of its own, less than half as long as the next. */
  private withPickup(bars: readonly MidiBar[]): readonly MidiBar[] {
    const [first, second] = bars;
    if (!first || !second || compare(first.length, meterLength(first.meter)) < 0) return bars;
    if (compare(multiply(first.length, fraction(2)), meterLength(second.meter)) >= 0) return bars;
    this.hasPickup = true;
    this.notes.guessed(
      `the first bar, of ${formatMeter(first.meter)}, was taken for a pickup in ${formatMeter(second.meter)}`,
    );
    return [{ ...first, meter: second.meter, isPickup: true }, ...bars.slice(1)];
  }

  private tempoEvents(entryTick: number): readonly TempoEvent[] {
    const byTick = new Map<number, number>();
    for (const { type, tick, microsecondsPerBeat = 0 } of this.events) {
      if (type !== 'setTempo' || microsecondsPerBeat <= 0) continue;
      const at = Math.max(tick, entryTick);
      const known = byTick.get(at);
      if (known !== undefined && tick > entryTick && known !== microsecondsPerBeat)
        this.notes.finding('several tempi at one place; the last was taken');
      byTick.set(at, microsecondsPerBeat);
    }
    if (!byTick.has(entryTick)) {
      this.notes.guessed('no tempo is written at the beginning; quarter = 120 was taken, as MIDI has it');
      byTick.set(entryTick, DEFAULT_MICROSECONDS);
    }
    return [...byTick].sort(([a], [b]) => a - b).map(([tick, microseconds]) => ({ tick, microseconds }));
  }

  /** Tempo marks and holds by bar. */
  private times(bars: readonly MidiBar[], entryTick: number): BarTimes {
    const last = bars.at(-1) as MidiBar;
    const { n, d } = add(last.start, last.length);
    const endTick = entryTick + Math.round((4 * this.file.ticksPerQuarter * n) / d);
    const placed = (tick: number) => placeOf(bars, this.wholes(tick, entryTick));
    const stretches = tempoStretches(this.tempoEvents(entryTick), endTick, {
      ticksPerQuarter: this.file.ticksPerQuarter,
      beatAt: (tick) => beatOf(placed(tick).bar.meter),
    });
    const times = new BarTimes(placed);
    /** Text of the tempo in force, in quarters; after a hold it goes on without being written again. */
    let inForce: string | null = null;
    let arrived: string | null = null;
    for (const [index, stretch] of stretches.entries()) {
      if (stretch.kind === 'hold') {
        this.notes.guessed(
          'a single slow note was taken for a hold',
          this.barName(placed(stretch.tick).index),
        );
        times.hold(stretch, this.wholes(stretch.tick, entryTick), this.wholes(stretch.endTick, entryTick));
        continue;
      }
      if (stretch.kind === 'ramp') {
        this.notes.guessed(
          'a stair of tempi was taken for a rit. or accel.',
          this.barName(placed(stretch.tick).index),
        );
        times.put(stretch.tick, (unit) => ({
          tempo: tempoText(stretch.startQuarterBpm, unit),
          ramp: rampText(stretch, unit),
        }));
        if (index === stretches.length - 1) times.put(stretch.endTick, () => ({ endsRamp: true }));
        arrived = inForce = tempoText(stretch.endQuarterBpm, QUARTER);
        continue;
      }
      const text = tempoText(stretch.quarterBpm, QUARTER);
      if (arrived === text) times.put(stretch.tick, () => ({ endsRamp: true }));
      else if (text !== inForce || arrived !== null)
        times.put(stretch.tick, (unit) => ({ tempo: tempoText(stretch.quarterBpm, unit) }));
      inForce = text;
      arrived = null;
    }
    return times;
  }

  /** The bar as it will be numbered. */
  private barName(index: number): string {
    return String(this.hasPickup ? index : index + 1);
  }

  private rehearsalMarks(bars: readonly MidiBar[], entryTick: number): ReadonlyMap<number, string> {
    const marks = new Map<number, string>();
    for (const event of this.events) {
      if (event.type !== 'marker' || event.tick < entryTick) continue;
      const text = eventText(event);
      const at = this.wholes(event.tick, entryTick);
      const index = barAt(bars, at);
      const isOnBarline = bars[index] !== undefined && equal(bars[index].start, at);
      if (text === '') continue;
      if (text.length > LONGEST_MARK || marks.has(index))
        this.notes.leftOut(`the marker "${text.slice(0, 60)}"`);
      else {
        if (!isOnBarline)
          this.notes.guessed(`the marker "${text}" stands inside a bar; it was put at its beginning`);
        marks.set(index, text);
      }
    }
    return marks;
  }

  private title(): string {
    const name = this.file.tracks[0]?.find(({ type }) => type === 'trackName');
    const text = name ? eventText(name).replace(/\s+/g, ' ').slice(0, 200) : '';
    return text || 'Untitled piece';
  }

  private key(): { readonly key?: string } {
    const event = this.events.find(({ type }) => type === 'keySignature');
    const key = event ? keyNameMaybe(event.key ?? NaN, event.scale === 1) : null;
    return key === null ? {} : { key };
  }
}

/** Collects what the tempo track says of every bar. */
class BarTimes {
  readonly tempos = new Map<number, TempoMarkDocument[]>();
  readonly holds = new Map<number, HoldDocument[]>();

  constructor(private readonly placed: (tick: number) => PlaceInBar) {}

  /** Puts a mark at a tick, told in the beat of its bar; what lies behind the last bar is nothing to play. */
  put(tick: number, mark: (unit: NoteValue) => TempoMarkDocument): void {
    const { bar, index, inBar } = this.placed(tick);
    if (compare(inBar, bar.length) >= 0) return;
    const document = mark(beatOf(bar.meter));
    append(this.tempos, index, inBar.n === 0 ? document : { at: formatFraction(inBar), ...document });
  }

  hold({ tick, seconds }: HoldStretch, from: Fraction, to: Fraction): void {
    const { index, inBar } = this.placed(tick);
    const value = noteValueOfLengthMaybe(subtract(to, from));
    append(this.holds, index, {
      ...(inBar.n !== 0 && { at: formatFraction(inBar) }),
      length: `${seconds} seconds`,
      ...(value && { value: formatNoteValue(value) }),
    });
  }
}

function append<Entry>(lists: Map<number, Entry[]>, index: number, entry: Entry): void {
  const list = lists.get(index) ?? [];
  lists.set(index, [...list, entry]);
}

interface PlaceInBar {
  readonly bar: MidiBar;
  readonly index: number;
  readonly inBar: Fraction;
}

function placeOf(bars: readonly MidiBar[], at: Fraction): PlaceInBar {
  const index = barAt(bars, at);
  const bar = bars[index] as MidiBar;
  return { bar, index, inBar: subtract(at, bar.start) };
}

/** Index of the bar that a place lies in; the last one for what is after it. */
function barAt(bars: readonly MidiBar[], at: Fraction): number {
  let [low, high] = [0, bars.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if (compare((bars[middle] as MidiBar).start, at) <= 0) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The beat a tempo is told in: the dotted quarter where the meter counts in threes. */
function beatOf(meter: Meter): NoteValue {
  return noteValue('quarter', meterBeat(meter).dots);
}
