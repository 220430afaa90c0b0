import { divide, fraction, multiply, toNumber, type Fraction } from '../../fraction/fraction.ts';
import { meterLength } from '../../meter/meter.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import { bpmOf, secondsOf, statedRate, type StatedTempo } from '../../tempo/tempoMark.ts';
import { noteValue, noteValueLength } from '../../value/noteValue.ts';
import { noteNoun, noteWords } from '../../value/text.ts';
import {
  decimal,
  lasting,
  refusalOf,
  smallPiece,
  typedCount,
  typedMeter,
  typedTempo,
  type BenchAnswer,
  type BenchTool,
  type Typed,
} from '../tool.ts';

/** The steps of a traditional metronome, in beats a minute. */
const METRONOME_NUMBERS: readonly number[] = [
  ...stepped(40, 60, 2),
  ...stepped(60, 72, 3),
  ...stepped(72, 120, 4),
  ...stepped(120, 144, 6),
  ...stepped(144, 216, 8),
];

function stepped(from: number, below: number, step: number): readonly number[] {
  return Array.from({ length: (below - from) / step }, (_, index) => from + index * step);
}

/** Convention, and no more: what words are often taken to mean, in beats a minute. */
const WORDS: ReadonlyArray<readonly [word: string, from: number]> = [
  ['Grave', 0],
  ['Largo', 45],
  ['Adagio', 60],
  ['Andante', 76],
  ['Moderato', 100],
  ['Allegretto', 112],
  ['Allegro', 124],
  ['Vivace', 156],
  ['Presto', 172],
  ['Prestissimo', 200],
];

function nearestWord(bpm: number): string {
  return WORDS.findLast(([, from]) => bpm >= from)?.[0] ?? 'Grave';
}

function nearestMetronomeNumber(bpm: number): number {
  return METRONOME_NUMBERS.reduce((best, number) =>
    Math.abs(number - bpm) < Math.abs(best - bpm) ? number : best,
  );
}

/** "2:40", "160" or "2 min 40 s" as seconds; null for what is no length of time. */
export function parseDurationMaybe(text: string): Fraction | null {
  const clock = /^(\d{1,3}):([0-5]?\d)(?:[.,](\d{1,3}))?$/.exec(text.trim());
  const [, minutes, seconds, rest = ''] = clock ?? [];
  const scale = 10 ** rest.length;
  if (clock) return fraction((Number(minutes) * 60 + Number(seconds)) * scale + Number(rest || 0), scale);
  const plain = /^(\d{1,5})(?:[.,](\d{1,3}))?\s*s?$/.exec(text.trim());
  if (!plain) return null;
  const digits = plain[2] ?? '';
  return fraction(Number(plain[1]) * 10 ** digits.length + Number(digits || 0), 10 ** digits.length);
}

/** The tempo, in beats of a unit, at which so many wholes last so many seconds. */
function tempoToLast(lengthWholes: Fraction, seconds: Fraction, unitWholes: Fraction): Fraction {
  return divide(multiply(fraction(60), divide(lengthWholes, unitWholes)), seconds);
}

const PERCENTS = [100, 90, 80, 75, 70, 60, 50] as const;
const UNITS = [
  noteValue('half'),
  noteValue('quarter', 1),
  noteValue('quarter'),
  noteValue('eighth', 1),
  noteValue('eighth'),
  noteValue('sixteenth'),
];

function work(typed: Typed): Result<BenchAnswer> {
  const [tempo, meter, bars] = [typedTempo(typed), typedMeter(typed), typedCount(typed, 'bars', 1, 9999)];
  const refusal = refusalOf(tempo, meter, bars);
  if (refusal) return refusal;
  if (!tempo.ok || !meter.ok || !bars.ok) return refused('Nothing to work on');
  const rate = statedRate(tempo.value);
  const length = multiply(meterLength(meter.value), fraction(bars.value));
  const unitWholes = noteValueLength(tempo.value.unit);
  const bpm = toNumber(tempo.value.bpm);
  const wanted = (typed['lasts'] ?? '').trim();
  const seconds = wanted === '' ? null : parseDurationMaybe(wanted);
  if (wanted !== '' && (!seconds || seconds.n === 0))
    return refused(`"${wanted.slice(0, 20)}" is no length of time: write 2:40 or 160`, { field: 'lasts' });
  const filled = seconds && tempoToLast(length, seconds, unitWholes);
  const [unit, one] = [noteWords(tempo.value.unit), noteNoun(tempo.value.unit)];
  return accepted({
    says: [
      `${lasting(bars.value)} ${clockWords(secondsOf(length, rate))}; ${decimal(60 / secondsOf(meterLength(meter.value), rate), 2)} bars a minute`,
      ...(filled
        ? [
            `To last ${wanted}: ${unit} = ${decimal(toNumber(filled), 3)}, ${decimal((100 * toNumber(filled)) / bpm, 1)} % of it`,
          ]
        : []),
      `${/^e/.test(one) ? 'An' : 'A'} ${one} is ${decimal(60_000 / bpm, 2)} ms; the nearest metronome number is ${nearestMetronomeNumber(bpm)}`,
      `Often called ${nearestWord(bpm)}: that is convention, not measurement`,
    ],
    table: {
      head: ['%', ...UNITS.map(noteWords), 'ms'],
      rows: PERCENTS.map((percent) => {
        const slower = multiply(rate, fraction(percent, 100));
        return [
          String(percent),
          ...UNITS.map((value) => decimal(toNumber(bpmOf(slower, noteValueLength(value))), 2)),
          decimal((60_000 * 100) / (bpm * percent), 1),
        ];
      }),
    },
    heard: {
      piece: smallPiece('The tempo', filled ? multiply(filled, unitWholes) : rate, [{ meter: meter.value }]),
    },
    sends: sendsOf(tempo.value, filled),
  });
}

function sendsOf({ unit, bpm }: StatedTempo, filled: Fraction | null): NonNullable<BenchAnswer['sends']> {
  const stated = { unit, bpm: filled ?? bpm };
  return [
    {
      label: `${noteWords(unit)} = ${decimal(toNumber(stated.bpm), 3)} at the selected bar`,
      editFor: (_, { from }) => {
        const size = toNumber(stated.bpm);
        if (size < 1 || size > 1000) return refused(`${decimal(size, 2)} a minute cannot be played`);
        return accepted({ kind: 'setTempoMark', bar: from, mark: { atWholes: fraction(0), stated } });
      },
    },
  ];
}

function clockWords(seconds: number): string {
  const whole = Math.floor(seconds / 60);
  return `${whole}:${(seconds - 60 * whole).toFixed(2).padStart(5, '0')}`;
}

export const tempoSums: BenchTool = {
  id: 'tempo',
  name: 'Tempo',
  says: 'Beats a minute, milliseconds, how long a passage lasts, and the tempo at which it lasts as long as it must.',
  fields: [
    { id: 'tempo', label: 'Tempo', usual: 'q = 108', hint: 'q. = 66' },
    { id: 'meter', label: 'Meter', usual: '4/4', hint: '7/8 as 2+2+3' },
    { id: 'bars', label: 'Bars', usual: '64', hint: '1 to 9999' },
    { id: 'lasts', label: 'Must last', usual: '2:40', hint: '2:40 or 160, or nothing' },
  ],
  work,
};
