import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { BACKUP_FOLDER, beginAnew, listBackups, restore } from './storage/backups';
import { DATABASE, lock } from './storage/folder';
import { StartProblem } from './storage/startProblem';

const data = resolve(process.env.RACKLE_DATA ?? '.data');
const [command, name] = process.argv.slice(2);

async function anew(): Promise<void> {
  const release = lock(data);
  try {
    const kept = await beginAnew(data, DATABASE, new Date());
    if (kept !== null) process.stdout.write(`The show as it was is kept: ${kept}\n`);
  } finally {
    release();
  }
}

/** `fresh`: begins with nothing, once the present show has been backed up. `list`: what can be brought back. `restore NAME`: brings it back, once the present show has been backed up. */
async function run(): Promise<void> {
  if (!existsSync(data)) throw new StartProblem(`there is no data folder ${data}`);
  if (command === 'list') {
    const backups = listBackups(join(data, BACKUP_FOLDER));
    if (backups.length === 0) process.stdout.write(`There is no backup in ${data} yet.\n`);
    for (const { name: file, madeAt, reason, bytes } of backups)
      process.stdout.write(`${file}  ${madeAt.toLocaleString()}  ${reason}  ${Math.ceil(bytes / 1000)} kB\n`);
    return;
  }
  if (command === 'fresh') return anew();
  if (command !== 'restore' || !name) throw new StartProblem('say which backup: npm run restore -- NAME');
  const release = lock(data);
  try {
    const kept = await restore(data, DATABASE, name, new Date());
    process.stdout.write(`${name} is back.${kept === null ? '' : ` What was there before is kept: ${kept}`}\n`);
  } finally {
    release();
  }
}

run().catch((cause: unknown) => {
  const line = cause instanceof Error ? cause.message : String(cause);
  process.stderr.write(`rackle: ${line}\n`);
  process.exit(2);
});
