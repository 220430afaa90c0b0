import { describe, expect, test } from '@jest/globals';
import { compilePiece, writePiece } from '@anchorbeat/core';
import { pieceOf } from '../../../core/src/test/pieceOf.ts';
import { seededRandom } from '../../../core/src/random/seededRandom.ts';
import { clickEvents, meterEvent, midiFile, tempoEvent } from './midiBytes.ts';
import { midi } from './midi.ts';

const QUARTER = 480;
const at = (quarters: number) => QUARTER * quarters;

/** Seconds of the barlines of a file with nothing but tempi, by adding up its ticks: our times are held against these. */
function barSecondsOf(
  tempi: ReadonlyArray<readonly [tick: number, microseconds: number]>,
  barTicks: readonly number[],
) {
  let [index, seconds] = [0, 0];
  return barTicks.map((tick) => {
    while (tempi[index + 1] && tempi[index + 1]![0] <= tick) {
      seconds += ((tempi[index + 1]![0] - tempi[index]![0]) * tempi[index]![1]) / QUARTER / 1e6;
      index++;
    }
    return seconds + ((tick - tempi[index]![0]) * tempi[index]![1]) / QUARTER / 1e6;
  });
}

/** The farthest a bar of ours begins from where the file has it. */
function worstDrift(tempi: ReadonlyArray<readonly [tick: number, microseconds: number]>, bars: number) {
  const file = midiFile(
    QUARTER,
    [
      [meterEvent(0, 4, 4, 24), ...tempi.map(([tick, microseconds]) => tempoEvent(tick, microseconds))],
      [...clickEvents(at(bars * 4) - 10, 5, 60, 90)],
    ],
    0,
  );
  const reading = midi.read(file);
  if (!reading.ok) throw new Error(reading.problems[0]?.message);
  const document = writePiece(reading.piece);
  const ours = compilePiece(pieceOf(...document.bars)).timeline.barStartSeconds;
  const theirs = barSecondsOf(
    tempi,
    Array.from({ length: bars + 1 }, (_, bar) => at(bar * 4)),
  );
  return { worst: Math.max(...theirs.map((time, bar) => Math.abs(time - ours[bar]!))), document };
}

describe('an hour of somebody else’s tempi', () => {
  test.each<[string, number, (random: () => number) => ReadonlyArray<readonly [number, number]>]>([
    [
      'a new tempo at every beat',
      1500,
      (random) => {
        let microseconds = 600_000;
        return Array.from({ length: 6000 }, (_, beat) => {
          microseconds = Math.min(1_200_000, Math.max(300_000, microseconds * (1 + (random() - 0.5) * 0.08)));
          return [at(beat), Math.round(microseconds)] as const;
        });
      },
    ],
    [
      'waves of rubato, sixteen steps a bar',
      200,
      (random) => {
        const phase = random() * 6;
        return Array.from({ length: 3200 }, (_, step) => {
          const bpm = 92 + 14 * Math.sin(phase + step / 23) + 3 * Math.sin(step / 7.1);
          return [(step * QUARTER) / 4, Math.round(60e6 / bpm)] as const;
        });
      },
    ],
    [
      'whole tempi for a dozen bars each',
      1500,
      (random) =>
        Array.from({ length: 125 }, (_, place) => [
          at(place * 48),
          Math.round(60e6 / (60 + Math.floor(random() * 120))),
        ]),
    ],
    [
      'stairs and steps and long crooked tempi mixed',
      1200,
      (random) => {
        const tempi: Array<readonly [number, number]> = [];
        for (let beat = 0; beat < 4800;) {
          const start = 380_000 + random() * 500_000;
          const steps = Math.floor(random() * 12);
          for (let step = 0; step < steps; step++)
            tempi.push([at(beat) + (step * QUARTER) / 2, Math.round(start * (1 + step * 0.013))]);
          tempi.push([at(beat) + (steps * QUARTER) / 2, Math.round(start * 0.9)]);
          beat += 8 + Math.floor(random() * 60);
        }
        return tempi;
      },
    ],
  ])('%s: every bar within a millisecond', (_name, bars, tempiOf) => {
    expect(worstDrift(tempiOf(seededRandom(bars)), bars).worst).toBeLessThan(0.001);
  });

  test('tempi are read as they were meant: whole, then with two decimals', () => {
    const tempi = [180, 132, 92.5, 86.67, 63.37].map(
      (bpm, place) => [at(place * 8), Math.floor(60e6 / bpm)] as const,
    );
    const { document } = worstDrift(tempi, 10);
    expect(document.bars.flatMap(({ tempo = [] }) => tempo.map((mark) => mark.tempo))).toEqual([
      'quarter = 180',
      'quarter = 132',
      'quarter = 92.5',
      'quarter = 86.67',
      'quarter = 63.37',
    ]);
    expect(worstDrift([[0, 333_333]], 900).document.bars[0]?.tempo?.[0]?.tempo).toBe('quarter = 180');
  });

  test('one slow note between two stretches of a tempo is a hold, a slower bar is not', () => {
    const held = worstDrift(
      [
        [0, 500_000],
        [at(6), 1_900_000],
        [at(7), 500_000],
      ],
      4,
    );
    expect(held.worst).toBeLessThan(1e-6);
    expect(held.document.bars[1]).toEqual({
      holds: [{ at: '1/2', length: '1.4 seconds', value: 'quarter' }],
    });
    const slower = worstDrift(
      [
        [0, 500_000],
        [at(4), 1_200_000],
        [at(8), 500_000],
      ],
      4,
    );
    expect(slower.document.bars[1]).toEqual({ tempo: [{ tempo: 'quarter = 50' }] });
  });
});
