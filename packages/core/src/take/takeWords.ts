import type { Explanation } from './names.ts';
import type { TakeRecord, TakeSeam } from './takeRecord.ts';

/** What helps against a mistake, one key away from being told of it. */
export type Remedy = 'none' | 'trainer' | 'carry' | 'slower' | 'off' | 'again';

interface ExplanationWords {
  /** "filled the bar up" */
  readonly did: string;
  /** What is heard in it, in a sentence. */
  readonly means: string;
  readonly remedy: Remedy;
  /** What to do next. */
  readonly next: string;
}

/** What each explanation is called, and what helps. */
export const EXPLANATION_WORDS: Readonly<Record<Explanation, ExplanationWords>> = {
  held: {
    did: 'held',
    means: 'It landed where it should.',
    remedy: 'none',
    next: 'Ready for a faster rung, or for more bars around it.',
  },
  early: {
    did: 'came early',
    means: 'Everything from here on is ahead by the same.',
    remedy: 'carry',
    next: 'Run it with only the carry clicking, and wait for it.',
  },
  late: {
    did: 'came late',
    means: 'Everything from here on is behind by the same.',
    remedy: 'carry',
    next: 'Run it with only the carry clicking, and lead with it.',
  },
  'old-pulse': {
    did: 'kept the old pulse',
    means: 'The beat before went on over the seam.',
    remedy: 'carry',
    next: 'Run it with the carry alone: it is what lasts through the seam.',
  },
  'old-small-note': {
    did: 'kept the old small note',
    means: 'The small notes went on as before under the new beat.',
    remedy: 'carry',
    next: 'Run it with the carry alone, at a slower rung.',
  },
  'turned-round': {
    did: 'turned the equivalence round',
    means: 'The new tempo was taken the other way about.',
    remedy: 'off',
    next: 'Say which note before is which note after, and speak it first.',
  },
  'filled-up': {
    did: 'filled the bar up',
    means: 'The odd bar was played as long as a full one.',
    remedy: 'trainer',
    next: 'Play it against the full bar: the trap, then right.',
  },
  'cut-short': {
    did: 'cut the bar short',
    means: 'The long bar was played as a full one.',
    remedy: 'trainer',
    next: 'Play it against the full bar: the trap, then right.',
  },
  triplet: {
    did: 'made a triplet',
    means: 'The last group of three was squeezed into a beat.',
    remedy: 'trainer',
    next: 'Play the trap on purpose, then right.',
  },
  'lost-beat': {
    did: 'lost a beat',
    means: 'From here on everything is a beat ahead.',
    remedy: 'off',
    next: 'Speak the count through it, off the instruments.',
  },
  'gained-beat': {
    did: 'gained a beat',
    means: 'From here on everything is a beat behind.',
    remedy: 'off',
    next: 'Speak the count through it, off the instruments.',
  },
  rushed: {
    did: 'rushed',
    means: 'It ran ahead from the seam on.',
    remedy: 'slower',
    next: 'A slower rung, with the small notes clicking.',
  },
  dragged: {
    did: 'dragged',
    means: 'It fell behind from the seam on.',
    remedy: 'slower',
    next: 'A slower rung, with the small notes clicking.',
  },
  'settled-in': {
    did: 'settled in',
    means: 'It was off at first and found the beat within the bar.',
    remedy: 'again',
    next: 'Once more with the click only up to the seam.',
  },
  followed: {
    did: 'followed',
    means: 'The first beat came as late as one reacts: listening, not counting.',
    remedy: 'again',
    next: 'Once more with the click only up to the seam: then there is nothing to follow.',
  },
  'too-few': {
    did: 'too few onsets',
    means: 'Not enough was played on either side to tell.',
    remedy: 'again',
    next: 'Play along from a bar before it.',
  },
};

/** From here on one thing is said and not two; how sure it is stands beside it. */
const SURE = 0.7;

/** "filled the bar up, 118 ms late"; "came 84 ms early"; "either rushed or came early, 61 ms early"; "held". */
export function verdictWords({ explanation, probability, second, effectMs }: TakeSeam): string {
  const { did } = EXPLANATION_WORDS[explanation];
  if (explanation === 'held' || explanation === 'too-few') return did;
  const size = Math.abs(effectMs);
  const far = size < 1000 ? `${Math.round(size)} ms` : `${(size / 1000).toFixed(1)} s`;
  const by = `${far} ${effectMs < 0 ? 'early' : 'late'}`;
  const isOne = probability >= SURE || !second || second === 'held' || second === 'too-few';
  if (isOne && (explanation === 'early' || explanation === 'late')) return `came ${by}`;
  if (isOne) return `${did}, ${by}`;
  return `either ${did} or ${EXPLANATION_WORDS[second].did}, ${by}`;
}

/** Of all times a seam was passed, and how often it was held. */
export interface SeamTally {
  readonly barIndex: number;
  readonly passed: number;
  readonly held: number;
  /** The passing that says most: the mistake heard most often, at its largest; one that was held where all were. */
  readonly shown: TakeSeam;
}

/** The seams of a take by written bar, what went wrong first and by how much; those nobody could tell last. */
export function seamTallies({ seams }: Pick<TakeRecord, 'seams'>): readonly SeamTally[] {
  const byBar = new Map<number, TakeSeam[]>();
  for (const seam of seams) byBar.set(seam.barIndex, [...(byBar.get(seam.barIndex) ?? []), seam]);
  const tallies = [...byBar].flatMap(([barIndex, passings]): SeamTally[] => {
    const heard = passings.filter(({ explanation }) => explanation !== 'too-few');
    const wrong = heard.filter(({ explanation }) => explanation !== 'held');
    const shown = commonest(wrong) ?? heard[0] ?? passings[0];
    return shown ? [{ barIndex, passed: heard.length, held: heard.length - wrong.length, shown }] : [];
  });
  const weight = ({ passed, held, shown }: SeamTally) =>
    passed === 0 ? -1 : passed - held === 0 ? 0 : Math.abs(shown.effectMs);
  return tallies.sort((a, b) => weight(b) - weight(a) || a.barIndex - b.barIndex);
}

function commonest(wrong: readonly TakeSeam[]): TakeSeam | undefined {
  const often = (seam: TakeSeam) =>
    wrong.filter(({ explanation }) => explanation === seam.explanation).length;
  return [...wrong].sort((a, b) => often(b) - often(a) || Math.abs(b.effectMs) - Math.abs(a.effectMs))[0];
}

/** What person and device add, in words: people tap a little early, which is no mistake. */
export function constantWords({ constantMs }: Pick<TakeRecord, 'constantMs'>): string {
  const size = Math.abs(Math.round(constantMs));
  if (size < 5) return 'on the click';
  if (constantMs < 0) return `${size} ms before the click all along, as most people are: no mistake`;
  return `${size} ms after the click all along: the way from hand to program; taken away`;
}
