// Installs and builds what is missing or older than its sources. Only Node and npm are needed.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');

const changedMs = (path) => {
  if (!existsSync(path)) return 0;
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(0, ...readdirSync(path).filter((name) => name !== 'node_modules' && name !== 'dist').map((name) => changedMs(join(path, name))));
};

export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', shell: process.platform === 'win32', ...options });
  return status ?? 1;
}

function must(command, args) {
  if (run(command, args) === 0) return;
  process.stderr.write(`rackle: "${command} ${args.join(' ')}" failed; see above\n`);
  process.exit(1);
}

export function installMissing() {
  const installed = changedMs(join(root, 'node_modules/.package-lock.json'));
  if (installed >= changedMs(join(root, 'package-lock.json')) && installed > 0) return;
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
