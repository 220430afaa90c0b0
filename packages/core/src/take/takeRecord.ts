import { barName } from '../piece/labels.ts';
import { writtenIndex, type Proof } from '../proof/proof.ts';
import type { RunPlan } from '../run/runPlan.ts';
import type { PlayedChoice } from './names.ts';
import { takeSilences, type TakeSilence } from './silences.ts';
import type { SeamVerdict, TakeAnalysis } from './takeAnalysis.ts';

/** One onset that was asked for, as it is kept: where, and how late it came; the player's own constant is taken away. */
export interface TakeOnset {
  readonly performed: number;
  /** Whole notes from its barline. */
  readonly atWholes: number;
  /** Milliseconds, late above zero; null where it was left out. */
  readonly offMs: number | null;
}

/** What was done at a seam, as it is kept. */
export interface TakeSeam extends SeamVerdict {
  /** The written bar after it. */
  readonly barIndex: number;
  /** Which of the take's onsets was the first from its anchor on. */
  readonly atOnset: number;
}

/** A take as it is kept with its run: what was measured, not the sound. */
export interface TakeRecord {
  readonly play: PlayedChoice;
  readonly constantMs: number;
  readonly spreadMs: number;
  readonly driftMsPerBar: number;
  readonly extra: number;
  readonly onsets: readonly TakeOnset[];
  readonly seams: readonly TakeSeam[];
  /** Where the click dropped out and came back; left out where it did not. */
  readonly silences?: readonly TakeSilence[];
}

/** No more is kept of one take: ten minutes of five notes a second. */
export const MOST_TAKE_ONSETS = 3000;
export const MOST_TAKE_SEAMS = 1000;

const tenth = (value: number) => Math.round(value * 10) / 10;
const thousandth = (value: number) => Math.round(value * 1000) / 1000;

/** What is kept of an analysed take. Onsets that were asked for after the last one that was played are left out. */
export function takeRecordOf(
  proof: Proof,
  play: PlayedChoice,
  analysis: TakeAnalysis,
  plan: RunPlan | null = null,
): TakeRecord {
  const last = analysis.onsets.findLastIndex(({ offMs }) => offMs !== null);
  const played = analysis.onsets.slice(0, Math.min(MOST_TAKE_ONSETS, last + 1));
  const onsets = played.map(({ asked, offMs }) => ({
    performed: asked.performed,
    atWholes: Math.round(asked.atWholes * 1e6) / 1e6,
    offMs: offMs === null ? null : tenth(offMs),
  }));
  const silences = plan ? takeSilences(proof, plan, onsets).slice(0, MOST_TAKE_SEAMS) : [];
  return {
    play,
    constantMs: tenth(analysis.constantMs),
    spreadMs: tenth(analysis.spreadMs),
    driftMsPerBar: tenth(analysis.driftMsPerBar),
    extra: analysis.extra,
    onsets,
    seams: analysis.seams
      .filter(({ atOnset }) => atOnset < played.length)
      .slice(0, MOST_TAKE_SEAMS)
      .map((seam) => ({
        ...seam,
        barIndex: writtenIndex(proof, seam.performed),
        probability: thousandth(seam.probability),
        secondProbability: thousandth(seam.secondProbability),
        effectMs: tenth(seam.effectMs),
      })),
    ...(silences.length > 0 && { silences }),
  };
}

/** How a performed bar of a take came. */
export interface TakeBar {
  /** Its name, such as "bar 12". */
  readonly name: string;
  readonly performed: number;
  /** How late on the whole, and how widely spread, in milliseconds; null where nothing was played. */
  readonly meanMs: number | null;
  readonly spreadMs: number | null;
  readonly missing: number;
}

/** A take bar after bar, in the order played. */
export function takeBars({ compiled }: Proof, { onsets }: Pick<TakeRecord, 'onsets'>): readonly TakeBar[] {
  const bars: TakeOnset[][] = [];
  for (const onset of onsets) {
    const last = bars.at(-1);
    const before = last?.at(-1);
    if (last && before?.performed === onset.performed && before.atWholes < onset.atWholes) last.push(onset);
    else bars.push([onset]);
  }
  return bars.map((inBar) => {
    const { performed } = inBar[0] as TakeOnset;
    const off = inBar.flatMap(({ offMs }) => (offMs === null ? [] : [offMs]));
    const mean = off.length > 0 ? off.reduce((sum, value) => sum + value, 0) / off.length : null;
    const squares = off.reduce((sum, value) => sum + (value - (mean ?? 0)) ** 2, 0);
    return {
      name: barName(compiled.labels, compiled.timeline.route.barIndex[performed] ?? 0),
      performed,
      meanMs: mean,
      spreadMs: off.length > 1 ? Math.sqrt(squares / (off.length - 1)) : null,
      missing: inBar.length - off.length,
    };
  });
}
