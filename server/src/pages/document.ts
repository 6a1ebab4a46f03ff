import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** What a document is told by its meta tags, by their names. */
export type Told = Record<`rackle-${string}`, string | null>;

/** A built document with what it has to know of this server; null where it is not built. */
export function documentIn(folder: string, name: string): ((told: Told) => string) | null {
  const path = join(folder, name);
  if (!existsSync(path)) return null;
  const text = readFileSync(path, 'utf8');
  return (told) =>
    Object.entries(told).reduce(
      (html, [meta, content]) =>
        html.replace(`<meta name="${meta}" content="" />`, `<meta name="${meta}" content="${content ?? ''}" />`),
      text,
    );
}
