import { divide, equal, fraction, multiply, toNumber, type Fraction } from '../../fraction/fraction.ts';
import { multiplyNearest } from '../../fraction/nearest.ts';
import { formatFraction } from '../../fraction/text.ts';
import type { BarSpan, Edit } from '../../edit/edit.ts';
import type { Piece } from '../../piece/piece.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import type { StatedTempo, TempoMark } from '../../tempo/tempoMark.ts';
import { bpmOf, statedRate } from '../../tempo/tempoMark.ts';
import { parseEquivalence } from '../../tempo/text.ts';
import { noteWords } from '../../value/text.ts';
import { noteValueLength } from '../../value/noteValue.ts';
import {
  decimal,
  groupedMeter,
  refusalOf,
  roundedWords,
  typedCount,
  typedTempo,
  type BenchAnswer,
  type BenchTool,
  type Typed,
} from '../tool.ts';
import { howMany } from '../../words/howMany.ts';

/** A step of a chain: what it multiplies the tempo by, and how it was written. */
export interface ChainStep {
  readonly ratio: Fraction;
  readonly says: string;
}

/** A tempo on the way, in beats of the first one's unit. Very long chains are rounded at 1e-14. */
export interface ChainTempo {
  readonly bpm: Fraction;
  readonly isExact: boolean;
  /** The same tempo doubled or halved until it can be beaten. */
  readonly folded: Fraction;
  readonly step: ChainStep | null;
}

const MOST_STEPS = 64;

/** Every tempo of a chain, the first included: W₂ = W₁ × after / before at each step (timing.md, Tempo). */
export function chainTempi(
  start: Fraction,
  steps: readonly ChainStep[],
  beatable: Beatable,
): readonly ChainTempo[] {
  let [bpm, isExact] = [start, true];
  const tempi: ChainTempo[] = [{ bpm, isExact, folded: folded(bpm, beatable), step: null }];
  for (const step of steps) {
    const next = multiplyNearest(bpm, step.ratio);
    [bpm, isExact] = [next.value, isExact && next.isExact];
    tempi.push({ bpm, isExact, folded: folded(bpm, beatable), step });
  }
  return tempi;
}

/** From `least` up to, but not with, `below` beats a minute. */
interface Beatable {
  readonly least: number;
  readonly below: number;
}

/** A tempo halved or doubled into a range; where the range is less than an octave it may stay outside. */
export function folded(bpm: Fraction, { least, below }: Beatable): Fraction {
  let value = bpm;
  while (toNumber(value) >= below) value = divide(value, fraction(2));
  while (toNumber(value) < least && 2 * toNumber(value) < below) value = multiply(value, fraction(2));
  return value;
}

/** Ratios that an ensemble can take at one mark, the plainest first. */
const USUAL_RATIOS: readonly Fraction[] = [
  [2, 1],
  [3, 2],
  [4, 3],
  [5, 4],
  [6, 5],
  [5, 3],
  [3, 1],
  [7, 4],
  [9, 8],
  [8, 5],
].flatMap(([n = 1, d = 1]) => [fraction(n, d), fraction(d, n)]);
const MOST_SEARCHED = 4;

/**
 * The fewest usual steps from one tempo to another within an error (0.01 is one percent), the nearest of equally short ones.
 * Null where four do not do it; no steps where the tempi are that near already.
 */
export function shortestChainMaybe(from: Fraction, to: Fraction, within: number): readonly Fraction[] | null {
  const goal = toNumber(to) / toNumber(from);
  const miss = (ratio: number) => Math.abs(ratio / goal - 1);
  if (miss(1) <= within) return [];
  let reached = new Map<string, readonly Fraction[]>([['1/1', []]]);
  const seen = new Set(reached.keys());
  for (let length = 1; length <= MOST_SEARCHED; length++) {
    const next = new Map<string, readonly Fraction[]>();
    let best: { chain: readonly Fraction[]; miss: number } | null = null;
    for (const chain of reached.values()) {
      const product = chain.reduce(multiply, fraction(1));
      for (const ratio of USUAL_RATIOS) {
        const now = multiply(product, ratio);
        const name = `${now.n}/${now.d}`;
        if (seen.has(name)) continue;
        seen.add(name);
        next.set(name, [...chain, ratio]);
        const missed = miss(toNumber(now));
        if (missed <= within && (!best || missed < best.miss))
          best = { chain: [...chain, ratio], miss: missed };
      }
    }
    if (best) return best.chain;
    reached = next;
  }
  return null;
}

/** Steps as typed: "3:2", "3:2 x5" for five of them, "e. = q"; commas between. */
export function parseSteps(text: string): Result<readonly ChainStep[]> {
  const steps: ChainStep[] = [];
  for (const written of text
    .split(/[,;\n]/)
    .map((part) => part.trim())
    .filter(Boolean)) {
    const [, one = '', times = '1'] = /^(.*?)(?:\s*[x×*]\s*(\d{1,2}))?$/.exec(written) ?? [];
    const step = parseStep(one);
    if (!step.ok) return step;
    for (let count = 0; count < Number(times); count++) steps.push(step.value);
  }
  if (steps.length <= MOST_STEPS) return accepted(steps);
  return refused(`More than ${MOST_STEPS} steps: write fewer`, { field: 'steps' });
}

function parseStep(text: string): Result<ChainStep> {
  const ratio = /^(\d{1,3})\s*:\s*(\d{1,3})$/.exec(text);
  if (ratio && Number(ratio[1]) > 0 && Number(ratio[2]) > 0)
    return accepted({ ratio: fraction(Number(ratio[1]), Number(ratio[2])), says: `${ratio[1]}:${ratio[2]}` });
  const equivalence = parseEquivalence(text);
  if (!equivalence.ok)
    return refused(`"${text.slice(0, 30)}" is no step: write 3:2, 3:2 x5 or e. = q`, { field: 'steps' });
  const { before, after } = equivalence.value;
  return accepted({
    ratio: divide(noteValueLength(after), noteValueLength(before)),
    says: `${noteWords(before)} = ${noteWords(after)}`,
  });
}

/** Nearer to a whole number than this, in beats a minute, a tempo can be aimed at. */
const AIMABLE = 0.05;

function work(typed: Typed): Result<BenchAnswer> {
  const start = typedTempo(typed);
  const steps = parseSteps(typed['steps'] ?? '');
  const least = typedCount(typed, 'least', 1, 1000);
  const below = typedCount(typed, 'most', 1, 1000);
  const refusal = refusalOf(start, steps, least, below);
  if (refusal) return refusal;
  if (!start.ok || !steps.ok || !least.ok || !below.ok) return refused('Nothing to work on');
  if (below.value < 2 * least.value)
    return refused('The fastest that can be beaten must be at least twice the slowest', { field: 'most' });
  const tempi = chainTempi(start.value.bpm, steps.value, { least: least.value, below: below.value });
  const last = tempi.at(-1) as ChainTempo;
  const search = searched(typed, start.value);
  if (search && !search.ok) return search;
  return accepted({
    says: [
      `From ${formatFraction(start.value.bpm)} to ${roundedWords(last.bpm, 4)}${equal(last.bpm, last.folded) ? '' : `; beaten at ${roundedWords(last.folded, 4)}`}`,
      ...comesRound(tempi),
      ...nobodyAims(tempi),
      ...(search ? [search.value] : []),
    ],
    table: {
      head: ['step', 'exactly', 'about', 'ms a beat', 'beaten at'],
      rows: tempi.map(({ bpm, isExact, folded: beaten, step }) => [
        step?.says ?? 'start',
        isExact ? formatFraction(bpm) : `≈ ${toNumber(bpm)}`,
        decimal(toNumber(bpm), 3),
        decimal(60_000 / toNumber(bpm), 2),
        decimal(toNumber(beaten), 4),
      ]),
    },
    heard: { piece: chainPiece(start.value, tempi) },
    sends: [
      {
        label: 'Each tempo at a bar, from the selected one on',
        editFor: (piece, span) => chainEdit(piece, span, start.value, tempi),
      },
    ],
  });
}

function comesRound(tempi: readonly ChainTempo[]): readonly string[] {
  const first = tempi[0] as ChainTempo;
  const at = tempi.findIndex(({ folded: beaten }, index) => index > 0 && equal(beaten, first.folded));
  if (at < 0) return [];
  return [`Comes round after ${howMany(at, 'step')}, doubled or halved`];
}

function nobodyAims(tempi: readonly ChainTempo[]): readonly string[] {
  const missed = tempi.filter(({ folded: beaten }) => {
    const bpm = toNumber(beaten);
    return Math.abs(bpm - Math.round(bpm)) > AIMABLE;
  });
  if (missed.length === 0) return [];
  return [
    `Nobody can aim at ${missed.map(({ folded: beaten }) => decimal(toNumber(beaten), 2)).join(', ')}: take them from the note that stays`,
  ];
}

/** The shortest way to a wanted tempo, where one is asked for. */
function searched(typed: Typed, start: StatedTempo): Result<string> | null {
  if ((typed['target'] ?? '').trim() === '') return null;
  const target = typedTempo(typed, 'target');
  if (!target.ok) return target;
  const goal = bpmOf(statedRate(target.value), noteValueLength(start.unit));
  const chain = shortestChainMaybe(start.bpm, goal, 0.01);
  if (!chain) return accepted(`No four usual steps lead to ${decimal(toNumber(goal), 2)} within one percent`);
  if (chain.length === 0) return accepted(`${decimal(toNumber(goal), 2)} is within one percent already`);
  const reached = chain.reduce(multiply, start.bpm);
  return accepted(
    `To ${decimal(toNumber(goal), 2)}: ${chain.map(({ n, d }) => `${n}:${d}`).join(', then ')}, which gives ${decimal(toNumber(reached), 3)}`,
  );
}

const FOUR = groupedMeter([4], 4);

/** Two bars of four at every tempo of the chain, folded so that they can be beaten. */
function chainPiece(start: StatedTempo, tempi: readonly ChainTempo[]): Piece {
  const bars = tempi.flatMap(({ folded: bpm }) => {
    const mark: TempoMark = { atWholes: fraction(0), stated: { unit: start.unit, bpm } };
    return [
      { meter: FOUR, tempoMarks: [mark] },
      { meter: FOUR, tempoMarks: [] },
    ];
  });
  return { title: 'A chain of tempi', subtitle: '', composer: '', bars };
}

function chainEdit(
  piece: Piece,
  { from }: BarSpan,
  start: StatedTempo,
  tempi: readonly ChainTempo[],
): Result<Edit> {
  const room = piece.bars.length - from;
  if (room < tempi.length)
    return refused(
      `There are ${tempi.length} tempi and only ${howMany(room, 'bar')} from here on: select an earlier bar`,
    );
  const unplayable = tempi.find(({ bpm }) => toNumber(bpm) < 1 || toNumber(bpm) > 1000);
  if (unplayable) return refused(`${decimal(toNumber(unplayable.bpm), 2)} a minute cannot be played`);
  const bars = piece.bars.map((bar, index) => {
    const tempo = tempi[index - from];
    if (!tempo) return bar;
    const mark: TempoMark = { atWholes: fraction(0), stated: { unit: start.unit, bpm: tempo.bpm } };
    return { ...bar, tempoMarks: [mark, ...bar.tempoMarks.filter(({ atWholes }) => atWholes.n > 0)] };
  });
  return accepted({ kind: 'replacePiece', piece: { ...piece, bars }, how: 'A chain of tempi' });
}

export const tempoChain: BenchTool = {
  id: 'chain',
  name: 'Tempo chain',
  says: 'One tempo after another, each by a note that stays or a ratio: exact, rounded, and folded until it can be beaten.',
  fields: [
    { id: 'tempo', label: 'From', usual: 'q = 80', hint: 'q = 80' },
    { id: 'steps', label: 'Steps', usual: '3:2 x5', hint: '3:2, e. = q, 5:4 x3' },
    { id: 'least', label: 'Beaten from', usual: '50', hint: 'beats a minute' },
    { id: 'most', label: 'to below', usual: '100', hint: 'beats a minute' },
    { id: 'target', label: 'Shortest way to', usual: '', hint: 'q = 144, or nothing' },
  ],
  work,
};
