import type { Page } from '@playwright/test';
import { expect, hostOf, inPage, open, test } from './rackle';

/** Devices of a stand-in for the machine's MIDI system, in whichever window asks for it. */
interface FakeMidi {
  /** What Skerry was sent. */
  sent: number[][];
  /** Treadle 6 sends. */
  receive(...bytes: number[]): void;
  /** Skerry's cable. */
  plug(here: boolean): void;
}
type Globals = { fakeMidi?: FakeMidi };

/** Two devices with the names that the demo's gear list has: Treadle 6 in, Skerry out. */
const withFakeMidi = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const port = (id: string, name: string, type: string) => ({ id, name, type, state: 'connected' });
    const treadle = { ...port('in-1', 'Treadle 6', 'input'), onmidimessage: null as ((event: object) => void) | null };
    const sent: number[][] = [];
    const skerry = { ...port('out-1', 'Skerry', 'output'), send: (bytes: Iterable<number>) => sent.push([...bytes]) };
    const access = {
      inputs: new Map([[treadle.id, treadle]]),
      outputs: new Map([[skerry.id, skerry]]),
      onstatechange: null as ((event: object) => void) | null,
    };
    navigator.requestMIDIAccess = () => {
      (globalThis as unknown as Globals).fakeMidi = {
        sent,
        receive: (...bytes) =>
          treadle.onmidimessage?.({ data: Uint8Array.from(bytes), timeStamp: performance.now() + 60_000 }),
        plug: (here) => {
          skerry.state = here ? 'connected' : 'disconnected';
          access.onstatechange?.({ port: skerry });
        },
      };
      return Promise.resolve(access as unknown as MIDIAccess);
    };
  });

const sentTo = async (page: Page): Promise<number[][]> =>
  (await hostOf(page)).evaluate(() => (globalThis as unknown as Globals).fakeMidi?.sent ?? []);
const isAt = (page: Page, place: string): Promise<void> =>
  expect(page.getByRole('button', { name: place, exact: true })).toHaveAttribute('aria-current', 'true');

for (const way of ['frame', 'page'] as const)
  test(`the machine’s own MIDI ports, with the host in its ${way}: heard, sent to, pulled out, and there again after a reload in the same patch`, async ({
    page,
    demo,
  }) => {
    if (way === 'page') await inPage(page);
    await withFakeMidi(page);
    await page.context().grantPermissions(['midi']);
    await open(page, demo, '/gear');
    await page.getByRole('button', { name: 'Connect MIDI ports' }).click();
    await expect(page.getByRole('button', { name: 'Connect MIDI ports' })).toBeDisabled();
    const host = await hostOf(page);

    // A pedal, by a device whose clock is ahead: Ash, which reads 17 and is 16 on the wire.
    await host.evaluate(() => (globalThis as unknown as Globals).fakeMidi!.receive(0xc0, 16));
    await isAt(page, 'Moth and Lamp, Ash');
    await expect.poll(() => sentTo(page)).toContainEqual([0xc0, 17]);

    // Pulled out and plugged in again: it is told what belongs there.
    await host.evaluate(() => (globalThis as unknown as Globals).fakeMidi!.plug(false));
    await expect(page.getByText('10 of 11 ports')).toBeVisible();
    const before = (await sentTo(page)).length;
    await host.evaluate(() => (globalThis as unknown as Globals).fakeMidi!.plug(true));
    await expect(page.getByText('11 of 11 ports')).toBeVisible();
    expect((await sentTo(page)).slice(before)).toContainEqual([0xc0, 17]);

    // In the middle of the song: ports, patch and addresses are there without a click.
    await page.reload();
    await isAt(page, 'Moth and Lamp, Ash');
    await expect.poll(() => sentTo(page)).toContainEqual([0xc0, 17]);
    await (await hostOf(page)).evaluate(() => (globalThis as unknown as Globals).fakeMidi!.receive(0xc0, 7));
    await isAt(page, 'Third Ferry Home, Quay');
  });
