import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/** Tells one build from another: a page and a frame of two builds do not talk to each other. */
const BUILD = Date.now().toString(36);

export default defineConfig({
  define: { __RACKLE_BUILD__: JSON.stringify(BUILD) },
  plugins: [react(), tailwindcss()],
  server: {
    proxy: {
      '/api': { target: 'http://127.0.0.1:4460', changeOrigin: true, headers: { origin: 'http://127.0.0.1:4460' } },
    },
  },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 900,
    rolldownOptions: { input: ['index.html', 'host.html'] },
  },
});
