import type { Page } from '@playwright/test';
import { expect, heard, hostOf, inPage, meantEverywhere, open, test } from './rackle';

/** The machine's sound devices and screen, as a stand-in in whichever window asks. */
interface FakeMachine {
  /** Ids of the sound devices that were led to. */
  sinks: string[];
}
type Globals = { fakeMachine: FakeMachine };

/** A sound device “Quay Box” and a microphone “Fiddle Mic”, which hears a tone. */
const withFakeSoundDevices = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const machine: FakeMachine = { sinks: [] };
    (globalThis as unknown as Globals).fakeMachine = machine;
    const device = (kind: string, deviceId: string, label: string) => ({ kind, deviceId, label, groupId: '' });
    Object.defineProperty(navigator, 'mediaDevices', {
      value: {
        enumerateDevices: () =>
          Promise.resolve([device('audiooutput', 'out-1', 'Quay Box'), device('audioinput', 'in-1', 'Fiddle Mic')]),
        getUserMedia: () => {
          const context = new AudioContext();
          const tone = context.createOscillator();
          const stream = context.createMediaStreamDestination();
          tone.connect(stream);
          tone.start();
          return Promise.resolve(stream.stream);
        },
      },
    });
    Object.assign(AudioContext.prototype, {
      setSinkId: (id: string) => {
        machine.sinks.push(id);
        return Promise.resolve();
      },
    });
  });

for (const way of ['frame', 'page'] as const)
  test(`sound devices, with the host in its ${way}: an output is chosen by name, and a microphone is heard through a layer`, async ({
    page,
    demo,
  }) => {
    if (way === 'page') await inPage(page);
    await withFakeSoundDevices(page);
    await open(page, demo, '/gear');
    await page.keyboard.press('s');
    await expect(page.getByTestId('delay')).toContainText(/\d+ ms/);
    await page.getByRole('combobox', { name: 'sound device' }).click();
    await page.getByRole('option', { name: 'Quay Box' }).click();
    const host = await hostOf(page);
    await expect
      .poll(() => host.evaluate(() => (globalThis as unknown as Globals).fakeMachine.sinks.at(-1)))
      .toBe('out-1');

    await page.getByRole('link', { name: 'Songs', exact: true }).click();
    await page.getByRole('button', { name: 'live sound instead' }).click();
    await meantEverywhere(page);
    const input = page.getByRole('combobox', { name: 'audio input' });
    await input.fill('Fiddle Mic');
    await input.press('Enter');
    await heard(page, 0.01);
    // One that is not there is said, and nothing else is taken for it.
    await input.fill('Harp Mic');
    await input.press('Enter');
    await expect(page.getByText('The audio input “Harp Mic” is not there')).toBeVisible();
  });

/** Every wake lock that is held, and what ends them: going out of sight. */
const withFakeWakeLock = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const held = new Set<object>();
    let visibility: DocumentVisibilityState = 'visible';
    Object.defineProperty(document, 'visibilityState', { get: () => visibility });
    Object.defineProperty(navigator, 'wakeLock', {
      value: {
        request: () => {
          const sentinel = { release: () => Promise.resolve(void held.delete(sentinel)) };
          held.add(sentinel);
          return Promise.resolve(sentinel);
        },
      },
    });
    Object.assign(globalThis, {
      wakeLocks: () => held.size,
      goTo: (next: DocumentVisibilityState) => {
        visibility = next;
        if (next === 'hidden') held.clear();
        document.dispatchEvent(new Event('visibilitychange'));
      },
    });
  });
interface WakeGlobals {
  wakeLocks(): number;
  goTo(visibility: DocumentVisibilityState): void;
}

for (const way of ['frame', 'page'] as const)
  test(`the screen stays awake on stage and while locked, with the host in its ${way}; a page that comes back takes it up again`, async ({
    page,
    demo,
  }) => {
    if (way === 'page') await inPage(page);
    await withFakeWakeLock(page);
    const locks = () => expect.poll(() => page.evaluate(() => (globalThis as unknown as WakeGlobals).wakeLocks()));
    const goTo = (visibility: DocumentVisibilityState) =>
      page.evaluate((next) => (globalThis as unknown as WakeGlobals).goTo(next), visibility);
    await open(page, demo);
    await locks().toBe(0);
    await page.getByRole('button', { name: 'Lock for the stage' }).click();
    await locks().toBe(1);
    await goTo('hidden');
    await locks().toBe(0);
    await goTo('visible');
    await locks().toBe(1);
    await page.getByRole('button', { name: 'Unlock the stage' }).click();
    await locks().toBe(0);
    await page.getByRole('link', { name: 'Stage' }).click();
    await locks().toBe(1);
    await page.keyboard.press('Escape');
    await expect(page).toHaveURL(/stage/);
    await page.getByRole('link', { name: 'Setlist' }).click();
    await locks().toBe(0);
  });
