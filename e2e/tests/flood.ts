import type { Page } from '@playwright/test';
import { expect, type Rackle } from './rackle';

interface Input {
  emit(status: number, data1: number, data2: number): void;
}

/** What the built application leaves for tests that play more than the bench has, and that measure. */
export interface FloodGlobals {
  rackleInput(name: string): Input;
  rackleHandOver(): { messages: number; medianMs: number; p99Ms: number };
  /** Sends the next message of a flood: from all inputs in turn, notes on and off, controllers, wheels. */
  rackleFlood(inputs: readonly Input[], sent: number): void;
}

/** Sixteen further inputs in the gear list, two of which play. @returns the names of their devices. */
export async function withFloodPorts(page: Page, rackle: Rackle): Promise<string[]> {
  const address = `${rackle.address}/api/v1/gear-lists/rehearsal-loft`;
  const { revision, body } = (await (await page.request.get(address)).json()) as {
    revision: number;
    body: { ports: object[] };
  };
  const names = Array.from({ length: 16 }, (_, i) => `Flood ${i + 1}`);
  const ports = [
    ...body.ports,
    ...names.map((name, i) => ({
      direction: 'in',
      alias: name,
      device: name,
      plays: i < 2,
      programs: { kind: 'off' },
    })),
  ];
  const headers = { 'If-Match': `"${revision}"` };
  expect((await page.request.put(address, { headers, data: { ...body, ports } })).ok()).toBe(true);
  await page.addInitScript(() => {
    (globalThis as unknown as FloodGlobals).rackleFlood = (inputs, sent) => {
      const input = inputs[sent % 16];
      const turn = Math.floor(sent / 16);
      if (turn % 4 === 0) input.emit(0x90, 40 + (turn % 48), 80);
      else if (turn % 4 === 1) input.emit(0x80, 40 + ((turn - 1) % 48), 64);
      else if (turn % 4 === 2) input.emit(0xb0, 20 + (sent % 8), turn & 127);
      else input.emit(0xe0, 0, turn & 127);
    };
  });
  return names;
}
