// Finds Debian's Chromium, and installs it where it is missing and that is allowed.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const PATH = '/usr/bin/chromium';

/** Path of Chromium, or null after one clear line. */
export function ensureChromium() {
  if (existsSync(PATH)) return PATH;
  const mayInstall = process.getuid?.() === 0 && spawnSync('apt-get', ['--version']).status === 0;
  if (mayInstall) {
    process.stdout.write('Installing Chromium for the browser tests …\n');
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    spawnSync('apt-get', ['update', '-qq'], { stdio: ['ignore', 'ignore', 'inherit'], env });
    spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env,
    });
    if (existsSync(PATH)) return PATH;
  }
  process.stderr.write(`rackle: the browser tests need Debian's Chromium at ${PATH}: apt-get install chromium\n`);
  return null;
}
