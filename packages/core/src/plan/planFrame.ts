import { beginPercent, mostPercent } from './beginning.ts';
import type { PieceToPlan, PlanItem, PlanRequest } from './plan.ts';
import { DAY_MS } from './spacing.ts';

export type Untimed = Omit<PlanItem, 'startMinute'>;

const SHORT_REHEARSAL_MINUTES = 20;
/** So shortly before a concert pieces are played as they will be there, and more often. */
const LAST_DAYS = 10;
const LAST_DAYS_SHARE = 0.4;
/** A piece is not played from end to end more often than this in one rehearsal. */
const MOST_TIMES = 3;

/** A piece that is played from end to end, once or more often. */
interface Whole {
  readonly piece: PieceToPlan;
  readonly times: number;
  /** Of the printed tempo. */
  readonly percent: number;
}

/** What stands around the work on places, in minutes. */
interface Frame {
  readonly warmUp: number;
  readonly wholes: readonly Whole[];
  readonly wholeMinutes: number;
  readonly rests: number;
}

export const wholeKey = ({ pieceId }: PieceToPlan) => `${pieceId}:whole`;

export function frameOf(request: PlanRequest, total: number): Frame {
  const { weights, wishes, already } = request;
  // What the first part of a rehearsal leaves is not a rehearsal of its own.
  const ofAll = total + already.minutes;
  const isShort = ofAll < SHORT_REHEARSAL_MINUTES;
  const warmUp = isShort || wishes.skipped.includes('warm-up') ? 0 : Math.min(weights.warmUpMinutes, total);
  const rests =
    weights.restEveryMinutes > 0
      ? Math.max(
          0,
          Math.ceil((total + already.sinceRestMinutes) / (weights.restEveryMinutes + weights.restMinutes)) -
            1,
        )
      : 0;
  const left = Math.max(0, total - warmUp - rests * weights.restMinutes);
  const wholes = wholesOf(request, isShort ? 0 : ofAll, left);
  return { warmUp, wholes, wholeMinutes: wholes.reduce((sum, whole) => sum + wholeMinutes(whole), 0), rests };
}

/**
 * Pieces that are played from end to end: those that were pinned, then those that have waited longest, as long as there is room
 * for them; where there is room yet, the same ones once more.
 */
function wholesOf(request: PlanRequest, ofAll: number, most: number): readonly Whole[] {
  const { pieces, wishes, weights, already } = request;
  const share = isSoon(request) ? Math.max(weights.wholeShare, LAST_DAYS_SHARE) : weights.wholeShare;
  const wanted = pieces.filter((piece) => !wishes.skipped.includes(wholeKey(piece)));
  const isPinned = (piece: PieceToPlan) => wishes.pinned.includes(wholeKey(piece));
  const inOrder = [
    ...wanted.filter(isPinned),
    ...wanted
      .filter((piece) => !isPinned(piece))
      .sort((a, b) => (a.lastWholeAtMs ?? 0) - (b.lastWholeAtMs ?? 0)),
  ];
  const chosen = new Map<PieceToPlan, Whole>();
  let left = Math.min(most, Math.floor(ofAll * share - already.wholeMinutes));
  let pinnedLeft = most;
  for (let times = 1; times <= MOST_TIMES; times++)
    for (const piece of inOrder) {
      const percent = chosen.get(piece)?.percent ?? wholePercent(piece, request);
      const before = wholeMinutesMaybe(chosen.get(piece));
      const minutes = wholeMinutes({ piece, times, percent }) - before;
      // What is pinned is played once, also where it takes more than its share.
      const hasRoom = times === 1 && isPinned(piece) ? minutes <= pinnedLeft : minutes <= left;
      if (!hasRoom || (times > 1 && !chosen.has(piece))) continue;
      chosen.set(piece, { piece, times, percent });
      left -= minutes;
      pinnedLeft -= minutes;
    }
  return [...chosen.values()];
}

function isSoon({ concertAtMs, atMs }: PlanRequest): boolean {
  return concertAtMs !== null && concertAtMs - atMs <= LAST_DAYS * DAY_MS;
}

/** As the director has set it; else the tempo at which half of its places hold, and near a concert the concert's. */
function wholePercent(piece: PieceToPlan, request: PlanRequest): number {
  if (piece.practicePercent !== null || isSoon(request) || piece.seams.length === 0)
    return mostPercent(piece);
  const holds = piece.seams
    .map((seam) => beginPercent(seam, mostPercent(piece), request.atMs))
    .sort((a, b) => a - b);
  return holds[(holds.length - 1) >> 1] ?? mostPercent(piece);
}

/** So often through, with a minute to begin and to say a word. */
function wholeMinutes({ piece, times, percent }: Whole): number {
  return Math.ceil((times * piece.lengthSeconds) / 60 / (percent / 100)) + 1;
}

const wholeMinutesMaybe = (whole: Whole | undefined) => (whole ? wholeMinutes(whole) : 0);

const TIMES = ['', '', ', twice', ', three times'];

/** Warm-up first, rests between, whole pieces last. */
export function withFrame(
  places: readonly Untimed[],
  frame: Frame,
  { weights, wishes, already }: PlanRequest,
): readonly Untimed[] {
  const plain = { pieceId: null, bars: [], percent: 100, isPinned: false };
  const items: Untimed[] = [];
  if (frame.warmUp > 0)
    items.push({
      ...plain,
      key: 'warm-up',
      kind: 'warm-up',
      title: 'Off the instruments: speak and clap the first place',
      minutes: frame.warmUp,
      why: ['voices and hands first'],
    });
  let [since, rests] = [already.sinceRestMinutes, 0];
  const add = (item: Untimed) => {
    if (rests < frame.rests && since > 0 && since + item.minutes > weights.restEveryMinutes) {
      rests++;
      since = 0;
      items.push({
        ...plain,
        key: `rest ${already.rests + rests}`,
        kind: 'rest',
        title: 'Rest: lips, hands and ears',
        minutes: weights.restMinutes,
        why: [`${weights.restEveryMinutes} minutes of playing`],
      });
    }
    items.push(item);
    since += item.minutes;
  };
  places.forEach(add);
  for (const whole of frame.wholes) {
    const { piece, times, percent } = whole;
    const key = wholeKey(piece);
    add({
      ...plain,
      key,
      kind: 'whole',
      pieceId: piece.pieceId,
      title: `${piece.title}, from end to end${TIMES[times] ?? ''}`,
      minutes: wholeMinutes(whole),
      percent,
      why: [
        piece.practicePercent !== null
          ? 'the tempo you set'
          : percent < piece.goalPercent && 'where most places hold',
        piece.lastWholeAtMs === null ? 'not played through yet' : 'longest ago',
      ].filter((word) => word !== false),
      isPinned: wishes.pinned.includes(key),
    });
  }
  return items;
}
