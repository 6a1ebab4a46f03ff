// npm run backups: lists what can be brought back. npm run restore -- NAME: brings it back. With --demo: of the demo.
import { join, resolve } from 'node:path';
import { buildMissing, installMissing, root, run } from './prepare.mjs';

const words = process.argv.slice(2).filter((word) => word !== '--demo');
const demo = process.argv.includes('--demo');
const data = resolve(process.env.RACKLE_DATA ?? join(root, '.data', demo ? 'demo' : 'own'));
installMissing();
buildMissing();
process.exit(
  run(process.execPath, [join(root, 'server/dist/backupsCommand.js'), ...words], {
    env: { ...process.env, RACKLE_DATA: data },
  }),
);
