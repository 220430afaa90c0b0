/**
 * Moments as they are said, by the clock of this place. What says them is begun once, when it is first needed: a new one for every
 * moment would take a quarter of a millisecond each, a second for a log of two thousand runs.
 */
function saidWith(options: Intl.DateTimeFormatOptions): (moment: Date) => string {
  let format: Intl.DateTimeFormat | undefined;
  return (moment) =>
    Number.isNaN(moment.getTime())
      ? 'no day'
      : (format ??= new Intl.DateTimeFormat('en-GB', options)).format(moment);
}

/** "28 Nov" */
export const dayText = saidWith({ day: 'numeric', month: 'short' });

/** "28 Nov 2026" */
export const dayOfYearText = saidWith({ day: 'numeric', month: 'short', year: 'numeric' });

/** "Sat 28 Nov" */
export const weekdayText = saidWith({ weekday: 'short', day: 'numeric', month: 'short' });

/** "19:40" */
export const clockText = saidWith({ hour: '2-digit', minute: '2-digit' });
