import { beginPercent, mostPercent } from './beginning.ts';
import {
  NO_WISHES,
  NOTHING_PLAYED,
  PLAIN_WEIGHTS,
  type PieceToPlan,
  type Plan,
  type PlanItem,
  type PlanRequest,
  type SeamToPlan,
} from './plan.ts';
import { placeKey } from './placeKey.ts';
import { frameOf, wholeKey, withFrame, type Untimed } from './planFrame.ts';
import { DAY_MS, dueInDays, leftOf, READY } from './spacing.ts';
import { howMany } from '../words/howMany.ts';

/** Seams so few bars apart are one place: a bar that is entered and left again. */
const TOGETHER_BARS = 2;
/** So ready that it gains nothing today. */
const ALONE = 0.96;
const FEWEST_MINUTES = 2;
/** What an easy place is worth besides a hard one. */
const EVERY_PLACE = 0.1;
/** A seam of middling difficulty takes about so many visits until it is ready. */
const VISITS_UNTIL_READY = 3;

/** A seam, or two that are worked on as one, with what a plan reckons of it. */
interface Place {
  readonly key: string;
  readonly piece: PieceToPlan;
  readonly seams: readonly SeamToPlan[];
  /** What an hour spent here would be worth, against other places. */
  readonly need: number;
  readonly readiness: number;
  readonly minutes: number;
  readonly isDue: boolean;
}

/** The order of work for a rehearsal: never a minute over, the same for the same request. Pure. */
export function planFor(request: PlanRequest): Plan {
  const { wishes } = request;
  const total = Math.max(0, Math.floor(request.minutes));
  const all = request.pieces.flatMap((piece) => placesOf(piece, request));
  const wanted = all.filter(({ key }) => !wishes.skipped.includes(key));
  const frame = frameOf(request, total);
  const forPlaces = total - frame.warmUp - frame.wholeMinutes - frame.rests * request.weights.restMinutes;
  const chosen = chosenPlaces(wanted, forPlaces, request);
  const items = inOrder(chosen, request).map((place) => itemOf(place, request));
  const planned = withFrame(items, frame, request);
  const taken = new Set(chosen.map(({ key }) => key));
  const left = [...wanted].filter(({ key, readiness }) => !taken.has(key) && readiness < READY).sort(byNeed);
  return {
    items: timed(planned),
    minutesLeft: total - planned.reduce((sum, { minutes }) => sum + minutes, 0),
    outOfReach: outOfReach(wanted, chosen.length, request),
    next: left.slice(0, 2).map(titleOf),
  };
}

/** Where a piece needs work most at a moment, and why. */
export interface NextPlace {
  /** "into bar 11 and into bar 12" */
  readonly name: string;
  /** "failed last time" */
  readonly why: string;
}

/** What gains most in a piece by itself, whoever is there; null where all of it is ready. */
export function nextPlaceMaybe(piece: PieceToPlan, atMs: number): NextPlace | null {
  const alone: PlanRequest = {
    minutes: 0,
    already: NOTHING_PLAYED,
    atMs,
    concertAtMs: null,
    rehearsalsLeft: 1,
    present: null,
    pieces: [piece],
    weights: PLAIN_WEIGHTS,
    wishes: NO_WISHES,
  };
  const [next] = placesOf(piece, alone)
    .filter(({ readiness }) => readiness < READY)
    .sort(byNeed);
  if (!next) return null;
  const [, why = ''] = whyOf(next, atMs, null);
  return { name: namesOf(next), why };
}

/** Something that may be put into a plan by hand. */
export interface PlanChoice {
  readonly key: string;
  readonly title: string;
}

/** Everything of the programme that may be in a plan, whatever it would gain: its places in order, then it from end to end. */
export function planChoices(request: PlanRequest): readonly PlanChoice[] {
  return request.pieces.flatMap((piece) => [
    ...placesOf(piece, request).map((place) => ({ key: place.key, title: titleOf(place) })),
    { key: wholeKey(piece), title: `${piece.title}, from end to end` },
  ]);
}

/** The neediest first; always in the same order. */
function byNeed(a: Place, b: Place): number {
  return b.need - a.need || (a.key < b.key ? -1 : 1);
}

/** Seams of a piece, neighbours together, those with nobody there left out. */
function placesOf(piece: PieceToPlan, request: PlanRequest): readonly Place[] {
  const { present } = request;
  const here = piece.seams.filter(
    ({ sections }) => !present || sections.length === 0 || sections.some((name) => present.includes(name)),
  );
  const groups: SeamToPlan[][] = [];
  for (const seam of [...here].sort((a, b) => a.barIndex - b.barIndex)) {
    const last = groups.at(-1);
    const first = last?.[0];
    if (last && first && seam.barIndex - first.barIndex <= TOGETHER_BARS && last.length < 2) last.push(seam);
    else groups.push([seam]);
  }
  return groups.map((seams) => placeOf(piece, seams, request));
}

function placeOf(piece: PieceToPlan, seams: readonly SeamToPlan[], request: PlanRequest): Place {
  const { atMs, weights, wishes } = request;
  const key = placeKey(
    piece.pieceId,
    seams.map(({ barIndex }) => barIndex),
  );
  const telling = tellingOf(seams);
  const readiness = Math.min(...telling.map(({ spacing }) => leftOf(spacing, atMs)));
  const score = Math.max(...seams.map((seam) => seam.score));
  const due = telling.map(({ spacing }) => dueInDays(spacing, atMs));
  const isDue = due.some((days) => days === null || days <= 0.5);
  // What is as good as ready and not yet due gains nothing today; what was never run is not known to be bad, but may be.
  const missing = Math.max(0, 1 - readiness);
  const need = (EVERY_PLACE + (weights.difficulty * score) / 100) * missing * (isDue ? 1 : 0.75);
  const wished = wishes.minutes[key];
  const minutes = wished ?? Math.min(weights.mostMinutesAPlace, FEWEST_MINUTES + seams.length - 1);
  return { key, piece, seams, need, readiness, minutes: Math.max(1, Math.round(minutes)), isDue };
}

/** Of two seams that are worked on together an easy one says nothing of the place. */
function tellingOf(seams: readonly SeamToPlan[]): readonly SeamToPlan[] {
  const hardest = Math.max(...seams.map(({ score }) => score));
  return seams.filter(({ score }) => 2 * score >= hardest);
}

/** Pinned ones always, then those that were put in an order, then those that need it most, as long as there is room. */
function chosenPlaces(places: readonly Place[], minutes: number, { wishes }: PlanRequest): readonly Place[] {
  const rank = ({ key }: Place) => (wishes.pinned.includes(key) ? 2 : wishes.order.includes(key) ? 1 : 0);
  const isWanted = (place: Place) => rank(place) > 0;
  const byWorth = [...places].sort((a, b) => rank(b) - rank(a) || byNeed(a, b));
  const chosen: Place[] = [];
  let left = minutes;
  for (const place of byWorth) {
    if (place.readiness > ALONE && !isWanted(place)) continue;
    const given =
      place.minutes <= left ? place.minutes : isWanted(place) || left >= FEWEST_MINUTES ? left : 0;
    if (given <= 0) continue;
    chosen.push({ ...place, minutes: given });
    left -= given;
  }
  return longer(chosen, left);
}

/** Minutes that are over go to the places that need it most. */
function longer(chosen: readonly Place[], left: number): readonly Place[] {
  if (chosen.length === 0) return chosen;
  const order = [...chosen].sort(byNeed);
  const more = new Map(order.map((place) => [place.key, 0]));
  // Nobody works on a place for more than twice as long because there happens to be time.
  const canGrow = ({ key, minutes }: Place) => (more.get(key) ?? 0) < minutes;
  for (let given = 0; given < left;) {
    const growing = order.filter(canGrow).slice(0, left - given);
    if (growing.length === 0) break;
    for (const { key } of growing) more.set(key, (more.get(key) ?? 0) + 1);
    given += growing.length;
  }
  return chosen.map((place) => ({ ...place, minutes: place.minutes + (more.get(place.key) ?? 0) }));
}

/** As wished; else piece by piece, the neediest first while people are fresh, and in a piece the neediest place first. */
function inOrder(places: readonly Place[], { wishes }: PlanRequest): readonly Place[] {
  const wished = ({ key }: Place) => {
    const at = wishes.order.indexOf(key);
    return at < 0 ? Infinity : at;
  };
  const worst = new Map<string, number>();
  for (const { piece, need } of places)
    worst.set(piece.pieceId, Math.max(worst.get(piece.pieceId) ?? 0, need));
  const ofPiece = ({ piece }: Place) => worst.get(piece.pieceId) ?? 0;
  return [...places].sort(
    (a, b) =>
      compareNumbers(wished(a), wished(b)) ||
      ofPiece(b) - ofPiece(a) ||
      (a.piece.pieceId < b.piece.pieceId ? -1 : a.piece.pieceId > b.piece.pieceId ? 1 : 0) ||
      byNeed(a, b),
  );
}

function compareNumbers(a: number, b: number): number {
  return a === b ? 0 : a < b ? -1 : 1;
}

function itemOf(place: Place, { atMs, concertAtMs, wishes }: PlanRequest): Untimed {
  const { piece, seams, key, minutes } = place;
  return {
    key,
    kind: 'place',
    pieceId: piece.pieceId,
    bars: [...seams].sort((a, b) => b.score - a.score).map(({ barIndex }) => barIndex),
    title: titleOf(place),
    minutes,
    percent: Math.min(...tellingOf(seams).map((seam) => beginPercent(seam, mostPercent(piece), atMs))),
    why: whyOf(place, atMs, concertAtMs),
    isPinned: wishes.pinned.includes(key),
  };
}

function titleOf(place: Place): string {
  return `${place.piece.title}, ${namesOf(place)}`;
}

function namesOf({ seams }: Place): string {
  return seams.map(({ name }) => name).join(' and ');
}

function whyOf(
  { seams: all, readiness }: Place,
  atMs: number,
  concertAtMs: number | null,
): readonly string[] {
  const seams = tellingOf(all);
  const score = Math.max(...seams.map((seam) => seam.score));
  const last = Math.max(...seams.map(({ spacing }) => spacing.lastAtMs ?? 0));
  const isNew = seams.some(({ spacing }) => spacing.lastAtMs === null);
  const failed = seams.some(({ spacing }) => spacing.lastAtMs !== null && spacing.intervalDays === 0);
  const days = Math.round((atMs - last) / DAY_MS);
  const daysLeft = concertAtMs === null ? null : Math.round((concertAtMs - atMs) / DAY_MS);
  return [
    `difficulty ${score}`,
    isNew ? 'never run' : failed ? 'failed last time' : `${Math.round(100 * readiness)} % ready by now`,
    !isNew && days > 0 && `${howMany(days, 'day')} ago`,
    daysLeft !== null && daysLeft >= 0 && daysLeft <= 14 && `concert in ${howMany(daysLeft, 'day')}`,
  ].filter((word) => word !== false);
}

function timed(items: readonly Untimed[]): readonly PlanItem[] {
  let startMinute = 0;
  return items.map((item) => {
    const placed = { ...item, startMinute };
    startMinute += item.minutes;
    return placed;
  });
}

/** Places that are not ready, against the visits that are left at today's rate. */
function outOfReach(
  places: readonly Place[],
  visitsToday: number,
  { concertAtMs, rehearsalsLeft }: PlanRequest,
): Plan['outOfReach'] {
  if (concertAtMs === null) return null;
  const visitsOf = ({ readiness, seams }: Place) =>
    readiness >= READY
      ? 0
      : VISITS_UNTIL_READY * (1 - readiness) * (0.6 + Math.max(...seams.map(({ score }) => score)) / 125);
  const wanted = places.map(visitsOf).sort((a, b) => a - b);
  let left = visitsToday * rehearsalsLeft;
  let reached = 0;
  for (const visits of wanted) {
    left -= visits;
    if (left < 0) break;
    reached++;
  }
  return { places: places.length - reached, of: places.length };
}
