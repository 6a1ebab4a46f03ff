// npm run figures: what takes time, printed. Of the core; with --browser of the built application; with --safety how
// often something was lost; with --sound of every preset;
// with --trims what each needs, with --weights what each takes, is written where it is kept.
import { join } from 'node:path';
import { ensureChromium } from './chromium.mjs';
import { buildMissing, installMissing, root, run } from './prepare.mjs';

const words = process.argv.slice(2);
const inBrowser = ['browser', 'safety', 'sound', 'trims', 'weights'].filter((what) => words.includes(`--${what}`));

function browserFigures(names) {
  installMissing();
  buildMissing();
  if (ensureChromium() === null) return 1;
  return run('npx', ['playwright', 'test', '--config', 'figures.config.ts', ...names], { cwd: join(root, 'e2e') });
}

process.exit(
  inBrowser.length > 0
    ? browserFigures(inBrowser)
    : run(process.execPath, ['--expose-gc', join(root, 'cli/bin/rackle.mjs'), 'figures', ...words]),
);
