import { describe, expect, test } from '@jest/globals';
import ICAL from 'ical.js';
import { calendarOf } from './calendar.ts';
import { readCalendar } from './readCalendar.ts';
import { localTime, NEW_DATE } from './season.ts';

const ID = '1b6d0c1e-6c3f-4f43-9c55-0d1a54a7c101';
const date = (more: object) => ({ ...NEW_DATE, id: ID, at: '2027-03-21T19:30', minutes: 75, ...more });
const file = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', ...lines, 'END:VCALENDAR', ''].join('\r\n');
const event = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:a', ...lines, 'END:VEVENT'];

describe('a calendar file of our own', () => {
  const dates = [
    date({ title: 'Bells; reeds, drums\\', absent: ['Drums', 'Bells'] }),
    date({
      id: '2b6d0c1e-6c3f-4f43-9c55-0d1a54a7c102',
      kind: 'concert',
      title: 'Concert on the quay',
      at: '2027-10-31T02:30',
    }),
    date({ id: '3b6d0c1e-6c3f-4f43-9c55-0d1a54a7c103', title: '', minutes: 90, at: '2027-12-31T23:45' }),
  ];
  const text = calendarOf(dates, 'Quay Band: the small one', new Date('2026-11-28T12:00:00Z'));

  test('is one for whoever reads calendars, with the times of the clock', () => {
    const events = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent');
    expect(events.map((one) => new ICAL.Event(one).startDate.toString())).toEqual([
      '2027-03-21T19:30:00',
      '2027-10-31T02:30:00',
      '2027-12-31T23:45:00',
    ]);
  });

  test('comes back the same, and into a season that has it changes nothing', () => {
    const fresh = readCalendar(text, [], 'Quay Band: the small one');
    expect(
      fresh.dates.map(({ id, date: { at, minutes, title, kind, absent } }) => ({
        id,
        at,
        minutes,
        title,
        kind,
        absent,
      })),
    ).toEqual(
      dates.map(({ id, at, minutes, title, kind, absent }) => ({ id, at, minutes, title, kind, absent })),
    );
    const again = readCalendar(text, dates, 'Quay Band: the small one');
    expect(again.dates.map(({ becomes }) => becomes)).toEqual(['the same', 'the same', 'the same']);
    expect(again.dates.map(({ date: kept, id }) => ({ ...kept, id }))).toEqual(dates);
  });
});

describe('a calendar file of another program', () => {
  test('repeats keep the clock of their place when the clocks are put back, and are not made twice', () => {
    const text = file(
      ...event(
        'DTSTART;TZID=Europe/Somewhere:20261018T193000',
        'DTEND;TZID=Europe/Somewhere:20261018T210000',
        'RRULE:FREQ=WEEKLY;COUNT=4',
        'EXDATE;TZID=Europe/Somewhere:20261025T193000',
        'SUMMARY:Wind band',
      ),
    );
    const { dates } = readCalendar(text, [], 'Quay Band');
    expect(dates.map(({ date: { at, minutes, title } }) => [at, minutes, title])).toEqual([
      ['2026-10-18T19:30', 90, 'Wind band'],
      ['2026-11-01T19:30', 90, 'Wind band'],
      ['2026-11-08T19:30', 90, 'Wind band'],
    ]);
    expect(readCalendar(text, [], 'Quay Band').dates.map(({ id }) => id)).toEqual(dates.map(({ id }) => id));
  });

  test('universal time is told by the clock here; a concert is one; a whole day is left out and said', () => {
    const { dates, leftOut } = readCalendar(
      file(
        ...event('DTSTART:20261201T183000Z', 'DURATION:PT2H', 'SUMMARY:Winter concert'),
        ...event('DTSTART;VALUE=DATE:20261224', 'SUMMARY:No rehearsal'),
      ),
      [],
      'Quay Band',
    );
    expect(dates).toHaveLength(1);
    expect(dates[0]!.date).toMatchObject({
      at: localTime(new Date('2026-12-01T18:30:00Z')),
      minutes: 120,
      kind: 'concert',
    });
    expect(leftOut).toEqual(['No rehearsal on 2026-12-24: it has no time of day']);
  });

  test('repeats without end are taken so far and no farther', () => {
    const { dates, leftOut } = readCalendar(
      file(...event('DTSTART:20261018T193000', 'RRULE:FREQ=DAILY', 'SUMMARY:Every day')),
      [],
      'Quay Band',
    );
    expect([dates.length, leftOut]).toEqual([60, ['Every day: more than 60 repeats']]);
    expect(dates[0]!.date.minutes).toBe(90);
  });

  test.each([
    ['hello', 'This is no calendar file'],
    [file(), 'holds no events'],
    ['BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n', 'This'],
  ])('%j is refused with what is wrong', (text, says) => {
    expect(() => readCalendar(text, [], 'Quay Band')).toThrow(says);
  });
});
