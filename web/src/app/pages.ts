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

/** What the window is called on a page: by its job. */
export function titleOf(pathname: string): string {
  if (pathname === '/library') return 'All songs';
  if (pathname.startsWith('/guide')) return 'Guide';
  if (pathname === '/setlists') return 'All setlists';
  if (pathname.startsWith('/print')) return 'Print';
  if (pathname === '/history') return 'History';
  if (pathname.startsWith('/as-it-was')) return 'As it was';
  if (pathname === '/numbers/sheets') return 'Controller sheets';
  return PAGES.find(([, path]) => pathname.startsWith(path))?.[0] ?? 'Rackle';
}
