#!/usr/bin/env node
// Starts the command line; bundles it first when there is no bundle, or an older one than its sources.
import { readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const bundle = join(root, 'dist/rackle.js');

const newest = (folder) =>
  Math.max(
    0,
    ...readdirSync(folder, { withFileTypes: true, recursive: true })
      .filter((entry) => entry.isFile())
      .map((entry) => statSync(join(entry.parentPath ?? entry.path, entry.name)).mtimeMs),
  );
const builtMs = () => {
  try {
    return statSync(bundle).mtimeMs;
  } catch {
    return 0;
  }
};

if (
  builtMs() < Math.max(newest(join(root, 'src')), newest(join(root, '../core/src')), newest(join(root, '../demo/src')))
) {
  const { build } = await import('./build.mjs');
  await build();
}
// Whoever reads the output may stop reading.
process.stdout.on('error', (cause) => {
  if (cause.code === 'EPIPE') process.exit(0);
  else throw cause;
});
const { main } = await import(pathToFileURL(bundle).href);
process.exitCode = await main(process.argv.slice(2));
