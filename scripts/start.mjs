// npm start: Rackle with the player's own show. npm run demo: with the demo show, in a database of its own.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { buildMissing, installMissing, root, run } from './prepare.mjs';

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
const env = { ...process.env, RACKLE_DATA: data };
if (fresh && existsSync(data)) {
  const status = run(process.execPath, [join(root, 'server/dist/backupsCommand.js'), 'fresh'], { env });
  if (status !== 0) process.exit(status);
}

const server = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
  stdio: 'inherit',
  env: {
    ...env,
    RACKLE_SHOW: demo ? join(root, 'demo/tern-ledge.json') : '',
    NODE_ENV: 'production',
  },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code, signal) => process.exit(code ?? (signal === 'SIGINT' || signal === 'SIGTERM' ? 0 : 1)));
