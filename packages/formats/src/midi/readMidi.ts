import {
  add,
  compare,
  equal,
  expectValue,
  formatFraction,
  formatMeter,
  fraction,
  MAX_BARS,
  meterLength,
  noteValue,
  parseMeter,
  subtract,
  toNumber,
  ZERO,
  type BarDocument,
  type Fraction,
  type Meter,
  type NoteValue,
  type TempoMarkDocument,
} from '@anchorbeat/core';
import { refusedFile, type FileReading } from '../format.ts';
import { keyNameMaybe } from '../keyNames.ts';
import { counted, NoteTaker } from '../notes.ts';
import { readGenerously } from '../readGenerously.ts';
import { eventText, MidiProblem, readTracks, type MidiTracks, type TimedEvent } from './midiTracks.ts';
import { rampTexts, tempoStretches, tempoText, type TempoEvent, type TempoStretch } from './tempi.ts';

const DEFAULT_MICROSECONDS = 500_000;
const LONGEST_MARK = 60;
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
}

class MidiReader {
  private readonly events: readonly TimedEvent[];

  constructor(
    private readonly file: MidiTracks,
    private readonly notes: NoteTaker,
  ) {
    this.events = file.tracks.flat().sort((a, b) => a.tick - b.tick);
  }

  reading(): FileReading {
    const entryTick = this.entryTick();
    const endTick = this.endTick();
    const bars = this.bars(entryTick, endTick);
    const tempos = this.tempos(bars, entryTick);
    const marks = this.rehearsalMarks(bars, entryTick);
    let meterBefore = '';
    const documents = bars.map((bar, index): BarDocument => {
      const full = meterLength(bar.meter);
      const text = formatMeter(bar.meter);
      const isNew = text !== meterBefore;
      meterBefore = text;
      const tempo = tempos.get(index);
      const rehearsalMark = marks.get(index);
      return {
        ...(isNew && { meter: text }),
        ...(compare(bar.length, full) < 0 && { cutTo: formatFraction(bar.length) }),
        ...(rehearsalMark !== undefined && { rehearsalMark }),
        ...(tempo && { tempo }),
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
      counted(bars.length, 'bar'),
      counted(documents.filter(({ meter }) => meter !== undefined).length, 'meter sign'),
      counted([...tempos.values()].flat().length, 'tempo mark'),
      counted(marks.size, 'rehearsal mark'),
      counted(this.file.tracks.length, 'track'),
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

  /** The last thing that happens; ends of tracks, which may come long after, only where nothing else does. */
  private endTick(): number {
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

  /** Tempo marks by bar. */
  private tempos(bars: readonly MidiBar[], entryTick: number): ReadonlyMap<number, TempoMarkDocument[]> {
    const last = bars.at(-1) as MidiBar;
    const { n, d } = add(last.start, last.length);
    const endTick = entryTick + Math.round((4 * this.file.ticksPerQuarter * n) / d);
    const stretches = tempoStretches(this.tempoEvents(entryTick), endTick, this.file.ticksPerQuarter);
    const marks = new Map<number, TempoMarkDocument[]>();
    const put = (tick: number, mark: (unit: NoteValue) => TempoMarkDocument) => {
      const at = this.wholes(tick, entryTick);
      const index = barAt(bars, at);
      const bar = bars[index];
      if (!bar || compare(at, add(bar.start, bar.length)) >= 0) return;
      const inBar = subtract(at, bar.start);
      const document = mark(beatOf(bar.meter));
      const list = marks.get(index) ?? [];
      marks.set(index, list);
      list.push(inBar.n === 0 ? document : { at: formatFraction(inBar), ...document });
    };
    let arrived: string | null = null;
    stretches.forEach((stretch, index) => {
      if (stretch.kind === 'ramp') {
        this.notes.guessed('a stair of tempi was taken for a rit. or accel.');
        arrived = this.putRamp(stretch, put, stretches[index + 1]);
        return;
      }
      const text = (unit: NoteValue) => tempoText(stretch.quarterBpm, unit);
      if (arrived === text(noteValue('quarter'))) put(stretch.tick, () => ({ endsRamp: true }));
      else put(stretch.tick, (unit) => ({ tempo: text(unit) }));
      arrived = null;
    });
    return marks;
  }

  /** Puts a ramp at its start; gives the tempo it arrives at, in quarters, for what follows to be held against. */
  private putRamp(
    stretch: Extract<TempoStretch, { kind: 'ramp' }>,
    put: (tick: number, mark: (unit: NoteValue) => TempoMarkDocument) => void,
    next: TempoStretch | undefined,
  ): string | null {
    put(stretch.tick, (unit) => {
      const { start, ramp } = rampTexts(stretch, unit);
      return { tempo: tempoText(start, unit), ramp };
    });
    if (!next) put(stretch.endTick, () => ({ endsRamp: true }));
    const quarter = noteValue('quarter');
    return rampTexts(stretch, quarter).ramp.replace(/^.* to /, '');
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

/** The beat a tempo is told in: the dotted one where the meter has it. */
function beatOf(meter: Meter): NoteValue {
  const [part] = meter.parts;
  const count = toNumber(meterLength(meter)) * (part?.unit ?? 4);
  const isCompound = (part?.unit ?? 4) >= 8 && count >= 6 && count % 3 === 0;
  return isCompound ? noteValue('quarter', 1) : noteValue('quarter');
}
