// npm start: Rackle with the player's own show. npm run demo: with the demo show, in a database of its own.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, renameSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { buildMissing, installMissing, root } from './prepare.mjs';

const demo = process.argv.includes('--demo');
const fresh = process.argv.includes('--fresh');
const unknown = process.argv.slice(2).find((word) => !['--demo', '--fresh'].includes(word));
if (unknown) {
  process.stderr.write(`rackle: there is no option ${unknown}; there is --fresh\n`);
  process.exit(2);
}
const data = resolve(process.env.RACKLE_DATA ?? join(root, '.data', demo ? 'demo' : 'own'));

installMissing();
buildMissing();
if (fresh) backUp();

function backUp() {
  const file = join(data, 'rackle.sqlite');
  if (!existsSync(file)) return;
  const folder = join(data, 'backups', new Date().toISOString().replace(/[:.]/g, '-'));
  mkdirSync(folder, { recursive: true });
  for (const name of ['rackle.sqlite', 'rackle.sqlite-wal', 'rackle.sqlite-shm'])
    if (existsSync(join(data, name))) renameSync(join(data, name), join(folder, name));
  process.stdout.write(`The show as it was is kept in ${folder}\n`);
}

const server = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
  stdio: 'inherit',
  env: {
    ...process.env,
    RACKLE_DATA: data,
    RACKLE_SHOW: demo ? join(root, 'demo/tern-ledge.json') : '',
    NODE_ENV: 'production',
  },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code, signal) => process.exit(code ?? (signal === 'SIGINT' || signal === 'SIGTERM' ? 0 : 1)));
