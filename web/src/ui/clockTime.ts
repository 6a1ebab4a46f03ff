const TIME = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const DAY_AND_TIME = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});

/** “09:05”, on a clock of 24 hours. */
export const clockTime = (at: number | Date): string => TIME.format(at);

/** “26 Nov, 09:05”. */
export const dayAndTime = (at: number | Date): string => DAY_AND_TIME.format(at);
