// Installs and builds what is missing or older than its sources. Only Node and npm are needed.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');

const changedMs = (path) => {
  if (!existsSync(path)) return 0;
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(
    0,
    ...readdirSync(path)
      .filter((name) => name !== 'node_modules' && name !== 'dist')
      .map((name) => changedMs(join(path, name))),
  );
};

export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    shell: process.platform === 'win32',
    ...options,
  });
  return status ?? 1;
}

function must(command, args) {
  if (run(command, args) === 0) return;
  process.stderr.write(`rackle: "${command} ${args.join(' ')}" failed; see above\n`);
  process.exit(1);
}

/** Whether node_modules holds what the lock file says: npm's own list of it, package by package. */
function isInstalled() {
  const listed = (path) => (existsSync(path) ? (JSON.parse(readFileSync(path, 'utf8')).packages ?? {}) : null);
  const there = listed(join(root, 'node_modules/.package-lock.json'));
  if (there === null) return false;
  const wanted = listed(join(root, 'package-lock.json'));
  const missing = Object.entries(wanted).some(
    ([path, { version, optional, link, devOptional }]) =>
      path.startsWith('node_modules/') && !link && !optional && !devOptional && there[path]?.version !== version,
  );
  return (
    !missing && Object.entries(there).every(([path, { version, link }]) => link || wanted[path]?.version === version)
  );
}

export function installMissing() {
  if (isInstalled()) return;
  process.stdout.write('Installing what Rackle is made of (a few minutes, once) …\n');
  must('npm', ['ci']);
}

export function buildMissing() {
  const sources = Math.max(...['core/src', 'web', 'server'].map((folder) => changedMs(join(root, folder))));
  const built = Math.min(changedMs(join(root, 'web/dist/index.html')), changedMs(join(root, 'server/dist/main.js')));
  if (built >= sources) return;
  process.stdout.write('Building …\n');
  must('npm', ['run', '--silent', 'build', '-w', 'web']);
  must('npm', ['run', '--silent', 'build', '-w', 'server']);
}
