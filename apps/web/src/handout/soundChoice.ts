import type { SoundWishes } from '@anchorbeat/audio';
import {
  ladderOf,
  PLAIN_DRILL,
  PLAIN_LADDER,
  seamPlace,
  sectionsOf,
  type ClickChoice,
  type Piece,
  type Proof,
  type SoundExtent,
} from '@anchorbeat/core';
import { fileNameOf } from '@anchorbeat/formats';
import type { SoundOrder } from '../files/fileWork.ts';

export const SOUND_EXTENTS = [
  'whole piece',
  'count-off alone',
  'one seam',
  'its ladder',
  'all pieces',
] as const;
type SoundExtentChoice = (typeof SOUND_EXTENTS)[number];

/** What the form for sound holds. */
export interface SoundChoice {
  readonly wishes: SoundWishes;
  readonly extent: SoundExtentChoice;
  /** The written bar after the seam; null for the first seam. */
  readonly seamBar: number | null;
  readonly rounds: number;
  readonly pauseSeconds: number;
  /** What each section hears, where every one gets a file of its own; null for one file for all. */
  readonly heardBy: Readonly<Record<string, ClickChoice>> | null;
}

export const PLAIN_SOUND: SoundChoice = {
  wishes: {
    format: 'mp3',
    sampleRate: 44_100,
    bits: 16,
    percent: 100,
    clickOn: 'pulse',
    spoken: 'count-off',
    channels: 'one',
  },
  extent: 'whole piece',
  seamBar: null,
  rounds: 4,
  pauseSeconds: 10,
  heardBy: null,
};

/** Whether what clicks can be chosen: a count-off is one, and the rungs of a ladder say it themselves. */
export function asksWhatClicks({ extent }: SoundChoice): boolean {
  return extent !== 'count-off alone' && extent !== 'its ladder';
}

/** Whether each section gets a file of its own. */
export function isBySection(choice: SoundChoice): boolean {
  return choice.heardBy !== null && asksWhatClicks(choice);
}

/** Written bars before which there is a seam, in order, each once. */
export function seamBars({ compiled }: Proof): readonly number[] {
  const bars = compiled.seams.map(({ performed }) => compiled.timeline.route.barIndex[performed] ?? 0);
  return [...new Set(bars)].sort((a, b) => a - b);
}

/** The files that a choice stands for. `shelf` is every piece in its order. */
export function soundOrders(
  proof: Proof,
  shelf: readonly Piece[],
  choice: SoundChoice,
): readonly SoundOrder[] {
  const { wishes, pauseSeconds, heardBy } = choice;
  const name = orderName(proof, choice);
  const order = (title: string, clickOn: ClickChoice): SoundOrder => ({
    fileName: `${fileNameOf(title)}.${wishes.format}`,
    parts:
      choice.extent === 'all pieces'
        ? shelf.map((piece) => ({ piece, extent: { kind: 'piece' } }))
        : [{ piece: proof.piece, extent: extentOf(proof, choice) }],
    pauseSeconds,
    wishes: { ...wishes, clickOn },
  });
  if (!heardBy || !isBySection(choice)) return [order(name, wishes.clickOn)];
  return sectionsOf(proof.piece).map((section) =>
    order(`${name} – ${section}`, heardBy[section] ?? wishes.clickOn),
  );
}

/** What the file, or the folder of files, is called. */
export function orderName(proof: Proof, choice: SoundChoice): string {
  const { title } = proof.piece;
  const seam = proof.compiled.labels[seamOf(proof, choice)] ?? '';
  switch (choice.extent) {
    case 'whole piece':
      return title;
    case 'count-off alone':
      return `${title}, count-off`;
    case 'one seam':
      return `${title}, into ${seam}`;
    case 'its ladder':
      return `${title}, ladder into ${seam}`;
    case 'all pieces':
      return 'Programme';
  }
}

function seamOf(proof: Proof, { seamBar }: SoundChoice): number {
  return seamBar ?? seamBars(proof)[0] ?? 0;
}

function extentOf(proof: Proof, choice: SoundChoice): SoundExtent {
  const { extent, rounds, wishes } = choice;
  if (extent === 'count-off alone') return { kind: 'count-off' };
  if (extent !== 'one seam' && extent !== 'its ladder') return { kind: 'piece' };
  const place = seamPlace(proof.compiled, seamOf(proof, choice));
  if (extent === 'one seam') return { kind: 'drill', place, rounds };
  const drill = { ...PLAIN_DRILL, percent: wishes.percent, spoken: wishes.spoken };
  return { kind: 'ladder', place, rounds, rungs: ladderOf(proof, place, PLAIN_LADDER, drill) };
}
