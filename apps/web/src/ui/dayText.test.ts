import { expect, test } from '@jest/globals';
import { clockText, dayOfYearText, dayText, momentText, weekdayText } from './dayText.ts';

/** The language's own formatter, begun anew for each. */
const inEnglish = (moment: Date, options: Intl.DateTimeFormatOptions) =>
  moment.toLocaleString('en-GB', options).replaceAll(/^(\w{3}),/g, '$1');

test('days and times are said as English has them, every day of a year and every hour of one', () => {
  for (let hour = 0; hour < 366 * 25; hour += 25) {
    const moment = new Date(2027, 11, 31, hour, hour % 60);
    const [day, month] = [{ day: 'numeric' }, { month: 'short' }] as const;
    expect(dayText(moment)).toBe(inEnglish(moment, { ...day, ...month }));
    expect(weekdayText(moment)).toBe(inEnglish(moment, { weekday: 'short', ...day, ...month }));
    expect(dayOfYearText(moment)).toBe(inEnglish(moment, { ...day, ...month, year: 'numeric' }));
    expect(clockText(moment)).toBe(inEnglish(moment, { hour: '2-digit', minute: '2-digit' }));
    expect(momentText(moment)).toBe(inEnglish(moment, { dateStyle: 'medium', timeStyle: 'short' }));
  }
});

test('what is no moment is said to be none', () => {
  expect(momentText(new Date('2026-11-99'))).toBe('no day');
});
