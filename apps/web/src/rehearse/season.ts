import type { DateResponse, SaveDateRequest } from '@anchorbeat/contract';
import {
  NO_WISHES,
  PLAIN_WEIGHTS,
  type PieceToPlan,
  type Plan,
  type PlanItem,
  type PlanRequest,
  type PlanWeights,
  type PlanWishes,
} from '@anchorbeat/core';
import { clockText, weekdayText } from '../ui/dayText.ts';

export type PieceTempo = NonNullable<SaveDateRequest['tempi']>[number];

/** The moment of a date, by the clock of this place on that day. */
export function momentOf({ at }: Pick<DateResponse, 'at'>): number {
  return new Date(at).getTime();
}

/** A moment as the clock of this place says it: "2026-12-01T19:30". */
export function localTime(moment: Date): string {
  const two = (value: number) => String(value).padStart(2, '0');
  const day = `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`;
  return `${day}T${clockText(moment)}`;
}

/** "Tue 1 Dec, 19:30" */
export function whenText({ at }: Pick<DateResponse, 'at'>): string {
  const moment = new Date(at);
  return `${weekdayText(moment)}, ${at.slice(11)}`;
}

/** The same weekday and time, some weeks on: by the calendar, so that the clock says the same after it was put back. */
export function weeksLater(at: string, weeks: number): string {
  const moment = new Date(at);
  moment.setDate(moment.getDate() + 7 * weeks);
  return localTime(moment);
}

export const NEW_DATE: SaveDateRequest = {
  kind: 'rehearsal',
  title: '',
  at: '',
  minutes: 90,
  absent: [],
  pieceIds: [],
  goalPercent: 100,
  wishes: { pinned: [], skipped: [], order: [], minutes: [] },
  done: [],
  note: '',
};

/** The rehearsal that is next, or under way; else the last there was. */
export function dateToShow(dates: readonly DateResponse[], nowMs: number): DateResponse | undefined {
  const isOver = (date: DateResponse) => momentOf(date) + date.minutes * 60_000 < nowMs;
  const rehearsals = dates.filter(({ kind }) => kind === 'rehearsal');
  return rehearsals.find((date) => !isOver(date)) ?? rehearsals.at(-1);
}

interface RequestParts {
  readonly date: DateResponse;
  readonly dates: readonly DateResponse[];
  readonly pieces: readonly PieceToPlan[];
  /** Sections of the ensemble. */
  readonly sections: readonly string[];
  /** Minutes that are left of it. */
  readonly minutes: number;
  /** Items that are done already, in order. */
  readonly done: DateResponse['done'];
}

/** What the planner is asked for a rehearsal, or for what is left of it. */
export function planRequestFor({ date, dates, pieces, sections, minutes, done }: RequestParts): PlanRequest {
  const atMs = momentOf(date);
  const concert = dates.find((other) => other.kind === 'concert' && momentOf(other) >= atMs);
  const concertAtMs = concert ? momentOf(concert) : null;
  const left = dates.filter(
    (other) =>
      other.kind === 'rehearsal' &&
      momentOf(other) >= atMs &&
      (concertAtMs === null || momentOf(other) <= concertAtMs),
  );
  const present = sections.filter((section) => !date.absent.includes(section));
  return {
    minutes,
    already: alreadyPlayed(done),
    atMs,
    concertAtMs,
    rehearsalsLeft: Math.max(1, left.length),
    present: date.absent.length === 0 ? null : present,
    pieces: onProgramme(pieces, date.pieceIds.length > 0 ? date.pieceIds : (concert?.pieceIds ?? [])).map(
      (piece) => ({ ...piece, ...temposOf(piece.pieceId, date, concert) }),
    ),
    weights: weightsOf(date, dates),
    wishes: withDone(
      wishesOf(date),
      done.map(({ key }) => key),
    ),
  };
}

/**
 * How fast a piece is to be on a date, of its printed tempo: in the concert as this date has it, else as the concert has it; and
 * in the rehearsal, where that is set.
 */
export function temposOf(
  pieceId: string,
  date: DateResponse,
  concert?: DateResponse,
): Pick<PieceToPlan, 'goalPercent' | 'practicePercent'> {
  const tempoIn = (one?: DateResponse) => one?.tempi?.find((tempo) => tempo.pieceId === pieceId);
  // A hundred is what stands where nobody has said anything.
  const ofAll = date.goalPercent !== 100 ? date.goalPercent : (concert?.goalPercent ?? 100);
  return {
    goalPercent: tempoIn(date)?.goalPercent ?? tempoIn(concert)?.goalPercent ?? ofAll,
    practicePercent: tempoIn(date)?.practicePercent ?? null,
  };
}

/** How fast a piece is played where its date's programme is played through; null where that is as the piece itself keeps it. */
export function setPercentMaybe(pieceId: string, date: DateResponse): number | null {
  const { goalPercent, practicePercent } = temposOf(pieceId, date);
  if (date.kind === 'rehearsal') return practicePercent;
  const isSaid = date.goalPercent !== 100 || (date.tempi ?? []).some((tempo) => tempo.pieceId === pieceId);
  return isSaid ? goalPercent : null;
}

/** The tempi of a date with another one for a piece; one that says nothing is none. */
export function tempoSet(
  tempi: SaveDateRequest['tempi'],
  pieceId: string,
  change: Partial<PieceTempo>,
): NonNullable<SaveDateRequest['tempi']> {
  const known = (tempi ?? []).find((tempo) => tempo.pieceId === pieceId);
  const next: PieceTempo = { pieceId, goalPercent: null, practicePercent: null, ...known, ...change };
  const others = (tempi ?? []).filter((tempo) => tempo.pieceId !== pieceId);
  return (next.goalPercent ?? next.practicePercent ?? null) === null ? others : [...others, next];
}

/** Those of a date, or of the last one before it that has some; else the usual ones. */
export function weightsOf(date: DateResponse, dates: readonly DateResponse[]): PlanWeights {
  const before = dates.filter(({ at, weights }) => weights && at < date.at);
  const last = before.reduce<DateResponse | null>(
    (late, one) => (late && late.at > one.at ? late : one),
    null,
  );
  return date.weights ?? last?.weights ?? PLAIN_WEIGHTS;
}

/** At home a place is looked at shortly, and nobody rests or plays the whole. */
const HOME_WEIGHTS: PlanRequest['weights'] = {
  ...PLAIN_WEIGHTS,
  mostMinutesAPlace: 3,
  restEveryMinutes: 0,
  warmUpMinutes: 0,
  wholeShare: 0,
};

/** What a plan is asked for one section alone before a date, whatever is wished for the rehearsal itself. */
export function homeRequestFor(parts: Omit<RequestParts, 'sections' | 'done'>, section: string): PlanRequest {
  return {
    ...planRequestFor({ ...parts, sections: [section], done: [] }),
    present: [section],
    weights: HOME_WEIGHTS,
    wishes: NO_WISHES,
  };
}

/** Each item as a line to be sent: "3 min · Slack Water, into bar 11, from 70 %: never run". */
export function homeLines({ items }: Pick<Plan, 'items'>): readonly string[] {
  return items.map(({ minutes, title, percent, why }) => {
    const [first] = why;
    return `${minutes} min · ${title}, from ${Math.round(percent)} %${first ? `: ${first}` : ''}`;
  });
}

/** Playing since the last rest, for which a warm-up off the instruments is none; and all there was. */
function alreadyPlayed(done: DateResponse['done']): PlanRequest['already'] {
  const isRest = ({ key }: DateResponse['done'][number]) => key.startsWith('rest ');
  const since = done.slice(done.findLastIndex(isRest) + 1).filter(({ key }) => key !== 'warm-up');
  const minutesOf = (items: DateResponse['done']) =>
    items.reduce((sum, { seconds }) => sum + seconds, 0) / 60;
  return {
    sinceRestMinutes: minutesOf(since),
    rests: done.filter(isRest).length,
    minutes: minutesOf(done),
    wholeMinutes: minutesOf(done.filter(({ key }) => key.endsWith(':whole'))),
  };
}

/** Pieces of a programme in its order; all where none are named. */
export function onProgramme(pieces: readonly PieceToPlan[], ids: readonly string[]): readonly PieceToPlan[] {
  if (ids.length === 0) return pieces;
  return ids.flatMap((id) => pieces.find(({ pieceId }) => pieceId === id) ?? []);
}

function wishesOf({ wishes }: Pick<DateResponse, 'wishes'>): PlanWishes {
  return {
    ...wishes,
    minutes: Object.fromEntries(wishes.minutes.map(({ key, minutes }) => [key, minutes])),
  };
}

/** What is done is not done again; and nobody warms up twice. */
function withDone(wishes: PlanWishes, done: readonly string[]): PlanWishes {
  if (done.length === 0) return wishes;
  const isLeft = (key: string) => !done.includes(key);
  return {
    ...wishes,
    pinned: wishes.pinned.filter(isLeft),
    order: wishes.order.filter(isLeft),
    skipped: [...wishes.skipped, 'warm-up', ...done],
  };
}

/** A list with something put at its end, or taken out where it is in already. */
export function withToggled(list: readonly string[], one: string): readonly string[] {
  return list.includes(one) ? list.filter((other) => other !== one) : [...list, one];
}

/** The wishes of a date with an item put into or taken out of one of its lists. */
export function wishToggled(
  wishes: DateResponse['wishes'],
  list: 'pinned' | 'skipped',
  key: string,
): DateResponse['wishes'] {
  const other = list === 'pinned' ? 'skipped' : 'pinned';
  return {
    ...wishes,
    [list]: withToggled(wishes[list], key),
    [other]: wishes[other].filter((one) => one !== key),
  };
}

/** An item moved among those shown: all of them keep the order that is seen then. */
export function itemMoved(
  wishes: DateResponse['wishes'],
  shown: readonly string[],
  key: string,
  by: number,
): DateResponse['wishes'] {
  const from = shown.indexOf(key);
  return itemPlaced(wishes, shown, key, from + by);
}

/** An item brought to a place among those shown. */
function itemPlaced(
  wishes: DateResponse['wishes'],
  shown: readonly string[],
  key: string,
  at: number,
): DateResponse['wishes'] {
  const from = shown.indexOf(key);
  const to = Math.min(Math.max(at, 0), shown.length - 1);
  if (from < 0 || to === from) return wishes;
  const order = shown.filter((one) => one !== key);
  order.splice(to, 0, key);
  return { ...wishes, order };
}

/** An item dragged to where another stands. Only places are moved: before the first of them, or after the last, at most. */
export function itemDragged(
  wishes: DateResponse['wishes'],
  items: readonly Pick<PlanItem, 'key' | 'kind'>[],
  from: number,
  to: number,
): DateResponse['wishes'] {
  const [moved, onto] = [items[from], items[to]];
  if (!moved || !onto) return wishes;
  const shown = items.filter(({ kind }) => kind === 'place').map(({ key }) => key);
  const at = shown.indexOf(onto.key);
  return itemPlaced(wishes, shown, moved.key, at >= 0 ? at : to < from ? 0 : shown.length - 1);
}

/** An item given more or less time; at least a minute. */
export function itemLengthened(
  wishes: DateResponse['wishes'],
  key: string,
  minutes: number,
): DateResponse['wishes'] {
  const others = wishes.minutes.filter((one) => one.key !== key);
  return { ...wishes, minutes: [...others, { key, minutes: Math.max(1, minutes) }] };
}
