import type { DateResponse } from '@anchorbeat/contract';
import ICAL from 'ical.js';

// A line that goes on begins with a space, which counts among its 75 octets (RFC 5545, 3.1).
ICAL.foldLength = 74;

/**
 * Rehearsals and concerts as an iCalendar file. Times are "floating": those of the clock wherever it is looked at, as they are
 * kept, so that a rehearsal at seven is at seven when the clocks have changed.
 */
export function calendarOf(dates: readonly DateResponse[], ensemble: string, madeAt: Date): string {
  const calendar = emptyCalendar();
  const stamp = ICAL.Time.fromJSDate(madeAt, true);
  for (const date of dates) calendar.addSubcomponent(eventOf(date, ensemble, stamp));
  return `${calendar.toString()}\r\n`;
}

/** Work at home for one section as an entry of a calendar, on the whole day before a date: each drill in words. */
export function homeCalendarOf(
  { id, at }: Pick<DateResponse, 'id' | 'at'>,
  section: string,
  lines: readonly string[],
  madeAt: Date,
): string {
  const day = ICAL.Time.fromDateString(at.slice(0, 10));
  day.adjust(-1, 0, 0, 0);
  const event = new ICAL.Component('vevent');
  event.addPropertyWithValue('uid', `${id}-${encodeURIComponent(section)}@anchorbeat`);
  event.addPropertyWithValue('dtstamp', ICAL.Time.fromJSDate(madeAt, true));
  event.addPropertyWithValue('dtstart', day);
  event.addPropertyWithValue('summary', `${section}, at home`);
  event.addPropertyWithValue('description', lines.join('\n'));
  const calendar = emptyCalendar();
  calendar.addSubcomponent(event);
  return `${calendar.toString()}\r\n`;
}

function emptyCalendar(): ICAL.Component {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Anchorbeat//Rehearsals//EN');
  return calendar;
}

function eventOf(date: DateResponse, ensemble: string, stamp: ICAL.Time): ICAL.Component {
  const { id, at, kind, minutes, absent, done, note } = date;
  const title = date.title || (kind === 'concert' ? 'Concert' : 'Rehearsal');
  const told = [
    absent.length > 0 && `Without ${absent.join(', ')}`,
    ...done.map((item) => `${item.title}: ${Math.round(item.seconds / 60)} min`),
    note,
  ].filter(Boolean);
  const event = new ICAL.Component('vevent');
  event.addPropertyWithValue('uid', `${id}@anchorbeat`);
  event.addPropertyWithValue('dtstamp', stamp);
  event.addPropertyWithValue('dtstart', ICAL.Time.fromDateTimeString(`${at}:00`));
  event.addPropertyWithValue('duration', new ICAL.Duration({ minutes: Math.max(1, minutes) }));
  event.addPropertyWithValue('summary', `${ensemble}: ${title}`);
  if (told.length > 0) event.addPropertyWithValue('description', told.join('\n'));
  return event;
}
