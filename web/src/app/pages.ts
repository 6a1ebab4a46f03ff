/** The pages by their jobs, in the order in which a set comes about. */
export const PAGES = [
  ['Gear', '/gear'],
  ['Sounds', '/sounds'],
  ['Songs', '/songs'],
  ['Setlist', '/setlist'],
  ['Numbers', '/numbers'],
  ['Timeline', '/timeline'],
  ['Soundcheck', '/soundcheck'],
  ['Stage', '/stage'],
] as const;
