import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';

interface Figures {
  nsPerMessage: { floor: Record<string, number>; engine: Record<string, number> };
  recallsPerSecond: Record<string, number>;
  bytesPerMillionMessages: number;
}

describe('the figures of the playing path', () => {
  // What is to be reached is 4 times and 1.2 times, measured by `npm run figures` on a quiet machine; a busy one
  // wavers. Whatever breaks the
  // path costs several times as much, and that shows anywhere.
  it('have not been lost: a message costs a few bare loops, a recall the same in a long set, and nothing is allocated', () => {
    const { stdout } = spawnSync(
      process.execPath,
      ['--expose-gc', join(__dirname, '../bin/rackle.mjs'), 'figures', '--json'],
      { encoding: 'utf8' },
    );
    const figures = JSON.parse(stdout) as Figures;
    process.stdout.write(`${stdout}\n`);
    expect(figures.nsPerMessage.engine['4'] / figures.nsPerMessage.floor['4']).toBeLessThan(7);
    expect(figures.recallsPerSecond['1000']).toBeGreaterThan(figures.recallsPerSecond['10'] / 2.5);
    expect(figures.bytesPerMillionMessages).toBeLessThan(4_000_000);
  }, 120_000);
});
