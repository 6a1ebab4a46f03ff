import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, it } from '@jest/globals';

it('a million messages leave nothing behind: the playing path allocates nothing', () => {
  const words = ['--expose-gc', join(__dirname, '../bin/rackle.mjs'), 'figures', '--json', '--only', 'allocation'];
  const { stdout } = spawnSync(process.execPath, words, { encoding: 'utf8' });
  expect((JSON.parse(stdout) as { bytesPerMillionMessages: number }).bytesPerMillionMessages).toBeLessThan(4_000_000);
});
