// Bundles the command line, core included, into dist/rackle.js.
import { rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { rolldown } from 'rolldown';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

export async function build() {
  await rm(join(root, 'dist'), { recursive: true, force: true });
  const bundle = await rolldown({
    input: join(root, 'src/main.ts'),
    platform: 'node',
    external: [/^node:/],
    logLevel: 'warn',
  });
  await bundle.write({ file: join(root, 'dist/rackle.js'), format: 'esm', codeSplitting: false });
  await bundle.close();
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await build();
