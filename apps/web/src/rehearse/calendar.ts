import type { DateResponse } from '@anchorbeat/contract';

/** Lines of a calendar file are no longer than this, in octets; longer ones go on in the next, after a space (RFC 5545, 3.1). */
const MOST_OCTETS = 75;

/**
 * Rehearsals and concerts as an iCalendar file. Times are "floating": those of the clock wherever it is looked at, as they are
 * kept, so that a rehearsal at seven is at seven when the clocks have changed.
 */
export function calendarOf(dates: readonly DateResponse[], ensemble: string, madeAt: Date): string {
  const stamp = `${madeAt.toISOString().slice(0, 19).replaceAll(/[-:]/g, '')}Z`;
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Anchorbeat//Rehearsals//EN',
    ...dates.flatMap((date) => eventOf(date, ensemble, stamp)),
    'END:VCALENDAR',
  ];
  return `${lines.map(folded).join('\r\n')}\r\n`;
}

function eventOf(date: DateResponse, ensemble: string, stamp: string): readonly string[] {
  const { id, at, kind, minutes, absent, done, note } = date;
  const title = date.title || (kind === 'concert' ? 'Concert' : 'Rehearsal');
  const told = [
    absent.length > 0 && `Without ${absent.join(', ')}`,
    ...done.map((item) => `${item.title}: ${Math.round(item.seconds / 60)} min`),
    note,
  ].filter(Boolean);
  return [
    'BEGIN:VEVENT',
    `UID:${id}@anchorbeat`,
    `DTSTAMP:${stamp}`,
    `DTSTART:${at.replaceAll(/[-:]/g, '')}00`,
    `DURATION:PT${Math.max(1, minutes)}M`,
    `SUMMARY:${escaped(`${ensemble}: ${title}`)}`,
    ...(told.length > 0 ? [`DESCRIPTION:${escaped(told.join('\n'))}`] : []),
    'END:VEVENT',
  ];
}

function escaped(text: string): string {
  return text.replaceAll(/[\\;,]/g, '\\$&').replaceAll(/\r?\n/g, '\\n');
}

/** A line cut where it would be too long, never inside a character. */
function folded(line: string): string {
  const encoder = new TextEncoder();
  const parts: string[] = [];
  let [part, octets] = ['', 0];
  for (const character of line) {
    const size = encoder.encode(character).length;
    if (octets + size > MOST_OCTETS) {
      parts.push(part);
      [part, octets] = [' ', 1];
    }
    part += character;
    octets += size;
  }
  return [...parts, part].join('\r\n');
}
