import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, type Rackle } from '../tests/rackle';

interface ShowFile {
  songs: { id: string; name: string }[];
  setlists: { entries: { kind: string; id: string; songId?: string }[] }[];
}

/** Opens a show of as many songs as this: the demo's ten over and over, each with ids of its own, all in the setlist. */
export async function openManySongs(page: Page, rackle: Rackle, count: number): Promise<void> {
  const path = join(import.meta.dirname, '../../demo/tern-ledge.json');
  const demo = JSON.parse(readFileSync(path, 'utf8')) as ShowFile;
  const { songs } = demo;
  const [setlist] = demo.setlists;
  for (let n = songs.length; n < count; n++) {
    const song = demo.songs[n % 10];
    const id = `${song.id}-${n}`;
    const copy = JSON.parse(JSON.stringify(song).replaceAll(`"${song.id}`, `"${id}`)) as ShowFile['songs'][0];
    songs.push({ ...copy, name: `${song.name} ${n}` });
    setlist.entries.push({ ...setlist.entries[0], id: `entry-${n}`, songId: id });
  }
  const answer = await page.request.post(`${rackle.address}/api/v1/show/file`, { data: demo });
  expect(answer.ok(), await answer.text()).toBe(true);
}
