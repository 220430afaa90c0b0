import { describe, expect, test } from '@jest/globals';
import {
  compilePiece,
  countOffFor,
  fraction,
  noteValue,
  parseMeter,
  pieceSeconds,
  writePiece,
  expectValue,
  type Bar,
  type BarDocument,
  type Piece,
} from '@anchorbeat/core';
import MIDIFile from 'midifile';
import { pieceOf } from '../../../core/src/test/pieceOf.ts';
import { seededRandom } from '../../../core/src/random/seededRandom.ts';
import {
  clickEvents,
  keyEvent,
  meterEvent,
  midiFile,
  tempoEvent,
  textEvent,
  type MidiEventBytes,
} from './midiBytes.ts';
import { midi } from './midi.ts';

const QUARTER = 480;

function readingOf(...tracks: ReadonlyArray<readonly MidiEventBytes[]>) {
  const reading = midi.read(midiFile(QUARTER, tracks, 0));
  if (!reading.ok) throw new Error(reading.problems[0]?.message);
  return { document: writePiece(reading.piece), notes: reading.notes! };
}

/** Something at the end of so many quarters, so that the bars go on to there. */
const until = (quarters: number) => clickEvents(QUARTER * quarters - 10, 5, 60, 90);
const at = (quarters: number) => QUARTER * quarters;

describe('reading', () => {
  test('meters, tempi, markers, key and title, from whichever track', () => {
    const { document } = readingOf(
      [textEvent(0, 'trackName', 'Ebb – Flöde'), tempoEvent(0, 500_000), tempoEvent(at(4), 461_538)],
      [
        meterEvent(0, 4, 4, 24),
        meterEvent(at(4), 6, 8, 36),
        keyEvent(0, -1, true),
        textEvent(at(4), 'marker', 'B'),
        ...until(10),
      ],
    );
    expect(document).toMatchObject({ title: 'Ebb – Flöde', key: 'D minor' });
    expect(document.bars).toEqual([
      { meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] },
      { meter: '6/8', rehearsalMark: 'B', tempo: [{ tempo: 'dotted quarter = 86 2/3' }] },
      {},
    ]);
  });

  test('without meter and tempo MIDI’s own are taken, and said', () => {
    const { document, notes } = readingOf([...until(8)]);
    expect(document.bars).toEqual([{ meter: '4/4', tempo: [{ tempo: 'quarter = 120' }] }, {}]);
    expect(notes.guessed.map(({ says }) => says).join()).toMatch(/4\/4 was taken.*120 was taken/);
  });

  test('several tempi and meters on one tick: the last counts, and that is told', () => {
    const { document, notes } = readingOf([
      meterEvent(0, 4, 4, 24),
      tempoEvent(0, 500_000),
      tempoEvent(at(4), 600_000),
      tempoEvent(at(4), 750_000),
      meterEvent(at(4), 5, 4, 24),
      meterEvent(at(4), 3, 4, 24),
      ...until(7),
    ]);
    expect(document.bars[1]).toEqual({ meter: '3/4', tempo: [{ tempo: 'quarter = 80' }] });
    expect(notes.findings).toHaveLength(2);
  });

  test('a meter inside a bar cuts it there', () => {
    const { document, notes } = readingOf([
      meterEvent(0, 4, 4, 24),
      meterEvent(at(3), 2, 4, 24),
      tempoEvent(0, 500_000),
      ...until(5),
    ]);
    expect(document.bars).toEqual([
      { meter: '4/4', cutTo: '3/4', tempo: [{ tempo: 'quarter = 120' }] },
      { meter: '2/4' },
    ]);
    expect(notes.guessed[0]?.says).toContain('inside bar 1');
  });

  test('a first bar less than half as long as the next is a pickup; half as long it is a bar', () => {
    const opening = (quarters: number) =>
      readingOf([
        meterEvent(0, quarters, 4, 24),
        meterEvent(at(quarters), 4, 4, 24),
        tempoEvent(0, 500_000),
        ...until(quarters + 4),
      ]);
    const { document, notes } = opening(1);
    expect(document.bars).toEqual([{ meter: '4/4', pickup: '1/4', tempo: [{ tempo: 'quarter = 120' }] }, {}]);
    expect(notes.guessed[0]?.says).toContain('1/4, was taken for a pickup in 4/4');
    expect(opening(2).document.bars.map(({ meter }) => meter)).toEqual(['2/4', '4/4']);
  });

  test('a stair of tempi that fits becomes a ramp; one that does not stays as it is', () => {
    const stair = (microseconds: readonly number[]) =>
      readingOf([
        meterEvent(0, 4, 4, 24),
        tempoEvent(0, 500_000),
        ...microseconds.map((value, step) => tempoEvent(at(4) + (step * QUARTER) / 4, value)),
        ...until(12),
      ]).document.bars[1]?.tempo;
    const even = Array.from({ length: 16 }, (_, step) => {
      const [from, to] = [2 - step / 16, 2 - (step + 1) / 16];
      return Math.round(16 * Math.log(from / to) * 1e6);
    });
    const ramped = stair([...even, 1_000_000]);
    expect(ramped?.[0]?.ramp).toBe('even per beat to quarter = 60');
    expect(stair([510_000, 700_000, 710_000, 990_000, 1_000_000, 1_300_000])?.length).toBeGreaterThan(3);
  });

  test.each<[string, Uint8Array, string]>([
    ['nothing', new Uint8Array(), 'not a MIDI file'],
    ['format 2', midiFile(QUARTER, [[]], 0).with(9, 2), 'format 2'],
    ['film frames', midiFile(QUARTER, [[]], 0).with(12, 0xe7), 'film frames'],
    ['no length of a quarter', midiFile(0, [[]], 0), 'no length'],
    ['5 MB', new Uint8Array(5 * 1024 * 1024), 'larger than 2 MB'],
  ])('%s is refused with its reason', (_name, file, reason) => {
    const reading = midi.read(file);
    expect(reading.ok ? '' : reading.problems[0]?.message).toContain(reason);
  });

  test('a damaged track is left out and the others are read', () => {
    const good = midiFile(QUARTER, [[meterEvent(0, 3, 4, 24), ...until(3)]], 0);
    const broken = [0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 3, 0x00, 0xff, 0x7e];
    const reading = midi.read(Uint8Array.from([...good, ...broken, 0x4d]));
    expect(reading.ok && reading.piece.bars).toHaveLength(1);
  });
});

/** What a reader of somebody else's finds in a file: when, in seconds, every note begins, and all meters. */
function byAnotherReader(file: Uint8Array) {
  const read = new MIDIFile(
    file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer,
  );
  const perQuarter = read.header.getTicksPerBeat();
  const tracks = [0, 1].map((track) => {
    let tick = 0;
    return read.getTrackEvents(track).map((event) => {
      tick += event.delta;
      return { ...event, tick };
    });
  });
  const tempi = tracks[0]!.filter((event) => event.subtype === 0x51);
  let [index, seconds] = [0, 0];
  /** For ticks in order. */
  const secondsAt = (tick: number) => {
    while (tempi[index + 1] && tempi[index + 1]!.tick <= tick) {
      seconds += ((tempi[index + 1]!.tick - tempi[index]!.tick) * tempi[index]!.tempo!) / perQuarter / 1e6;
      index++;
    }
    return seconds + ((tick - tempi[index]!.tick) * tempi[index]!.tempo!) / perQuarter / 1e6;
  };
  return {
    clicks: tracks[1]!.filter((event) => event.subtype === 9).map(({ tick }) => secondsAt(tick)),
    meters: tracks[0]!
      .filter((event) => event.subtype === 0x58)
      .map(({ param1 = 0, param2 = 0 }) => `${param1}/${2 ** param2}`),
  };
}

function expectSameTimes(piece: Piece): number {
  const compiled = compilePiece(piece);
  const countOff = countOffFor(piece, compiled.timeline, 0);
  const heard = countOff.beats
    .filter(({ sound }) => sound !== 'silent')
    .map(({ timeSeconds }) => timeSeconds);
  const wanted = [
    ...heard,
    ...Array.from(compiled.clicks.timeSeconds, (time) => time + countOff.lengthSeconds),
  ];
  const { clicks } = byAnotherReader(midi.write(piece));
  expect(clicks).toHaveLength(wanted.length);
  const worst = Math.max(...wanted.map((time, index) => Math.abs(time - clicks[index]!)));
  expect(worst).toBeLessThan(0.001);
  return worst;
}

describe('where a file ends', () => {
  test('pedals, markers, tempi and ends of tracks after the last note make no bars', () => {
    const { document } = readingOf(
      [
        meterEvent(0, 4, 4, 24),
        tempoEvent(0, 500_000),
        ...until(8),
        tempoEvent(at(12), 600_000),
        textEvent(at(20), 'marker', 'End'),
      ],
      [{ tick: at(30), bytes: [0xb9, 64, 0] }],
    );
    expect(document.bars).toHaveLength(2);
  });

  test('a note let go a little after the barline stays in its bar', () => {
    const { document } = readingOf([
      meterEvent(0, 4, 4, 24),
      tempoEvent(0, 500_000),
      ...clickEvents(at(4), at(4) + 30, 60, 90),
    ]);
    expect(document.bars).toHaveLength(2);
  });

  test('a file that breaks off says in which track', () => {
    const whole = midiFile(QUARTER, [[meterEvent(0, 3, 4, 24)], [...until(9)], [...until(9)]], at(9));
    const findings = (bytesLost: number) => {
      const reading = midi.read(whole.slice(0, -bytesLost));
      return reading.ok && reading.notes?.findings.map(({ says }) => says);
    };
    expect(findings(2)).toEqual(['the file breaks off in track 3 of 3']);
    const lastTrack = Buffer.from(whole).lastIndexOf('MTrk');
    expect(findings(whole.length - lastTrack)).toEqual(['the file breaks off after track 2 of 3']);
  });
});

describe('writing', () => {
  test('another reader finds the clicks, with count-off, holds and ramps, where the core has them', () => {
    const bars: BarDocument[] = [
      { meter: '6/8', pickup: '1/8', tempo: [{ tempo: 'dotted quarter = 77' }] },
      {},
      {
        meter: '7/8 as 2+2+3',
        tempo: [{ equivalence: 'eighth = eighth' }],
        holds: [{ at: '1/4', length: '2.5 seconds' }],
      },
      { tempo: [{ ramp: 'even ratio to quarter = 61' }] },
      {},
      {
        meter: '5/4',
        tempo: [{ tempo: 'quarter = 133 1/3' }],
        holds: [{ at: '1', length: '2 beats', value: 'quarter' }],
      },
      { meter: '3/4+3/8' },
    ];
    const piece = pieceOf(...bars);
    expectSameTimes(piece);
    expect(byAnotherReader(midi.write(piece)).meters).toEqual(['6/8', '1/8', '6/8', '7/8', '5/4', '9/8']);
  });

  test('an hour of changes stays within a millisecond, and reads back to the same bars and times', () => {
    const random = seededRandom(77);
    const below = (limit: number) => Math.floor(random() * limit);
    const bars: Bar[] = [];
    const metersOf = ['4/4', '3/4', '7/8 as 2+2+3', '15/16 as 4+4+4+3', '6/8', '5/4', '9/8', '2/4'].map(
      (text) => expectValue(parseMeter(text)),
    );
    let meter = metersOf[0]!;
    while (bars.length < 2500) {
      if (below(6) === 0) meter = metersOf[below(metersOf.length)]!;
      const isRamp = below(40) === 0 && bars.length > 0;
      const stated = { unit: noteValue('quarter'), bpm: fraction(180 + below(240), 1 + below(3)) };
      bars.push({
        meter,
        tempoMarks:
          bars.length === 0 || below(9) === 0
            ? [
                {
                  atWholes: fraction(0),
                  stated,
                  ...(isRamp && {
                    ramp: {
                      shape: 'even per beat' as const,
                      target: { kind: 'ratio' as const, ratio: fraction(4, 5) },
                    },
                  }),
                },
              ]
            : [],
      });
    }
    const piece: Piece = { title: 'An hour', subtitle: '', composer: '', bars };
    const seconds = pieceSeconds(compilePiece(piece).timeline);
    expect(seconds).toBeGreaterThan(3600);
    expectSameTimes(piece);
    const back = midi.read(midi.write(piece));
    if (!back.ok) throw new Error(back.problems[0]?.message);
    const [was, is] = [piece, back.piece].map((each) => compilePiece(each).timeline.barStartSeconds);
    expect(is!.length).toBe(was!.length);
    expect(Math.max(...was!.map((time, bar) => Math.abs(time - is![bar]!)))).toBeLessThan(0.001);
  });

  test('every place is a whole tick where there are such ticks, else the nearest, and the file says so', () => {
    const even = midi.write(pieceOf({ meter: '4/4', tempo: [{ at: '1/12', tempo: 'quarter = 100' }] }));
    expect(new DataView(even.buffer).getUint16(12) % 3).toBe(0);
    const fine = pieceOf(
      { meter: '4/4', tempo: [{ tempo: 'quarter = 100' }, { at: '1/97', tempo: 'quarter = 90' }] },
      { tempo: [{ at: '1/89', tempo: 'quarter = 80' }] },
      { tempo: [{ at: '1/83', tempo: 'quarter = 85' }] },
    );
    expect(Buffer.from(midi.write(fine)).includes('nearest')).toBe(true);
    expectSameTimes(fine);
  });
});
