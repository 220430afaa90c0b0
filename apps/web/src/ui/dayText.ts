const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sept', 'Oct', 'Nov', 'Dec'];
const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];

/**
 * A moment as it is said, by the clock of this place. A formatter of the language's own takes forty milliseconds to begin, and a
 * new one for every moment a second for a log of two thousand runs.
 */
type Says = (moment: Date) => string;

/** What is no moment is said to be none. */
function saysOf(says: Says): Says {
  return (moment) => (Number.isNaN(moment.getTime()) ? 'no day' : says(moment));
}

/** "28 Nov" */
export const dayText = saysOf((moment) => `${moment.getDate()} ${MONTHS[moment.getMonth()]}`);

/** "28 Nov 2026" */
export const dayOfYearText = saysOf((moment) => `${dayText(moment)} ${moment.getFullYear()}`);

/** "Sat 28 Nov" */
export const weekdayText = saysOf((moment) => `${WEEKDAYS[moment.getDay()]} ${dayText(moment)}`);

/** "07:05" */
export const clockText = saysOf((moment) =>
  [moment.getHours(), moment.getMinutes()].map((value) => String(value).padStart(2, '0')).join(':'),
);

/** "28 Nov 2026, 07:05" */
export const momentText = saysOf((moment) => `${dayOfYearText(moment)}, ${clockText(moment)}`);
