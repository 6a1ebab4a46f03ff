import type { Show } from '../../show';

/** The show file: JSON with two spaces, ending in a line break. */
export const writeShowFile = (show: Show): string => `${JSON.stringify(show, null, 2)}\n`;
