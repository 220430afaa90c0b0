import { fraction, multiply, toNumber } from '../../fraction/fraction.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import { statedRate } from '../../tempo/tempoMark.ts';
import { noteValueLength, type NoteValue } from '../../value/noteValue.ts';
import { noteNoun, notesWords, noteWords, parseNoteValue } from '../../value/text.ts';
import {
  decimal,
  groupedMeter,
  refusalOf,
  smallPiece,
  typedTempo,
  type BenchAnswer,
  type BenchTool,
  type Typed,
} from '../tool.ts';

/** How fast a way of playing goes, in notes a second: what most can keep up, and where most stop. */
interface PlayingLimit {
  readonly name: string;
  readonly easy: number;
  readonly most: number;
}

/**
 * Usual practice as teachers state it, for players with some years behind them, over a few bars; not measured. Every
 * ensemble has its own: a figure typed in its place holds.
 */
const PLAYING_LIMITS: readonly PlayingLimit[] = [
  { name: 'single tongue', easy: 7, most: 9 },
  { name: 'double tongue', easy: 10, most: 13 },
  { name: 'slurred fingers', easy: 11, most: 14 },
  { name: 'bow, one stroke a note', easy: 8, most: 11 },
  { name: 'plucked, alternating', easy: 8, most: 12 },
  { name: 'sticks, both hands', easy: 11, most: 15 },
  { name: 'one hand on a drum', easy: 6, most: 8 },
  { name: 'one bell or mallet', easy: 3, most: 5 },
  { name: 'syllables sung', easy: 6, most: 8 },
  { name: 'clapped', easy: 5, most: 7 },
  { name: 'stepped', easy: 2.5, most: 3.5 },
];

/** Notes a second of a value at a rate in whole notes a minute. */
function notesPerSecond(rate: ReturnType<typeof statedRate>, value: NoteValue): number {
  return toNumber(rate) / toNumber(noteValueLength(value)) / 60;
}

const verdict = (rate: number, { easy, most }: PlayingLimit): string =>
  rate <= easy ? 'goes' : rate <= most ? 'at the limit' : 'too fast';

/** "single tongue 8-10, clapped 6": limits of the ensemble's own in place of the usual ones. */
function ownLimits(text: string): Result<readonly PlayingLimit[]> {
  const own: PlayingLimit[] = [];
  for (const written of text
    .split(/[,;]\s*(?=[a-z])/i)
    .map((part) => part.trim())
    .filter(Boolean)) {
    const [, name = '', easy = '', most = easy] =
      /^(.+?)\s+(\d+(?:\.\d+)?)(?:\s*-\s*(\d+(?:\.\d+)?))?$/.exec(written) ?? [];
    if (!name || Number(easy) <= 0 || Number(most) < Number(easy))
      return refused(`"${written.slice(0, 40)}" is no limit: write "single tongue 8-10"`, { field: 'own' });
    own.push({ name: name.toLowerCase(), easy: Number(easy), most: Number(most) });
  }
  const names = new Set(own.map(({ name }) => name));
  return accepted([...own, ...PLAYING_LIMITS.filter(({ name }) => !names.has(name))]);
}

function work(typed: Typed): Result<BenchAnswer> {
  const [tempo, note, all] = [
    typedTempo(typed),
    parseNoteValue(typed['note'] ?? ''),
    ownLimits(typed['own'] ?? ''),
  ];
  const refusal = refusalOf(tempo, note, all);
  if (refusal) return refusal;
  if (!tempo.ok || !note.ok || !all.ok) return refused('Nothing to work on');
  const rate = statedRate(tempo.value);
  const speed = notesPerSecond(rate, note.value);
  const limits = all.value;
  const bpmAt = (notes: number) =>
    (notes * 60 * toNumber(noteValueLength(note.value))) / toNumber(noteValueLength(tempo.value.unit));
  const fits = limits.filter((limit) => speed <= limit.easy).map(({ name }) => name);
  const [unit, many] = [noteWords(tempo.value.unit), decimal(speed, 2)];
  return accepted({
    says: [
      `${many} ${many === '1' ? noteNoun(note.value) : notesWords(note.value)} a second, ${decimal(1000 / speed, 1)} ms each`,
      fits.length > 0 ? `Goes well: ${fits.join(', ')}` : 'Nothing of this goes well at this tempo',
      'Usual practice as teachers state it, not measured: type your own where your players differ',
    ],
    table: {
      head: ['how', 'easy, notes a second', 'at most', 'here', `easy up to ${unit} =`],
      rows: limits.map((limit) => [
        limit.name,
        decimal(limit.easy, 1),
        decimal(limit.most, 1),
        verdict(speed, limit),
        decimal(bpmAt(limit.easy), 1),
      ]),
    },
    heard: { piece: smallPiece('Small notes', rate, [smallNotes(note.value)]), soundsRhythm: true },
    sends: [],
  });
}

/** A bar of the notes, eight of them. */
function smallNotes(value: NoteValue) {
  const length = multiply(noteValueLength(value), fraction(8));
  const unit = Math.max(4, length.d);
  return {
    meter: groupedMeter([(length.n * unit) / length.d], unit),
    rhythm: Array.from({ length: 8 }, () => ({ value })),
  };
}

export const limits: BenchTool = {
  id: 'limits',
  name: 'Speed',
  says: 'Whether small notes at a tempo can still be tongued, bowed, sung, clapped or stepped, and up to which tempo.',
  fields: [
    { id: 'tempo', label: 'Tempo', usual: 'q = 132', hint: 'q = 132' },
    { id: 'note', label: 'Notes', usual: 's', hint: 's, e3, dotted eighth' },
    { id: 'own', label: 'Our own limits', usual: '', hint: 'single tongue 8-10, clapped 6' },
  ],
  work,
};
