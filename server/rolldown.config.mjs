import { rm } from 'node:fs/promises';
import { defineConfig } from 'rolldown';

await rm(new URL('./dist', import.meta.url), { recursive: true, force: true });

// Core is bundled in; every other package stays outside.
const external = (id) =>
  !id.startsWith('.') &&
  !id.startsWith('/') &&
  !id.startsWith('@rackle/') &&
  !id.startsWith('@oxc-project/runtime') &&
  !id.startsWith('\0');

export default defineConfig({
  input: { main: 'src/main.ts', backupsCommand: 'src/backupsCommand.ts' },
  platform: 'node',
  tsconfig: './tsconfig.json',
  external,
  output: { dir: 'dist', format: 'esm', entryFileNames: '[name].js' },
});
