// npm run dev: the server on 4460 (built anew when its sources change needs a restart), Vite with hot reload on 5173.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { buildMissing, installMissing, root } from './prepare.mjs';

installMissing();
buildMissing();
const children = [
  spawn(process.execPath, [join(root, 'server/dist/main.js')], {
    stdio: 'inherit',
    env: {
      ...process.env,
      PORT: '4460',
      RACKLE_DATA: join(root, '.data/dev'),
      RACKLE_SHOW: join(root, 'demo/tern-ledge.json'),
    },
  }),
  spawn('npx', ['vite', '--port', '5173', '--host', '127.0.0.1'], { stdio: 'inherit', cwd: join(root, 'web') }),
];
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((child) => child.kill(signal)));
