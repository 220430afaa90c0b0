import { fraction, toNumber, type Fraction } from '../../fraction/fraction.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import { rhythmLength, rhythmOnsets, type Rhythm, type RhythmNote } from '../../rhythm/rhythm.ts';
import { formatRhythm, parseRhythm } from '../../rhythm/text.ts';
import { barLength } from '../../piece/piece.ts';
import { secondsOf, statedRate } from '../../tempo/tempoMark.ts';
import { noteValueLength, singleNoteMaybe } from '../../value/noteValue.ts';
import {
  decimal,
  groupedMeter,
  refusalOf,
  smallPiece,
  typedTempo,
  type TappedNote,
  type BenchAnswer,
  type BenchTool,
  type Typed,
} from '../tool.ts';

/** Parts of a beat that a rhythm is fitted onto, the plainest first. */
const GRIDS = [1, 2, 3, 4, 5, 6, 7, 8] as const;
const MOST_ONSETS = 64;
/** A finer grid is believed only where a coarser one misses by more than a person does. */
const HUMAN_MS = 25;

/** Onsets on one grid: which steps they fall on, and how late (or, negative, early) each is. */
export interface GridFit {
  readonly partsABeat: number;
  readonly steps: readonly number[];
  readonly lateMs: readonly number[];
  readonly rmsMs: number;
  readonly mostMs: number;
}

/** Onsets, in milliseconds from the first, on the nearest steps of a grid; none of two shares a step if it can be helped. */
export function fitOnGrid(onsetsMs: readonly number[], beatMs: number, partsABeat: number): GridFit {
  const stepMs = beatMs / partsABeat;
  const steps = onsetsMs.map((onset) => Math.round(onset / stepMs));
  const lateMs = onsetsMs.map((onset, index) => onset - (steps[index] ?? 0) * stepMs);
  const rmsMs = Math.sqrt(lateMs.reduce((sum, late) => sum + late ** 2, 0) / Math.max(1, lateMs.length));
  return { partsABeat, steps, lateMs, rmsMs, mostMs: Math.max(0, ...lateMs.map(Math.abs)) };
}

/** Every grid, the best first: the coarsest on which nothing is farther off than people are, else the one that misses least for how fine it is. */
export function gridFits(onsetsMs: readonly number[], beatMs: number): readonly GridFit[] {
  const fits = GRIDS.map((parts) => fitOnGrid(onsetsMs, beatMs, parts));
  const collides = ({ steps }: GridFit) => new Set(steps).size < steps.length;
  // Onsets anywhere miss a grid by its step over the square root of twelve, on average.
  const byChance = ({ partsABeat }: GridFit) => beatMs / partsABeat / Math.sqrt(12);
  const cost = (fit: GridFit) =>
    (collides(fit) ? 100 : 0) +
    (fit.mostMs <= HUMAN_MS && fit.rmsMs < 0.6 * byChance(fit)
      ? fit.partsABeat / 100
      : 1 + fit.rmsMs / byChance(fit));
  return [...fits].sort((a, b) => cost(a) - cost(b));
}

/** How a pair of notes shares a beat, long over short: 1 straight, 2 a triplet's, 3 dotted. Null without pairs. */
export function swingRatioMaybe(onsetsMs: readonly number[], beatMs: number): number | null {
  const ratios = onsetsMs.flatMap((onset, index) => {
    const beat = Math.round(onset / beatMs);
    const [next, after] = [onsetsMs[index + 1], onsetsMs[index + 2]];
    const isOnBeat = Math.abs(onset - beat * beatMs) < beatMs / 6;
    if (!isOnBeat || next === undefined || next - onset > 0.9 * beatMs) return [];
    const end = after !== undefined && Math.abs(after - onset - beatMs) < beatMs / 6 ? after : onset + beatMs;
    const short = end - next;
    return short > 0 && end - onset > 0.7 * beatMs ? [(next - onset) / short] : [];
  });
  return ratios.length === 0 ? null : ratios.reduce((sum, ratio) => sum + ratio, 0) / ratios.length;
}

/** What is usually said of a swing ratio; conventions differ. */
function swingWords(ratio: number): string {
  if (ratio < 0.9) return 'the first note is the shorter one';
  if (ratio < 1.15) return 'straight';
  if (ratio < 1.7) return 'lightly swung';
  if (ratio < 2.4) return 'swung as in triplets';
  return 'swung hard, nearly dotted';
}

function isTimes(text: string): boolean {
  return /^[\d.,\s!]+$/.test(text);
}

/** What was typed: milliseconds "0 210 400", proportions "2:1:1" of a whole number of beats, or notes "e. s q". */
function typedOnsets(text: string, beatMs: number, rate: Fraction): Result<readonly number[]> {
  const trimmed = text.trim();
  if (/^\d+(\.\d+)?(\s*:\s*\d+(\.\d+)?)+$/.test(trimmed)) {
    const shares = trimmed.split(':').map(Number);
    const total = shares.reduce((sum, share) => sum + share, 0);
    if (total <= 0) return refused('The proportions make nothing', { field: 'onsets' });
    let before = 0;
    const perShare = (beatMs * Math.max(1, Math.round(shares.length / 3))) / total;
    return accepted(shares.map((share) => ((before += share) - share) * perShare));
  }
  if (isTimes(trimmed)) {
    const times = trimmed.split(/[\s,]+/).map((time) => Number(time.replace('!', '')));
    const isRising = times.every(
      (time, index) => Number.isFinite(time) && (index === 0 || time > (times[index - 1] ?? 0)),
    );
    if (times.length < 2 || times.length > MOST_ONSETS || !isRising)
      return refused(`Write 2 to ${MOST_ONSETS} times in milliseconds, each later than the one before`, {
        field: 'onsets',
      });
    return accepted(times.map((time) => time - (times[0] ?? 0)));
  }
  const rhythm = parseRhythm(trimmed);
  if (!rhythm.ok) return rhythm;
  const onsets = rhythmOnsets(rhythm.value).map((at) => 1000 * secondsOf(at, rate));
  return onsets.length > 1 ? accepted(onsets) : refused('Write at least two notes', { field: 'onsets' });
}

/** The notes of a fit, each as long as until the next, the last to the end of its beat; null where no notes write it. */
function rhythmOfMaybe({ steps, partsABeat }: GridFit, beatWholes: Fraction): Rhythm | null {
  const last = steps.at(-1) ?? 0;
  const end = (Math.floor(last / partsABeat) + 1) * partsABeat;
  const notes: RhythmNote[] = [];
  for (const [index, step] of steps.entries()) {
    const length = (steps[index + 1] ?? end) - step;
    if (length <= 0) continue;
    const value = singleNoteMaybe(fraction(length * beatWholes.n, partsABeat * beatWholes.d));
    if (!value) return null;
    notes.push({ value });
  }
  return notes;
}

function work(typed: Typed): Result<BenchAnswer> {
  const tempo = typedTempo(typed);
  const refusal = refusalOf(tempo);
  if (refusal) return refusal;
  if (!tempo.ok) return refused('Nothing to work on');
  const rate = statedRate(tempo.value);
  const beatWholes = noteValueLength(tempo.value.unit);
  const beatMs = 60_000 / toNumber(tempo.value.bpm);
  const onsets = typedOnsets(typed['onsets'] ?? '', beatMs, rate);
  if (!onsets.ok) return onsets;
  const fits = gridFits(onsets.value, beatMs);
  const best = fits[0] as GridFit;
  const swing = swingRatioMaybe(onsets.value, beatMs);
  const rhythm = rhythmOfMaybe(best, beatWholes);
  return accepted({
    says: [
      `${best.partsABeat === 1 ? 'On the beat' : `${best.partsABeat} to a beat`}: ${decimal(best.rmsMs, 1)} ms off on average, at most ${decimal(best.mostMs, 1)}`,
      ...(rhythm ? [`Written: ${formatRhythm(rhythm)}`] : []),
      ...(swing === null ? [] : [`Long to short is ${decimal(swing, 2)} to 1: ${swingWords(swing)}`]),
    ],
    table: {
      head: ['note', 'ms', ...GRIDS.map((parts) => `off in ${parts}`)],
      rows: onsets.value.map((onset, index) => [
        String(index + 1),
        decimal(onset, 1),
        ...GRIDS.map((parts) => decimal(fitOnGrid(onsets.value, beatMs, parts).lateMs[index] ?? 0, 1)),
      ]),
    },
    chart: {
      says: `Off the grid of ${best.partsABeat}`,
      names: onsets.value.map((_, index) => String(index + 1)),
      lateMs: best.lateMs,
    },
    ...(rhythm && { heard: { ...heardOf(rhythm, rate), ...tappedIn(typed['onsets'] ?? '', onsets.value) } }),
    ...(rhythm && {
      sends: [
        {
          label: 'These notes in the selected bar',
          editFor: (piece, { from }) => {
            const bar = piece.bars[from];
            const misses = bar && toNumber(barLength(bar)) - toNumber(rhythmLength(rhythm));
            if (misses !== 0)
              return refused('These notes do not fill the selected bar: choose one as long as they are');
            return accepted({ kind: 'setRhythm', bar: from, rhythm });
          },
        },
      ],
    }),
  });
}

/** As it was played, where times were typed or tapped rather than notes. */
function tappedIn(text: string, onsetsMs: readonly number[]): { readonly tapped?: readonly TappedNote[] } {
  return isTimes(text.trim()) ? { tapped: onsetsMs.map((ms) => ({ ms, isStrong: false })) } : {};
}

function heardOf(rhythm: Rhythm, rate: Fraction): NonNullable<BenchAnswer['heard']> {
  const length = rhythmLength(rhythm);
  const unit = Math.max(4, length.d);
  const meter = groupedMeter([(length.n * unit) / length.d], unit);
  return { piece: smallPiece('The rhythm', rate, [{ meter, rhythm }]), soundsRhythm: true };
}

export const fit: BenchTool = {
  id: 'fit',
  name: 'Fit',
  says: 'A rhythm, typed or tapped, onto grids: how far each note is off, which grid it is, how it swings, how to write it.',
  fields: [
    {
      id: 'onsets',
      label: 'Notes',
      usual: '0 333 500 833 1000',
      hint: 'milliseconds, 2:1, or e. s q',
      takesTaps: true,
    },
    { id: 'tempo', label: 'Tempo', usual: 'q = 120', hint: 'q = 120' },
  ],
  work,
};
