import { defineConfig } from '@playwright/test';
import behaviour from './playwright.config';

/** `npm run figures -- --browser`, `-- --safety`, `-- --sound` and `-- --trims`: what is measured, beside what is tested. */
export default defineConfig({
  ...behaviour,
  testDir: './figures',
  timeout: 900_000,
  reporter: [['list']],
  use: { ...behaviour.use, actionTimeout: 15_000 },
});
