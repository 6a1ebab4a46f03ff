// The guide's own files, taken into the build: it is there without a network.

const TEXTS = import.meta.glob<string>(['../../../../docs/guide/*.md', '../../../../docs/formats.md'], {
  query: '?raw',
  import: 'default',
  eager: true,
});
const PICTURES = import.meta.glob<string>(['../../../../docs/screenshots/{song-sheet,gear,stage,timeline}.png'], {
  query: '?url',
  import: 'default',
  eager: true,
});

const nameOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1).replace(/\.\w+$/, '');
const byName = (files: Record<string, string>): ReadonlyMap<string, string> =>
  new Map(Object.entries(files).map(([path, file]) => [nameOf(path), file]));

/** Chapters by the names of their files, in Markdown. */
export const chapters = byName(TEXTS);
/** Addresses of the pictures that they show, by the names of their files. */
export const pictures = byName(PICTURES);
/** In the order in which they are read. */
export const ORDER = ['first-gig', 'connecting', 'timeline', 'on-stage', 'recordings', 'formats'] as const;
/** What a chapter is called: its first heading. */
export const titleOf = (text: string): string => /^# (.*)$/m.exec(text)?.[1] ?? '';
