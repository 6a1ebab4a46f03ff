// Checks the types of every workspace, two at a time.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const waiting = ['core', 'web', 'server', 'cli', 'e2e'];
let failed = false;

function next() {
  const workspace = waiting.shift();
  if (workspace === undefined) return Promise.resolve();
  return new Promise((resolve) => {
    spawn(process.execPath, [join(root, 'node_modules/typescript/bin/tsc'), '-p', join(root, workspace)], {
      stdio: 'inherit',
    }).on('close', (status) => {
      if (status !== 0) failed = true;
      resolve(next());
    });
  });
}

await Promise.all([next(), next()]);
process.exit(failed ? 1 : 0);
