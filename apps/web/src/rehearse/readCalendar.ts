import type { DateResponse, SaveDateRequest } from '@anchorbeat/contract';
import { MOST_PLAN_MINUTES } from '@anchorbeat/core';
import ICAL from 'ical.js';
import { v5 as uuidOf, validate as isUuid } from 'uuid';
import { localTime, NEW_DATE } from './season.ts';

/** Dates of a calendar file that repeats without end are taken this far. */
const MOST_REPEATS = 60;
const MOST_EVENTS = 500;
const USUAL_MINUTES = 90;
/** Under which the ids of other programs' events are made into ours, so that reading a file again makes nothing twice. */
const NAMESPACE = '6f2f6b1e-8f3e-4c55-9a39-0d1a54a7c1aa';
const OWN_UID = /^(.+)@anchorbeat$/;

/** A date as a calendar file has it, and what it would do here. */
export interface ReadDate {
  readonly id: string;
  readonly date: SaveDateRequest;
  readonly becomes: 'new' | 'changed' | 'the same';
}

export interface CalendarReading {
  readonly dates: readonly ReadDate[];
  /** What was left out, in words. */
  readonly leftOut: readonly string[];
}

/**
 * Rehearsals and concerts of an iCalendar file. A time with a zone, or floating, is what the clock says there; one in universal
 * time is told by the clock here. Repeats become dates of their own. Throws an Error that says what is wrong with the file.
 */
export function readCalendar(
  text: string,
  known: readonly DateResponse[],
  ensemble: string,
): CalendarReading {
  const events = eventsOf(text);
  const dates: ReadDate[] = [];
  const leftOut: string[] = [];
  for (const event of events) {
    const title = titleOf(event.summary ?? '', ensemble);
    if (event.startDate.isDate) {
      leftOut.push(`${title || 'An event'} on ${event.startDate.toString()}: it has no time of day`);
      continue;
    }
    const starts = startsOf(event);
    if (starts.length === MOST_REPEATS)
      leftOut.push(`${title || 'An event'}: more than ${MOST_REPEATS} repeats`);
    for (const start of starts) dates.push(readDate(event, start, title, known));
  }
  return { dates: dates.sort((a, b) => (a.date.at < b.date.at ? -1 : 1)), leftOut };
}

function eventsOf(text: string): readonly ICAL.Event[] {
  let calendar: ICAL.Component;
  try {
    calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
  } catch (error) {
    throw new Error(`This is no calendar file: ${(error as Error).message}`, { cause: error });
  }
  const events = calendar.getAllSubcomponents('vevent').map((component) => new ICAL.Event(component));
  if (events.length === 0) throw new Error('This calendar file holds no events');
  if (events.length > MOST_EVENTS)
    throw new Error(`This calendar file holds more than ${MOST_EVENTS} events: save fewer`);
  return events;
}

function startsOf(event: ICAL.Event): readonly ICAL.Time[] {
  if (!event.isRecurring()) return [event.startDate];
  const iterator = event.iterator();
  const starts: ICAL.Time[] = [];
  while (starts.length < MOST_REPEATS) {
    const next = iterator.next() as ICAL.Time | undefined;
    if (!next) break;
    starts.push(next);
  }
  return starts;
}

function readDate(
  event: ICAL.Event,
  start: ICAL.Time,
  title: string,
  known: readonly DateResponse[],
): ReadDate {
  const at = clockTime(start);
  const own = OWN_UID.exec(event.uid)?.[1];
  const id = own && isUuid(own) && !event.isRecurring() ? own : uuidOf(`${event.uid} ${at}`, NAMESPACE);
  const before = known.find((date) => date.id === id);
  const seconds = event.duration.toSeconds();
  const minutes = Math.min(MOST_PLAN_MINUTES, Math.round(seconds / 60) || USUAL_MINUTES);
  const kind = /\b(concert|performance|gig)\b/i.test(event.summary ?? '') ? 'concert' : 'rehearsal';
  const says = { kind, title, at, minutes } as const;
  if (!before)
    return { id, date: { ...NEW_DATE, ...says, absent: absentIn(event.description ?? '') }, becomes: 'new' };
  const { kind: wasKind, title: wasTitle, at: wasAt, minutes: wasMinutes } = before;
  const isSame = wasKind === kind && wasTitle === title && wasAt === at && wasMinutes === minutes;
  const { id: _id, ...fields } = before;
  return { id, date: { ...fields, ...says }, becomes: isSame ? 'the same' : 'changed' };
}

/** What the clock says: at the place where a time has a zone or floats, here where it is universal. */
function clockTime(start: ICAL.Time): string {
  if (start.zone === ICAL.Timezone.utcTimezone) return localTime(start.toJSDate());
  const two = (value: number) => String(value).padStart(2, '0');
  return `${start.year}-${two(start.month)}-${two(start.day)}T${two(start.hour)}:${two(start.minute)}`;
}

const PLAIN_TITLES = ['Rehearsal', 'Concert'];

function titleOf(summary: string, ensemble: string): string {
  const title = summary.startsWith(`${ensemble}: `) ? summary.slice(ensemble.length + 2) : summary;
  return PLAIN_TITLES.includes(title) ? '' : title.slice(0, 200);
}

/** "Without Drums, Bells", as our own files say it. */
function absentIn(description: string): string[] {
  const line = description.split('\n').find((one) => one.startsWith('Without '));
  return line ? line.slice('Without '.length).split(', ') : [];
}
