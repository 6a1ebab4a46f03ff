import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, type BrowserContext, type Page } from '@playwright/test';
import { Rackle, crashBrowser, test } from '../tests/rackle';

// How often something was lost, printed: `npm run figures -- --safety`, about ten minutes. Here time is the matter: pages
// are closed, browsers and servers killed at chosen moments.

const after = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const field = (page: Page) => page.getByRole('textbox', { name: 'name of the song' });

async function openSong(context: BrowserContext, rackle: Rackle, id: string): Promise<Page> {
  const page = await context.newPage();
  await page.goto(`${rackle.address}/songs/${id}`);
  await expect(field(page)).not.toHaveValue('');
  return page;
}
async function rename(page: Page, name: string): Promise<void> {
  await field(page).fill(name);
  await field(page).press('Enter');
}
const served = async (rackle: Rackle, id: string): Promise<string> =>
  ((await (await fetch(`${rackle.address}/api/v1/songs/${id}`)).json()) as { body: { name: string } }).body.name;

/** What a page shows, and what the server has, once nothing waits any more. */
async function settled(context: BrowserContext, rackle: Rackle, id: string) {
  const page = await openSong(context, rackle, id);
  await expect(page.getByTestId('save-state')).toHaveText(/^saved/);
  const shown = await field(page).inputValue();
  const isConflict = (await page.getByText('changed elsewhere').count()) > 0;
  await page.close();
  return { shown, kept: await served(rackle, id), isConflict };
}

test('edited and closed, or killed, at chosen moments', async () => {
  const profile = mkdtempSync(join(tmpdir(), 'rackle-safety-'));
  const rackle = new Rackle();
  await rackle.start(true);
  const { launchOptions } = test.info().project.use;
  const browser = () => {
    rmSync(join(profile, 'SingletonLock'), { force: true });
    return chromium.launchPersistentContext(profile, launchOptions);
  };
  let context = await browser();
  let name = 0;
  for (const ms of [0, 50, 400]) {
    const counts = { lost: 0, conflicts: 0 };
    for (let turn = 0; turn < 20; turn++) {
      const page = await openSong(context, rackle, 'kelp-dance');
      await rename(page, `Kelp ${++name}`);
      await after(ms);
      await page.close();
      const found = await settled(context, rackle, 'kelp-dance');
      if (found.shown !== `Kelp ${name}` || found.kept !== `Kelp ${name}`) counts.lost++;
      if (found.isConflict) counts.conflicts++;
    }
    console.log(`edit, close after ${ms} ms, 20 times: ${counts.lost} lost, ${counts.conflicts} false conflicts`);
  }
  const killed = { lost: 0, conflicts: 0 };
  for (let turn = 0; turn < 20; turn++) {
    const page = await openSong(context, rackle, 'slow-bell');
    await rename(page, `Bell ${++name}`);
    await after(100);
    crashBrowser(profile);
    await context.close().catch(() => undefined);
    context = await browser();
    const found = await settled(context, rackle, 'slow-bell');
    if (found.kept !== `Bell ${name}`) killed.lost++;
    if (found.isConflict) killed.conflicts++;
  }
  console.log(
    `browser killed 100 ms after an edit, 20 times: ${killed.lost} lost, ${killed.conflicts} false conflicts`,
  );
  const dead = { lost: 0, conflicts: 0 };
  for (let turn = 0; turn < 10; turn++) {
    const [one, two] = [await openSong(context, rackle, 'kelp-dance'), await openSong(context, rackle, 'slow-bell')];
    const { port } = rackle;
    await rackle.kill();
    await rename(one, `Kelp ${++name}`);
    await rename(two, `Bell ${name}`);
    await one.close();
    await two.close();
    await rackle.start(true, port);
    for (const [id, wanted] of [
      ['kelp-dance', `Kelp ${name}`],
      ['slow-bell', `Bell ${name}`],
    ]) {
      const found = await settled(context, rackle, id);
      if (found.kept !== wanted) dead.lost++;
      if (found.isConflict) dead.conflicts++;
    }
  }
  console.log(
    `server dead, two windows edited and closed, 10 times: ${dead.lost} lost, ${dead.conflicts} false conflicts`,
  );
  await context.close();
  await rackle.end();
  rmSync(profile, { recursive: true, force: true });
});

test('the server killed 210 times while edits of two songs at once are saved', async () => {
  const rackle = new Rackle();
  await rackle.start(false);
  const acknowledged = new Map<number, number>();
  const counts = { acknowledged: 0, lost: 0, halfDone: 0 };
  const song = (writer: number, half: string, stamp: number) => ({ id: `w${writer}${half}`, name: `Stamp ${stamp}` });
  for (let kill = 0; kill < 210; kill++) {
    const wantedAnswers = 3 + ((kill * 7919) % 23);
    let answers = 0;
    const starts = await Promise.all([0, 1, 2, 3].map((writer) => revisionOf(rackle, writer)));
    await Promise.all(
      starts.map(async (start, writer) => {
        for (let revision = start; ; revision++) {
          const items = ['a', 'b'].map((half) => {
            const body = song(writer, half, revision + 1);
            return { kind: 'songs', id: body.id, revision, body };
          });
          const answer = await fetch(`${rackle.address}/api/v1/edits`, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ id: `k${kill}-w${writer}-${revision}`, label: 'stamp', items }),
          }).catch(() => null);
          if (answer === null) return;
          if (answer.status === 200) {
            acknowledged.set(writer, revision + 1);
            counts.acknowledged++;
          }
          if (++answers === wantedAnswers) void rackle.kill();
        }
      }),
    );
    await rackle.start(false);
    for (const [writer, revision] of acknowledged) {
      const [a, b] = await Promise.all(['a', 'b'].map((half) => served(rackle, `w${writer}${half}`)));
      if (a !== b) counts.halfDone++;
      if (Number(a.slice(6)) < revision) counts.lost++;
    }
  }
  console.log(
    `server killed 210 times: ${counts.acknowledged} edits acknowledged, ${counts.lost} lost, ${counts.halfDone} half done`,
  );
  await rackle.end();
});

async function revisionOf(rackle: Rackle, writer: number): Promise<number> {
  const answer = await fetch(`${rackle.address}/api/v1/songs/w${writer}a`);
  return answer.ok ? ((await answer.json()) as { revision: number }).revision : 0;
}
