import { expect, test } from '@jest/globals';
import { NEW_DATE, weeksLater } from './season.ts';
import { calendarOf, homeCalendarOf } from './calendar.ts';

const MADE = new Date('2026-11-28T12:00:00Z');
const date = (more: object) => ({ ...NEW_DATE, id: '1b6d', at: '2027-03-21T19:30', minutes: 75, ...more });
/** As whoever reads a calendar file takes it: folded lines put together again. */
const unfolded = (text: string) => text.replaceAll('\r\n ', '').trimEnd().split('\r\n');

test('a date is an event at the clock’s own time, with what was done', () => {
  const lines = unfolded(
    calendarOf(
      [
        date({
          title: 'Bells; reeds, drums',
          absent: ['Drums'],
          done: [{ key: 'p:1', title: 'Ebb, into bar 9', planned: 4, seconds: 290 }],
        }),
      ],
      'Quay Band',
      MADE,
    ),
  );
  expect(lines).toEqual([
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Anchorbeat//Rehearsals//EN',
    'BEGIN:VEVENT',
    'UID:1b6d@anchorbeat',
    'DTSTAMP:20261128T120000Z',
    'DTSTART:20270321T193000',
    'DURATION:PT75M',
    'SUMMARY:Quay Band: Bells\\; reeds\\, drums',
    'DESCRIPTION:Without Drums\\nEbb\\, into bar 9: 5 min',
    'END:VEVENT',
    'END:VCALENDAR',
  ]);
});

test('no line is longer than 75 octets, and none is cut inside a character', () => {
  const title = 'Änderung – ♩ = ♪ '.repeat(20);
  const text = calendarOf([date({ title })], 'Ensemble', MADE);
  for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  expect(unfolded(text).find((line) => line.startsWith('SUMMARY'))).toBe(`SUMMARY:Ensemble: ${title}`);
});

test('a row of weeks keeps its time over every change of clocks', () => {
  for (const start of ['2026-10-18T19:30', '2027-03-14T02:30', '2026-12-28T23:59'])
    for (let week = 0; week < 30; week++)
      expect(weeksLater(start, week).slice(11)).toMatch(/^(19:30|0[123]:30|23:59)$/);
  expect(weeksLater('2026-10-18T19:30', 2)).toBe('2026-11-01T19:30');
});

test('work at home stands on the whole day before, each drill a line of its own', () => {
  const lines = unfolded(
    homeCalendarOf(
      date({ at: '2027-03-01T19:30' }),
      'Low reeds',
      ['3 min · Ebb, into bar 9', '2 min · Rope'],
      MADE,
    ),
  );
  expect(lines).toContain('DTSTART;VALUE=DATE:20270228');
  expect(lines).toContain('UID:1b6d-Low%20reeds@anchorbeat');
  expect(lines).toContain('DESCRIPTION:3 min · Ebb\\, into bar 9\\n2 min · Rope');
});
